import type { Scores } from '../reading/types';
import type { MeasureTold } from './kept';
import { canCount, countable, countsUsually, scoresOf } from './scoring';

/** Threads of eight rungs, each covering so much of the ground. */
const threads = (covers: readonly (number | null)[]): MeasureTold[] =>
  covers.map((cover, rung) => ({
    name: 'threads',
    rung,
    value: cover === null ? null : 100 * cover,
    spread: cover === null ? null : 1,
    unit: 'threads',
    told: cover !== null,
    ...(cover === null ? {} : { also: { cover } }),
  }));
const COVERS = [0.02, 0.05, 0.1, 0.15, 0.22, 0.3, 0.45, 0.6];
const scored = (covers: readonly (number | null)[], eyes: readonly Scores[] = []) =>
  scoresOf(threads(covers), covers.length, ['stringing'], eyes)!;

test('more threads are scored lower, from clean to failed', () => {
  const { stringing } = scored(COVERS).scores;
  stringing!.slice(1).forEach((score, i) => expect(score!).toBeLessThan(stringing![i]!));
  expect(stringing![0]!).toBeGreaterThan(3.8);
  expect(stringing!.at(-1)!).toBeLessThan(0.4);
});

test('what could not be told has no score', () => {
  const { scores, noise } = scored([null, 0.1, null, 0.3, 0.4, 0.5, 0.6, 0.7]);
  expect(scores.stringing!.map((one) => one === null)).toEqual([
    true,
    false,
    true,
    false,
    false,
    false,
    false,
    false,
  ]);
  expect(noise.stringing![0]).toBeNull();
  expect(scoresOf(threads([null, null, null]), 3, ['stringing'], [])).toBeNull();
  expect(scoresOf(threads(COVERS), 8, ['gloss'], [])).toBeNull();
});

test('an eye that is stricter shifts the scale, and one that disagrees makes it less sure', () => {
  const plain = scored(COVERS);
  const strict: Scores = { stringing: [4, 3, 2, 1, 0, 0, 0, 0] };
  const kind: Scores = { stringing: [4, 4, 4, 4, 3, 3, 2, 1] };
  const at = (eyes: readonly Scores[]) => scored(COVERS, eyes).scores.stringing![3]!;
  expect(at([strict])).toBeLessThan(plain.scores.stringing![3]! - 0.2);
  expect(at([kind])).toBeGreaterThan(plain.scores.stringing![3]! + 0.2);
  const upside: Scores = { stringing: [0, 0, 1, 1, 3, 4, 4, 4] };
  expect(scored(COVERS, [upside]).noise.stringing![3]!).toBeGreaterThan(
    2 * plain.noise.stringing![3]!,
  );
});

test('what is measured counts only for what is looked at, and some of it only where it is asked for', () => {
  expect(canCount('threads', ['stringing'])).toBe(true);
  expect(canCount('threads', ['corners'])).toBe(false);
  expect(canCount('edge', ['surface'])).toBe(false);
  expect(canCount('line-up', [])).toBe(true);
  expect(canCount('gloss', ['gloss'])).toBe(true);
  expect(countsUsually('gloss', ['gloss'])).toBe(false);
});

test('a lean that is told can be counted where no bridge is, and nothing can that was not told', () => {
  const sag: MeasureTold = {
    name: 'sag',
    rung: 0,
    value: null,
    spread: null,
    unit: 'mm',
    told: false,
  };
  expect(countable([sag], ['bridging', 'overhang'])).toEqual([]);
  const leans = [{ ...sag, also: { droop: 0.2 } }];
  expect(countable(leans, ['bridging', 'overhang'])).toEqual(['sag']);
  expect(countable(leans, ['bridging'])).toEqual([]);
  expect(countable(threads([null, 0.1]), ['stringing'])).toEqual(['threads']);
});
