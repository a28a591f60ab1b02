import fc from 'fast-check';
import { makeLadder } from '../ladders/make';
import { kindOf } from '../ladders/registry';
import { benchFor, good, told } from '../testing';
import { normal, seeded } from '../random';
import { crossingOf, GOOD, onSafeSide, together } from './clean';
import { findValue } from './find-value';
import { isotonic } from './isotonic';
import type { Score, Scores } from './types';

const bench = benchFor('wren');
const kind = good(kindOf('retraction'));
const { plan } = good(makeLadder('retraction', { from: 0, to: 2, step: 0.2 }, bench));
const values = plan.rungs.map(({ set }) => set.retraction!);
const found = (readings: Scores[]) => told(findValue(kind, plan, bench, { readings }));
const score = (value: number): Score => Math.max(0, Math.min(4, Math.round(value))) as Score;

test('isotonic regression never falls, keeps what rises, and keeps the mean', () => {
  expect(isotonic([1, 3, 2, 4], [1, 1, 1, 1])).toEqual([1, 2.5, 2.5, 4]);
  fc.assert(
    fc.property(fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: 1 }), (y) => {
      const fit = isotonic(
        y,
        y.map(() => 1),
      );
      for (let i = 1; i < fit.length; i++)
        expect(fit[i]!).toBeGreaterThanOrEqual(fit[i - 1]! - 1e-9);
      const sum = (list: number[]) => list.reduce((a, b) => a + b, 0);
      expect(sum(fit)).toBeCloseTo(sum(y), 6);
      const rising = [...y].sort((a, b) => a - b);
      expect(
        isotonic(
          rising,
          rising.map(() => 1),
        ),
      ).toEqual(rising);
    }),
    { seed: 7 },
  );
});

test('the place where scores become good lies between the last poor and the first good rung', () => {
  expect(crossingOf([0, 1, 2], [0, 0, 1])).toBeCloseTo(1 + GOOD, 9);
  expect(crossingOf([0, 1], [GOOD, 1])).toBe(-Infinity);
  expect(crossingOf([0, 1], [0, 0.1])).toBe(Infinity);
  expect(onSafeSide(0.81, 0.05, 1)).toBe(0.85);
  expect(onSafeSide(0.81, 0.05, -1)).toBe(0.8);
  expect(onSafeSide(0.8, 0.05, 1)).toBe(0.8);
});

test('the least that is clean is found on the clean side, with a range around the limit', () => {
  const random = seeded(3);
  const stringing = values.map((value) =>
    score(4 / (1 + Math.exp(-(value - 0.9) * 8)) + 0.2 * normal(random)),
  );
  const one = found([{ stringing }]);
  expect(one.verdict).toBe('value');
  expect(one.value).toBeGreaterThanOrEqual(0.85);
  expect(one.value).toBeLessThanOrEqual(1.3);
  expect(one.range![0]).toBeLessThanOrEqual(one.value!);
  expect(one.reason).toContain('threads or blobs');
});

test('all clean asks for less, none clean for more, and poor throughout is another cause', () => {
  const all = (value: Score): Scores => ({ stringing: values.map(() => value) });
  const clean = found([all(4)]);
  // Nothing lies below no retraction at all.
  expect(clean).toMatchObject({ verdict: 'value', value: 0 });
  const never = found([{ stringing: values.map((_, i) => (i < 8 ? 0 : 2)) }]);
  expect(never.verdict).toBe('edge');
  expect(never.next!.range.to).toBeGreaterThan(values.at(-1)!);
  const poor = found([all(1)]);
  expect(poor.verdict).toBe('no-effect');
  expect(poor.reason).toContain('wet filament');
});

test('a criterion that is poor everywhere alike does not hide the limit of another', () => {
  const stringing = values.map((value): Score => (value < 0.9 ? 1 : 4));
  const one = found([{ stringing, surface: values.map(() => 1) }]);
  expect(one.verdict).toBe('value');
  expect(one.notes[0]).toContain('surface');
});

