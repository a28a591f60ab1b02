import { Lines } from '../gcode/lines';
import { readBytes } from '../gcode/read';
import { benchFor, good } from '../testing';
import { graft } from './graft';
import { proveGraft } from './prove';
import { RECIPE_MARK, Wish } from './recipe';
import { sourceOf } from './source';
import { rectangle, slice } from './testing/slicer';
import { recipeIn, ungraft } from './ungraft';

const heron = benchFor('heron');
const bytesOf = (text: string) => new TextEncoder().encode(text);
const textOf = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
const box = { height: 6, at: () => [rectangle(0, 0, 20, 15)] };

function made(eol: '\n' | '\r\n' = '\n', ended = true) {
  const text = slice(box, { infill: 0, eol, absolute: true });
  const bytes = bytesOf(ended ? text : text.trimEnd());
  const source = sourceOf('box.gcode', bytes, readBytes(bytes, heron.machine));
  const wish = Wish.parse({
    rows: [1, 3].map((from, i) => ({ from, set: { flow: 0.9 + 0.1 * i } })),
    ways: { flow: 'moves' },
  });
  return { ...good(graft(source, wish, heron)), original: bytes };
}

test.each([
  ['\n', true],
  ['\n', false],
  ['\r\n', true],
  ['\r\n', false],
] as const)('line ends %j, the last one there: %s, come back as they were', (eol, ended) => {
  const { bytes, original } = made(eol, ended);
  const file = made(eol, ended);
  expect(textOf(good(ungraft(file.bytes)).bytes)).toBe(
    slice(box, { infill: 0, eol, absolute: true }).slice(0, ended ? undefined : -eol.length),
  );
  expect(bytes.length).toBeGreaterThan(original.length - 1);
});

test('an empty file, and one of somebody else, carry no recipe', () => {
  for (const text of ['', 'G28\nG1 X5\n', `; ${RECIPE_MARK}{}\n`]) {
    expect(recipeIn(new Lines(bytesOf(text)))).toBeNull();
    const taken = ungraft(bytesOf(text));
    expect(taken).toMatchObject({ ok: false, problems: [{ where: 'file' }] });
  }
  expect(proveGraft(bytesOf(''), null)).toEqual([]);
});

test('a recipe that is cut, damaged, or speaks of other lines is refused with words', () => {
  const { bytes } = made();
  const text = textOf(bytes);
  const lines = text.split('\n');
  const at = lines.findIndex((line) => line.startsWith(RECIPE_MARK));
  const without = (from: number, to: number) =>
    [...lines.slice(0, from), ...lines.slice(to)].join('\n');
  const changed = [
    without(at + 1, at + 2),
    text.replace('"version":1', '"version":9'),
    text.replace('"ash-ladder/recipe"', '"ash-ladder/recite"'),
    without(40, 41),
    text.replace(/^;@was .*$/m, ';@was 1'),
    text.replace(/"tail":\d+/, '"tail":99999999'),
  ];
  for (const one of changed) {
    expect(one).not.toBe(text);
    const taken = ungraft(bytesOf(one));
    expect(taken.ok).toBe(false);
    if (!taken.ok) expect(taken.problems[0]!.mend).not.toBe('');
  }
});

test('a file of an older program is held against its sum alone', () => {
  const { bytes, plan } = made();
  const older = bytesOf(textOf(bytes).replace(/("program":")[^"]+("[^]*?"wish")/, '$10.0.1$2'));
  expect(textOf(older)).not.toBe(textOf(bytes));
  expect(proveGraft(older, plan)).toEqual([]);
  // A line that belongs to the original is missed even so.
  const spoilt = bytesOf(textOf(older).replace('G28', 'G29'));
  expect(proveGraft(spoilt, plan)).toMatchObject([{ code: 'graft-changed', grade: 'stop' }]);
});
