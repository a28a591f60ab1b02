import { kindOf } from '../ladders/registry';
import { benchFor, good, makeOn } from '../testing';
import type { Scores } from '../reading/types';
import { findValue } from '../reading/find-value';
import type { MeasureTold } from './kept';
import { findTogether, zeroOf } from './together';
import { disagree, voiceInWords } from './voices';

const tower = makeOn(benchFor('heron'), 'temperature').plan;
const temperature = good(kindOf('temperature'));
const rungs = tower.rungs.length;
const climb = (at: (share: number) => number) => tower.rungs.map((_, i) => at(i / (rungs - 1)));

/** Hot at the bottom: it strings there, and its layers part at the top. */
const SCORES: Scores = {
  stringing: climb((up) => Math.round(4 * Math.min(1, 1.6 * up))) as Scores['stringing'],
  'layer adhesion': climb((up) =>
    Math.round(4 * Math.min(1, 1.6 * (1 - up))),
  ) as Scores['stringing'],
};
/** Threads that cover so much of the ground, rung by rung. */
const threads = (cover: (share: number) => number): MeasureTold[] =>
  climb(cover).map((one, rung) => ({
    name: 'threads',
    rung,
    value: 100 * one,
    spread: 1,
    unit: 'threads',
    told: true,
    also: { cover: one },
  }));
const find = (counted: MeasureTold[][], readings: Scores[] = [SCORES]) =>
  findTogether(temperature, tower, tower.bench, { readings, counted });

test('without pictures, or with none that counts, it is what eyes say', () => {
  const eye = good(findValue(temperature, tower, tower.bench, { readings: [SCORES] }));
  expect(good(find([]))).toEqual(eye);
  expect(good(find([[]]))).toEqual(eye);
});

test('threads that reach further up move the value to the cooler side, and both voices are told', () => {
  const few = good(find([threads((up) => 0.4 * Math.exp(-8 * up))]));
  const many = good(find([threads((up) => 0.4 * Math.exp(-1.6 * up))]));
  expect(many.values[0].value!).toBeLessThan(few.values[0].value!);
  expect(few.voices!.of).toEqual(['stringing']);
  expect(voiceInWords(few.voices!.eye!)).toMatch(/°C [(]\d+ to \d+[)]$/);
  expect(few.observations.some((one) => one.loupe)).toBe(true);
});

test('where the loupe sees many threads and the eye none, they disagree, and it is said where', () => {
  const calm = good(find([threads((up) => 0.3 * Math.exp(-4 * up))]));
  expect(disagree(calm.voices!)).toBe(false);
  const clean: Scores = { ...SCORES, stringing: climb(() => 4) as Scores['stringing'] };
  const odd = good(find([threads((up) => 0.9 - 0.3 * up)], [clean]));
  expect(disagree(odd.voices!)).toBe(true);
  expect(odd.voices!.apart[0]).toMatchObject({ criterion: 'stringing', eye: 4 });
});

test('pictures alone are enough where they tell enough', () => {
  const found = good(find([threads((up) => 0.4 * Math.exp(-4 * up))], []));
  expect(found.voices!.eye).toBeNull();
  expect(found.evidence).toBeGreaterThan(1);
});

describe('lines of two nozzles', () => {
  const bench = benchFor('heron');
  bench.machine.extruder.tools = 2;
  const { plan } = makeOn(bench, 'nozzle-alignment');
  const kind = good(kindOf('nozzle-alignment'));
  /** Pairs that stand as far apart as they were set and the error on top, each a little off. */
  const pairs = (error: { x: number; y: number }, slope = 1): MeasureTold[] =>
    (['x', 'y'] as const).flatMap((axis) =>
      plan.rungs.map(({ index, set }): MeasureTold => ({
        name: 'line-up',
        rung: index,
        axis,
        value: slope * set.offsetX! + error[axis] + 0.004 * (index % 2 === 0 ? 1 : -1),
        spread: 0.01,
        unit: 'mm',
        told: true,
      })),
    );

  test('the error is where all pairs together meet, to a hundredth', () => {
    const measures = pairs({ x: -0.137, y: 0.062 });
    expect(Math.abs(zeroOf(measures, plan, 'x')!.value - 0.137)).toBeLessThan(0.005);
    expect(Math.abs(zeroOf(measures, plan, 'y')!.value + 0.062)).toBeLessThan(0.005);
  });

  test('pairs that do not follow their steps, or are few, say nothing', () => {
    expect(zeroOf(pairs({ x: 0, y: 0 }, 0.5), plan, 'x')).toBeNull();
    expect(zeroOf(pairs({ x: 0, y: 0 }).slice(0, 3), plan, 'x')).toBeNull();
  });

  test('eye and loupe are weighed by how sure they are; the loupe alone will do', () => {
    const counted = [pairs({ x: -0.137, y: 0.062 })];
    const said = { readings: [], measured: [{ x: [0.1], y: [-0.1] }] };
    const both = good(findTogether(kind, plan, bench, { ...said, counted }));
    const [x, y] = both.values;
    expect(x.value).toBeCloseTo(0.14, 2);
    expect(y!.value).toBeCloseTo(-0.06, 2);
    expect(x.range![1] - x.range![0]).toBeLessThan(0.03);
    expect(disagree(both.voices!)).toBe(false);
    const alone = good(findTogether(kind, plan, bench, { readings: [], measured: [], counted }));
    expect(alone.values[0].value).toBeCloseTo(0.14, 2);
    const far = { ...said, measured: [{ x: [0.4], y: [-0.1] }] };
    const apart = good(findTogether(kind, plan, bench, { ...far, counted }));
    expect(disagree(apart.voices!)).toBe(true);
  });
});
