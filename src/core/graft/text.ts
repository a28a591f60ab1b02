/** The text of a made file: what is put in, lifted out and rewritten, between runs of untouched bytes. */

import type { Lines } from '../gcode/lines';
import { LIFTED_MARK } from './recipe';
import type { Rewritten } from './rewrite';
import { plainBytes } from './ungraft';

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
  const parts: Uint8Array[] = [];
  const [inserted, lifted, rewrittenLines]: [number[], number[], number[]] = [[], [], []];
  const was: string[] = [];
  const touched = [
    ...new Set([...edits.before.keys(), ...edits.lifted, ...(moved?.edits.keys() ?? [])]),
  ].sort((a, b) => a - b);
  const eol = endOfLine(bytes);
  const added: [number, number][] = [];
  let from = 0;
  let extra = 0;
  const missing = bytes.length > 0 && bytes.at(-1) !== 10 ? eol : '';
  const insert = (texts: readonly string[], line: number) => {
    for (const text of texts) {
      parts.push(encoder.encode(text + eol));
      inserted.push(line + extra);
      extra++;
    }
    added.push([line, extra]);
  };
  for (const line of touched) {
    if (line > lines.count) continue;
    const [start, end] = lines.span(line);
    if (start > from) parts.push(bytes.subarray(from, start));
    insert(edits.before.get(line) ?? [], line);
    const edit = moved?.edits.get(line);
    if (edits.lifted.has(line)) {
      parts.push(encoder.encode(LIFTED_MARK), bytes.subarray(start, end));
      lifted.push(line + extra);
    } else if (edit) {
      const ending = bytes.subarray(lines.textEnd(line), end);
      parts.push(plainBytes(edit.text), ending);
      rewrittenLines.push(line + extra);
      was.push(edit.was);
    } else parts.push(bytes.subarray(start, end));
    from = end;
  }
  if (from < bytes.length) parts.push(bytes.subarray(from));
  if (missing) parts.push(encoder.encode(missing));
  for (const line of touched)
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
      const all = [...parts, encoder.encode(texts.map((text) => text + eol).join(''))];
      const whole = new Uint8Array(all.reduce((sum, part) => sum + part.length, 0));
      let at = 0;
      for (const part of all) {
        whole.set(part, at);
        at += part.length;
      }
      return whole;
    },
  };
}

/** As the first line of the file ends. */
function endOfLine(bytes: Uint8Array): '\n' | '\r\n' {
  const at = bytes.indexOf(10);
  return at > 0 && bytes[at - 1] === 13 ? '\r\n' : '\n';
}
