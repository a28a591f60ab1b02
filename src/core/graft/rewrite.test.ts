import fc from 'fast-check';
import { Lines } from '../gcode/lines';
import { readBytes } from '../gcode/read';
import { restored, rewriteMoves, tokenOf } from './rewrite';
import type { Values } from '../bench/settings';

const bytesOf = (text: string) => new TextEncoder().encode(text);

/** Rewrites everything above the bed with one set of values. */
function rewritten(text: string, set: Values, pace = 1) {
  const bytes = bytesOf(text);
  const lines = new Lines(bytes);
  const result = rewriteMoves(readBytes(bytes), lines, {
    sectionOf: (z) => (z > 0 ? 0 : -1),
    values: [set],
    paceOf: () => pace,
    liftSpeed: 10,
    firmware: 'AB',
  });
  if (!result.ok) return result;
  const { lines: at, texts, was, before } = result.value;
  const now = Array.from({ length: lines.count }, (_, i) => lines.raw(i + 1));
  at.forEach((line, i) => {
    expect(restored(texts[i]!, was[i]!)).toBe(now[line - 1]);
    now[line - 1] = texts[i]!;
  });
  return now.flatMap((line, i) => [...(before.get(i + 1) ?? []), line]);
}

test('numbers are found wherever they stand, and never in a comment', () => {
  expect(tokenOf('G1 X1 E-.5 F1200', 'E')!.text).toBe('-.5');
  expect(tokenOf('g1x1e2.f90', 'E')!.text).toBe('2.');
  expect(tokenOf('G1 X1 E 0.3', 'E')!.text).toBe('0.3');
  expect(tokenOf('G1 X1 ; E5', 'E')).toBeNull();
  expect(tokenOf('G1 X1 (E5)', 'E')).toBeNull();
});

const START = 'G28\nM83\nG1 Z0.2 F600\n';

test('of strokes what is fed changes, with the decimals of the file, and what rounding leaves is carried on', () => {
  const strokes = Array.from({ length: 10 }, (_, i) => `G1 X${i + 1} E0.011`).join('\n');
  const now = rewritten(`${START}${strokes}\n`, { flow: 1.05 }) as string[];
  const fed = now.slice(3).map((line) => Number(tokenOf(line, 'E')!.text));
  for (const line of now.slice(3)) expect(line).toMatch(/E0\.01[12]$/);
  expect(Math.abs(fed.reduce((a, b) => a + b, 0) - 0.1155)).toBeLessThan(0.001);
});

test('a speed is said again only where another one is in force', () => {
  const now = rewritten(`${START}G1 X9 E0.3 F1200\nG1 X1 E0.3\nG0 X5\nG1 X9 E0.3 ; back\n`, {
    pace: 1.5,
  });
  expect((now as string[]).slice(3)).toEqual([
    'G1 X9 E0.3 F1800',
    'G1 X1 E0.3',
    'G0 X5 F1200',
    'G1 X9 E0.3 F1800 ; back',
  ]);
});

test('retraction, extra restart and their speeds are rewritten together, wiped or not', () => {
  const now = rewritten(
    `${START}G1 X9 E0.3 F1200\nG1 E-0.6 F2400\nG1 X8 E-0.2 F3000\nG0 X1\nG1 E0.8 F2400\nG1 X5 E0.3 F1200\n`,
    { retraction: 1.6, restartExtra: 0.1, retractSpeed: 20, restartSpeed: 10 },
  );
  expect((now as string[]).slice(4, 8)).toEqual([
    'G1 E-1.2 F1200',
    'G1 X8 E-0.4 F3000',
    'G0 X1',
    'G1 E1.7 F600',
  ]);
});

test('a lift that is put in goes up behind the retraction and comes down before the restart, at a speed of its own', () => {
  const now = rewritten(
    `${START}G1 X9 E0.3 F1200\nG1 E-1 F2400\nG0 X1\nG1 E1\nG1 X5 E0.3 F1200\n`,
    { lift: 0.4 },
  );
  expect((now as string[]).slice(4)).toEqual([
    'G1 E-1 F2400',
    'G1 Z0.6 F600',
    'G0 X1 F2400',
    'G1 Z0.2 F600',
    'G1 E1 F2400',
    'G1 X5 E0.3 F1200',
  ]);
});

test('where E is a place, it is set right again before a line that stays', () => {
  const now = rewritten(
    'G28\nM82\nG1 Z0.2 F600\nG1 X9 E1\nG1 X1 E2\nG92 E0\nG1 X9 E1\nG1 E0.5\nM84\n',
    { flow: 1.1 },
  );
  expect((now as string[]).slice(3)).toEqual([
    'G1 X9 E1.1',
    'G1 X1 E2.2',
    'G92 E0',
    'G1 X9 E1.1',
    'G92 E1',
    'G1 E0.5',
    'M84',
  ]);
});

test('inches, and steps under a lift, are refused with their line', () => {
  const inches = rewritten('G20\nG28\nG1 X1 E1\n', { flow: 1.1 });
  expect(inches).toMatchObject({ ok: false, problems: [{ where: 'line 1' }] });
  const steps = rewritten(
    `${START}G1 X9 E0.3\nG91\nG1 E-1 F2400\nG0 X1\nG1 E1\nG90\nG1 X5 E0.3\n`,
    { lift: 0.4 },
  );
  expect(steps).toMatchObject({ ok: false });
});

test('whatever stands in a line, it is restored to the sign', () => {
  const number = fc
    .tuple(fc.integer({ min: -999, max: 999 }), fc.integer({ min: 0, max: 5 }))
    .map(([n, decimals]) => (n / 100).toFixed(decimals));
  const line = fc
    .tuple(
      fc.constantFrom('G1', 'g1', 'G01', ' G1'),
      number,
      number,
      fc.constantFrom('', ' ; ü E5', ' (F9)', '  '),
    )
    .map(([word, x, e, rest]) => `${word} X${x} E${e.replace('-', '')}${rest}`);
  fc.assert(
    fc.property(fc.array(line, { minLength: 1, maxLength: 20 }), (moves) => {
      // `rewritten` holds every line against what it was.
      expect(rewritten(`${START}${moves.join('\n')}\n`, { flow: 0.93, pace: 1.3 })).toBeTruthy();
    }),
    { seed: 4, numRuns: 80 },
  );
});

test('a lane of speeds alone is no stroke', () => {
  expect(rewritten(`${START}G1 F900\nG1 X3 E0.1\n`, { pace: 2 })).toEqual([
    ...START.trim().split('\n'),
    'G1 F900',
    'G1 X3 E0.1 F1800',
  ]);
});
