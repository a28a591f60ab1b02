/** The lines of a file as they stand, found by number and by what is in them; the text itself stays bytes. */

const LF = 10;
const CR = 13;
const SEMICOLON = 59;
const decoder = new TextDecoder();

/** A line longer than this is shown cut: thumbnails in comments run to tens of thousands of characters. */
export const LONGEST_SHOWN = 400;

export class Lines {
  /** Byte at which each line starts, and one more entry past the end. */
  private readonly starts: Uint32Array;
  readonly count: number;

  /** @param bytes a whole file, below 4 GB */
  constructor(private readonly bytes: Uint8Array) {
    let count = 1;
    for (let at = bytes.indexOf(LF); at !== -1; at = bytes.indexOf(LF, at + 1)) count++;
    this.starts = new Uint32Array(count + 1);
    let line = 1;
    for (let at = bytes.indexOf(LF); at !== -1; at = bytes.indexOf(LF, at + 1))
      this.starts[line++] = at + 1;
    this.starts[count] = bytes.length + 1;
    // A last line end closes its line; it does not begin another.
    this.count = this.starts[count - 1] === bytes.length && count > 1 ? count - 1 : count;
    if (bytes.length === 0) this.count = 0;
  }

  /** Text of a line, from 1, cut to {@link LONGEST_SHOWN} unless `whole`; empty past the ends. */
  line(number: number, whole = false): string {
    if (!(number >= 1 && number <= this.count)) return '';
    const from = this.starts[number - 1]!;
    let to = Math.min(this.bytes.length, this.starts[number]! - 1);
    if (to > from && this.bytes[to - 1] === CR) to--;
    const cut = !whole && to - from > LONGEST_SHOWN;
    const text = decoder.decode(this.bytes.subarray(from, cut ? from + LONGEST_SHOWN : to));
    return cut ? `${text}…` : text;
  }

  /** Bytes of a line, from 1, its line end included: from the first to past the last. */
  span(number: number): [from: number, to: number] {
    return [this.starts[number - 1]!, Math.min(this.bytes.length, this.starts[number]!)];
  }

  /** Byte at which the text of a line ends, before its line end. */
  textEnd(number: number): number {
    const to = Math.min(this.bytes.length, this.starts[number]! - 1);
    return to > this.starts[number - 1]! && this.bytes[to - 1] === CR ? to - 1 : to;
  }

  /** Text of a line with one sign for each of its bytes, whatever they mean: what is written back is the same. */
  raw(number: number): string {
    const from = this.starts[number - 1]!;
    const end = this.textEnd(number);
    let plain = true;
    for (let at = from; at < end; at++) if (this.bytes[at]! > 127) plain = false;
    if (plain) return decoder.decode(this.bytes.subarray(from, end));
    let text = '';
    for (let at = from; at < end; at++) text += String.fromCharCode(this.bytes[at]!);
    return text;
  }

  /** Visits lines that are comments as a whole. */
  comments(visit: (text: string, number: number) => void): void {
    for (let number = 1; number <= this.count; number++)
      if (this.bytes[this.starts[number - 1]!] === SEMICOLON) visit(this.line(number), number);
  }

  /** Lines `from` to `from + count − 1`, fewer at the end. */
  some(from: number, count: number): string[] {
    const last = Math.min(this.count, from + count - 1);
    return Array.from({ length: Math.max(0, last - from + 1) }, (_, i) => this.line(from + i));
  }

  /** Calls back for every line that is no plain move (G0 to G3), with its number. */
  others(visit: (text: string, number: number) => void): void {
    const { bytes, starts } = this;
    for (let number = 1; number <= this.count; number++) {
      const at = starts[number - 1]!;
      const [first, digit, after] = [bytes[at]! & 0xdf, bytes[at + 1]!, bytes[at + 2]!];
      const move = first === 71 && digit >= 48 && digit <= 51 && !(after >= 48 && after <= 57);
      if (!move) visit(this.line(number), number);
    }
  }

  /**
   * The nearest line after (or before) `from` that holds `text`, letters of either case alike. Goes round at the
   * end, so that the line itself is the last to be looked at.
   *
   * @returns its number, or null when no line holds it
   */
  find(text: string, from: number, backward = false): number | null {
    const wanted = new TextEncoder().encode(text.toLowerCase());
    if (wanted.length === 0) return null;
    const step = backward ? -1 : 1;
    for (let k = 1; k <= this.count; k++) {
      const number = ((((from - 1 + k * step) % this.count) + this.count) % this.count) + 1;
      if (this.holds(number, wanted)) return number;
    }
    return null;
  }

  /** Whether a line holds these lower-case bytes; compared in place, without a string a line. */
  private holds(number: number, wanted: Uint8Array): boolean {
    const { bytes } = this;
    const last = Math.min(bytes.length, this.starts[number]! - 1) - wanted.length;
    for (let at = this.starts[number - 1]!; at <= last; at++) {
      let k = 0;
      while (k < wanted.length && lower(bytes[at + k]!) === wanted[k]) k++;
      if (k === wanted.length) return true;
    }
    return false;
  }
}

const lower = (byte: number): number => (byte >= 65 && byte <= 90 ? byte + 32 : byte);