test('what is fair all along does not set the limit by a lucky score', () => {
  const stringing = values.map((value): Score => (value < 0.9 ? 0 : 4));
  const alone = found([{ stringing }]);
  // Surface hovers about "good" and is best, by chance, on the last rungs.
  const surface = values.map(
    (_, i): Score => ([3, 2, 3, 2, 2, 3, 2, 3, 3, 2, 3] as const)[i % 11]!,
  );
  const both = found([{ stringing, surface }]);
  expect(both.verdict).toBe('value');
  expect(Math.abs(both.value! - alone.value!)).toBeLessThanOrEqual(0.1);
});

test('a criterion counts by its weight: what hardly matters moves the limit little', () => {
  const stringing = values.map((value): Score => (value < 0.5 ? 0 : 4));
  const seam = values.map((value): Score => (value < 1.5 ? 1 : 4));
  const at = (weight: number) =>
    told(
      findValue(kind, plan, bench, {
        readings: [{ stringing, seam }],
        weights: { stringing: 1, seam: weight },
      }),
    ).value!;
  expect(at(0.05)).toBeLessThan(0.8);
  expect(at(1)).toBeGreaterThan(0.8);
  expect(at(1)).toBeGreaterThanOrEqual(at(0.05));
});

test('what only gets worse toward more sets no limit there, and is told', () => {
  const stringing = values.map((value): Score => (value < 0.7 ? 1 : 4));
  const seam = values.map((_, i): Score => score(4 - (4 * i) / (values.length - 1)));
  const alone = found([{ stringing }]);
  const both = found([{ stringing, seam }]);
  expect(both.value).toBe(alone.value);
  expect(both.notes.join(' ')).toContain('seam only gets worse the more it is');
  const onlyWorse = found([{ seam, surface: values.map(() => 4) }]);
  expect(onlyWorse.value ?? values[0]).toBe(values[0]);
});

test('criteria together are their weighed mean', () => {
  expect(
    together([
      { weight: 1, y: [0, 0.5, 1] },
      { weight: 3, y: [1, 0.5, 0] },
    ]),
  ).toEqual([0.75, 0.5, 0.25]);
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 1, maxLength: 9 }),
      fc.double({ min: 0.1, max: 5, noNaN: true }),
      (y, weight) => {
        together([
          { weight, y },
          { weight: 2, y },
        ]).forEach((one, i) => expect(one).toBeCloseTo(y[i]!, 9));
      },
    ),
    { seed: 12 },
  );
});

test('a limit between two rungs that jump may lie anywhere between them', () => {
  const places = [0.1, 0.5, 0.9].map((chance) => crossingOf([0, 1], [0, 1], chance));
  expect(places).toEqual([0.1, 0.5, 0.9]);
  // The less it jumps, the more the straight line between the scores is believed.
  const gentle = [0.1, 0.9].map((chance) => crossingOf([0, 1], [0.6, 0.65], chance));
  expect(gentle[1]! - gentle[0]!).toBeLessThan(0.2);
});

test('a second reading of the same print narrows the range', () => {
  const stringing = values.map((value): Score => score(value * 4));
  const single = found([{ stringing }]);
  const pooled = found([{ stringing }, { stringing }, { stringing }]);
  const wide = ({ range }: typeof single) => range![1] - range![0];
  expect(wide(pooled)).toBeLessThanOrEqual(wide(single));
});

test('fewer than three scored rungs are too few', () => {
  const few = findValue(kind, plan, bench, { readings: [{ stringing: [0, 4] }] });
  expect(few.ok ? '' : few.problems[0]!.what).toContain('at least 3');
});

test('the surer a kind wants to be, the further on the clean side lies what it proposes', () => {
  const random = seeded(5);
  const stringing = values.map((value) =>
    score(4 / (1 + Math.exp(-(value - 0.9) * 5)) + 0.6 * normal(random)),
  );
  const at = (sure: number) =>
    told(
      findValue({ ...kind, rule: { kind: 'clean', end: 'least', sure } }, plan, bench, {
        readings: [{ stringing }],
      }),
    ).value!;
  const proposed = [0.3, 0.5, 0.7, 0.9].map(at);
  expect(proposed).toEqual([...proposed].sort((a, b) => a - b));
  expect(proposed[3]!).toBeGreaterThan(proposed[0]!);
});
