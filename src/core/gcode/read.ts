/**
 * Reader: text of any G-code file → {@link Trace}.
 *
 * Works on bytes and in pieces, so that a file of 100 MB never stands in memory as strings. Moves, nine lines
 * in ten of any real file, take a quick path that makes no string; everything else goes through
 * `parseCommand`. Both paths give the same trace (read.test.ts holds one against the other).
 */

import { parseCommand } from '../dialect/command';
import { Interpreter, LARGEST_NUMBER, type ReadFor } from './interpreter';
import { PLAN_MARK } from './plan-lines';
import type { Trace } from './trace';

/** Longest line that is read, bytes; a longer one is reported and passed over. */
export const LONGEST_LINE = 65_536;

const LF = 10;
const [SPACE, PERIOD, MINUS, PLUS, SEMICOLON] = [32, 46, 45, 43, 59];
const decoder = new TextDecoder();

/** Powers of ten by which a run of decimals is divided; the quotient is exact to the last bit. */
const TENS = Array.from({ length: 16 }, (_, n) => 10 ** n);

export class Reader {
  private readonly interpreter: Interpreter;
  private tail: Uint8Array | null = null;
  private bytes = 0;
  private planPieces: string[] = [];
  /** Parameters of the move being read: X Y Z E F. */
  private readonly values = new Float64Array(5);

  /** @param plain takes the plain path for every line; for tests */
  constructor(
    machine: ReadFor | null = null,
    private readonly plain = false,
  ) {
    this.interpreter = new Interpreter(machine);
  }

  /** Reads the next piece of a file; pieces may end anywhere. */
  push(piece: Uint8Array): void {
    this.bytes += piece.length;
    let data = piece;
    if (this.tail) {
      data = new Uint8Array(this.tail.length + piece.length);
      data.set(this.tail);
      data.set(piece, this.tail.length);
      this.tail = null;
    }
    let start = 0;
    for (;;) {
      const end = data.indexOf(LF, start);
      if (end === -1) break;
      this.readLine(data, start, end);
      start = end + 1;
    }
    if (start < data.length) {
      // An endless line must not be copied again and again: past the limit only its size is kept.
      const from = data.length - start > LONGEST_LINE + 1 ? data.length - LONGEST_LINE - 1 : start;
      this.tail = data.slice(from);
    }
  }

  /** Reads what is left and hands the trace over. */
  end(): Trace {
    if (this.tail) this.readLine(this.tail, 0, this.tail.length);
    this.tail = null;
    const plan = this.planPieces.length > 0 ? this.planPieces.join('') : null;
    return this.interpreter.trace.done(this.interpreter.line, this.bytes, plan);
  }

  private readLine(data: Uint8Array, start: number, end: number): void {
    this.interpreter.line++;
    if (end - start > LONGEST_LINE) {
      this.interpreter.trace.addProblem(
        this.interpreter.line,
        `This line has over ${LONGEST_LINE} characters and was skipped.`,
        'Check whether the file is G-code at all.',
      );
      return;
    }
    const first = data[start]!;
    if (first === SEMICOLON) return this.comment(data, start, end);
    if ((first === 71 || first === 103) && !this.plain && this.quickMove(data, start, end)) return;
    this.plainLine(data, start, end);
  }

  private comment(data: Uint8Array, start: number, end: number): void {
    if (data[start + 1] !== PLAN_MARK.charCodeAt(1)) return;
    const text = decoder.decode(data.subarray(start, end)).replace(/\r$/, '');
    if (text.startsWith(PLAN_MARK)) this.planPieces.push(text.slice(PLAN_MARK.length));
  }

  private plainLine(data: Uint8Array, start: number, end: number): void {
    const text = decoder.decode(data.subarray(start, end));
    const sum = /\*\s*(\d+)\s*$/.exec(text.replace(/;.*$/s, ''));
    if (sum && Number(sum[1]) !== checksum(text.slice(0, sum.index))) {
      this.interpreter.trace.addProblem(
        this.interpreter.line,
        `The checksum ${sum[1]} does not match this line.`,
        'The line is damaged; get the file again from where it came.',
      );
    }
    const command = parseCommand(text);
    if (command) this.interpreter.run(command);
  }

  /**
   * G0 and G1 with plain decimal parameters. @returns false for anything else, with nothing done yet
   *
   * Written as one loop over bytes: with a string and a regular expression per line the same file took
   * 11 times as long (npm run bench, reading).
   */
  private quickMove(data: Uint8Array, start: number, end: number): boolean {
    let i = start + 1;
    const digit = data[i]!;
    if (digit !== 48 && digit !== 49) return false;
    const after = data[++i]!;
    if (after >= 48 && after <= 57) return false;
    const values = this.values;
    values.fill(NaN);
    while (i < end) {
      const byte = data[i]!;
      if (byte === SPACE || byte === 9 || byte === 13) {
        i++;
        continue;
      }
      if (byte === SEMICOLON) break;
      let slot: number;
      switch (byte & 0xdf) {
        case 88:
          slot = 0;
          break; // X
        case 89:
          slot = 1;
          break; // Y
        case 90:
          slot = 2;
          break; // Z
        case 69:
          slot = 3;
          break; // E
        case 70:
          slot = 4;
          break; // F
        default:
          return false;
      }
      let sign = 1;
      let c = data[++i]!;
      if (c === MINUS || c === PLUS) {
        if (c === MINUS) sign = -1;
        c = data[++i]!;
      }
      let digits = 0;
      let mantissa = 0;
      let decimals = -1;
      for (; i < end; c = data[++i]!) {
        if (c >= 48 && c <= 57) {
          mantissa = mantissa * 10 + (c - 48);
          digits++;
          if (decimals >= 0) decimals++;
        } else if (c === PERIOD && decimals < 0) decimals = 0;
        else break;
      }
      // More than 15 digits are no longer exact in this sum: the plain path reads them.
      if (digits === 0 || digits > 15) return false;
      const value = decimals > 0 ? mantissa / TENS[decimals]! : mantissa;
      if (value > LARGEST_NUMBER) return false;
      values[slot] = sign * value;
    }
    this.interpreter.move(values[0]!, values[1]!, values[2]!, values[3]!, values[4]!);
    return true;
  }
}

/** XOR of the bytes before `*`. */
export function checksum(text: string): number {
  let sum = 0;
  for (let i = 0; i < text.length; i++) sum ^= text.charCodeAt(i) & 0xff;
  return sum;
}

/** Reads a whole text at once. */
export function readText(text: string, machine: ReadFor | null = null): Trace {
  return readBytes(new TextEncoder().encode(text), machine);
}

export function readBytes(bytes: Uint8Array, machine: ReadFor | null = null): Trace {
  const reader = new Reader(machine);
  reader.push(bytes);
  return reader.end();
}
