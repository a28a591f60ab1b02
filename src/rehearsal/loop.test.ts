import { benchFor, good, temperatureKind } from '../core/testing';
import { drawTruths } from '../understudy/truths';
import { Loop, peakOf } from './loop';

test('the peak of a parabola is found between its steps', () => {
  const values = [190, 195, 200, 205, 210];
  const heights = values.map((value) => 3 - ((value - 201.3) / 10) ** 2);
  expect(peakOf(values, heights)).toBeCloseTo(201.3, 9);
  expect(peakOf([...values].reverse(), [...heights].reverse())).toBeCloseTo(201.3, 9);
});

test('a peak at an end is that end, and a flat top is one of its values', () => {
  expect(peakOf([1, 2, 3], [3, 2, 1])).toBe(1);
  expect(peakOf([1, 2, 3], [1, 2, 3])).toBe(3);
  expect([1, 2, 3]).toContain(peakOf([1, 2, 3], [2, 2, 2]));
});

describe('the loop on Heron', () => {
  const bench = benchFor();
  const loop = good(Loop.on(temperatureKind(), bench));

  long(
    'a trial is the same each time, and another for another machine',
    () => {
      const trial = good(loop.trial(3));
      expect(good(loop.trial(3))).toEqual(trial);
      expect(good(loop.truth(drawTruths(bench, 4)))).not.toBe(trial.truth);
      expect(trial.ladders).toBeGreaterThanOrEqual(1);
      expect(trial.minutes).toBeGreaterThan(30);
      // What the value costs is small, and told for what the kind looks at.
      expect(trial.regret!.loss).toBeGreaterThanOrEqual(0);
      expect(trial.regret!.loss).toBeLessThan(2);
      expect(Object.keys(trial.regret!.excess)).toContain('layer adhesion');
    },
    60_000,
  );

  test('a sensor that is ten degrees off moves the truth by ten degrees', () => {
    const truths = drawTruths(bench, 12);
    const cold = good(loop.truth({ ...truths, sensor: -5 }));
    const warm = good(loop.truth({ ...truths, sensor: 5 }));
    expect(cold - warm).toBeGreaterThan(7);
    expect(cold - warm).toBeLessThan(13);
  }, 30_000);
});
