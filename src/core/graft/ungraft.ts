/** Takes a ladder out of a sliced file again: the original, byte for byte. */

import { Lines } from '../gcode/lines';
import { fail, ok, problem, type Result } from '../result';
import { LIFTED_MARK, parseRecipe, RECIPE_MARK, WAS_MARK, type Recipe } from './recipe';
import { restored } from './rewrite';
import { crc32, fromRuns } from './runs';

export type Taken = { bytes: Uint8Array<ArrayBuffer>; recipe: Recipe };

/** The recipe that a file carries; null for a file that was not made of a sliced one. */
export function recipeIn(lines: Lines): Result<Recipe> | null {
  const texts: string[] = [];
  lines.comments((_, line) => {
    const text = lines.raw(line);
    if (text.startsWith(RECIPE_MARK)) texts.push(text.slice(RECIPE_MARK.length));
  });
  return texts.length === 0 ? null : parseRecipe(texts.join(''));
}

/** @returns problems for a file that was not made so, or that was changed since */
export function ungraft(bytes: Uint8Array, known?: Lines): Result<Taken> {
  const lines = known ?? new Lines(bytes);
  const found = recipeIn(lines);
  if (!found)
    return fail(
      problem(
        'file',
        'This file was not made of a sliced one: it carries no recipe.',
        'Choose a file that Ash Ladder made of one of yours.',
      ),
    );
  if (!found.ok) return found;
  const recipe = found.value;
  const { original, tail } = recipe;
  if (tail < 1 || tail > lines.count + 1) return changed('Lines of it are missing.');
  const inserted = new Set(fromRuns(recipe.inserted, lines.count));
  const lifted = new Set(fromRuns(recipe.lifted, lines.count));
  const rewritten = new Set(fromRuns(recipe.rewritten, lines.count));
  const was = wasIn(lines, tail);
  const parts: Uint8Array[] = [];
  const touched = [...new Set([...inserted, ...lifted, ...rewritten])].sort((a, b) => a - b);
  let from = 0;
  let next = 0;
  const end = tail > lines.count ? bytes.length : lines.span(tail)[0];
  for (const line of touched) {
    if (line >= tail) break;
    const [start, stop] = lines.span(line);
    if (start > from) parts.push(bytes.subarray(from, start));
    from = stop;
    if (inserted.has(line)) continue;
    if (lifted.has(line)) {
      const mark = lines.raw(line).slice(0, LIFTED_MARK.length);
      if (mark !== LIFTED_MARK)
        return changed(`Line ${line} was lifted out and is no comment any more.`);
      parts.push(bytes.subarray(start + LIFTED_MARK.length, stop));
      continue;
    }
    const old = was[next++];
    if (old === undefined) return changed('Numbers as they were are missing at its end.');
    parts.push(
      plainBytes(restored(lines.raw(line), old)),
      bytes.subarray(lines.textEnd(line), stop),
    );
  }
  if (from < end) parts.push(bytes.subarray(from, end));
  let whole = joined(parts);
  if (!original.ended) {
    const cut = whole.at(-1) === 10 ? (whole.at(-2) === 13 && endsLong(bytes) ? 2 : 1) : 0;
    whole = whole.subarray(0, whole.length - cut);
  }
  if (whole.length !== original.bytes || crc32(whole) !== original.crc32)
    return changed(
      'What is left when the ladder is taken out is not the file that it was made of.',
    );
  return ok({ bytes: whole, recipe });
}

const changed = (what: string) =>
  fail(
    problem(
      'file',
      `${what} Something changed it since it was made.`,
      'Get the file again, or take the original, which is kept with its bench.',
    ),
  );

/** Whether lines of a file end with two signs. */
const endsLong = (bytes: Uint8Array): boolean => {
  const at = bytes.indexOf(10);
  return at > 0 && bytes[at - 1] === 13;
};

function wasIn(lines: Lines, tail: number): string[] {
  const texts: string[] = [];
  for (let n = tail; n <= lines.count; n++) {
    const text = lines.raw(n);
    if (!text.startsWith(WAS_MARK)) break;
    texts.push(text.slice(WAS_MARK.length));
  }
  return texts.length === 0 ? [] : texts.join(' ').split(' ');
}

function joined(parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

/** A line of which every sign is a byte. */
function plainBytes(text: string): Uint8Array {
  const bytes = new Uint8Array(text.length);
  for (let i = 0; i < text.length; i++) bytes[i] = text.charCodeAt(i);
  return bytes;
}
