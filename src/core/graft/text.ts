/** The text of a made file: what is put in, lifted out and rewritten, between runs of untouched bytes. */

import type { Lines } from '../gcode/lines';
import { LIFTED_MARK } from './recipe';
import type { Rewritten } from './rewrite';

/** Lines of the file by what is done to them. */
export class Edits {
  readonly before = new Map<number, string[]>();
  readonly lifted = new Set<number>();

  put(line: number, ...texts: string[]): void {
    if (texts.length > 0) this.before.set(line, [...(this.before.get(line) ?? []), ...texts]);
  }
}

const PIECE = 80;
/** Cut at spaces, so that no number is cut in two. */
export function pieces(mark: string, text: string): string[] {
  const lines: string[] = [];
  for (let at = 0; at < text.length;) {
    let end = Math.min(text.length, at + PIECE);
    while (end < text.length && text[end] !== ' ') end++;
    lines.push(mark + text.slice(at, end));
    at = end + 1;
  }
  return lines;
}

/** Puts the text together: runs of untouched lines are copied as bytes. */
export function written(
  { bytes, lines }: { bytes: Uint8Array; lines: Lines },
  edits: Edits,
  moved: Rewritten | null,
) {
  const encoder = new TextEncoder();
  const out = new Out(bytes.length);
  const [inserted, lifted, rewrittenLines]: [number[], number[], number[]] = [[], [], []];
  const was: string[] = [];
  const others = [...new Set([...edits.before.keys(), ...edits.lifted])].sort((a, b) => a - b);
  const eol = endOfLine(bytes);
  const added: [number, number][] = [];
  let from = 0;
  let extra = 0;
  const missing = bytes.length > 0 && bytes.at(-1) !== 10 ? eol : '';
  const insert = (texts: readonly string[], line: number) => {
    for (const text of texts) {
      out.put(encoder.encode(text + eol));
      inserted.push(line + extra);
      extra++;
    }
    added.push([line, extra]);
  };
  const changed = moved?.lines ?? [];
  for (let i = 0, k = 0; i < others.length || k < changed.length;) {
    const line = Math.min(others[i] ?? Infinity, changed[k] ?? Infinity);
    if (line > lines.count) break;
    const [start, end] = lines.span(line);
    if (start > from) out.put(bytes.subarray(from, start));
    if (others[i] === line) {
      insert(edits.before.get(line) ?? [], line);
      i++;
    }
    const edit = changed[k] === line ? k++ : -1;
    if (edits.lifted.has(line)) {
      out.plain(LIFTED_MARK);
      out.put(bytes.subarray(start, end));
      lifted.push(line + extra);
    } else if (edit !== -1) {
      out.plain(moved!.texts[edit]!);
      out.put(bytes.subarray(lines.textEnd(line), end));
      rewrittenLines.push(line + extra);
      was.push(moved!.was[edit]!);
    } else out.put(bytes.subarray(start, end));
    from = end;
  }
  if (from < bytes.length) out.put(bytes.subarray(from));
  out.plain(missing);
  for (const line of others)
    if (line > lines.count) insert(edits.before.get(line)!, lines.count + 1);
  const tail = lines.count + extra + 1;
  return {
    inserted,
    lifted,
    rewritten: rewrittenLines,
    was,
    tail,
    /** Line in the made file of what is put in before a line of the original. */
    lineOf: (line: number): number => {
      let before = 0;
      for (const [at, sum] of added) if (at < line) before = sum;
      return line + before;
    },
    finish: (texts: readonly string[]): Uint8Array<ArrayBuffer> => {
      for (const text of texts) out.put(encoder.encode(text + eol));
      return out.done();
    },
  };
}

/** Bytes that are written one after the other; grows by half when full. */
class Out {
  private bytes: Uint8Array<ArrayBuffer>;
  private length = 0;

  constructor(about: number) {
    this.bytes = new Uint8Array(Math.ceil(1.1 * about) + 4096);
  }

  private room(more: number): void {
    if (this.length + more <= this.bytes.length) return;
    const larger = new Uint8Array(Math.ceil(1.5 * (this.length + more)));
    larger.set(this.bytes.subarray(0, this.length));
    this.bytes = larger;
  }

  put(piece: Uint8Array): void {
    this.room(piece.length);
    this.bytes.set(piece, this.length);
    this.length += piece.length;
  }

  /** A text of which every sign is a byte. */
  plain(text: string): void {
    this.room(text.length);
    for (let i = 0; i < text.length; i++) this.bytes[this.length + i] = text.charCodeAt(i);
    this.length += text.length;
  }

  done(): Uint8Array<ArrayBuffer> {
    return this.bytes.subarray(0, this.length);
  }
}

/** As the first line of the file ends. */
function endOfLine(bytes: Uint8Array): '\n' | '\r\n' {
  const at = bytes.indexOf(10);
  return at > 0 && bytes[at - 1] === 13 ? '\r\n' : '\n';
}
