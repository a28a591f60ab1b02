import { MACHINES, type MachinePreset } from '../../bench/presets';
import { intersect, area, boxOf, islands } from '../../shape/region';
import { benchFor, good } from '../../testing';
import { timesOf } from '../../motion/times';
import { makeLadder, makeOf, type Made } from '../make';
import type { LadderKind } from '../types';
import { boxOfColumn, footprint, gridForm, layersOf, twoPosts } from './form';
import { heatRetraction } from './heat-retraction';
import { sizesOf } from '../tower';

const kind = heatRetraction as unknown as LadderKind;
const made = (name: MachinePreset, spec = {}) => good(makeOf(kind, spec, benchFor(name)));

test.each(Object.keys(MACHINES) as MachinePreset[])(
  'on %s every cell has both of its values by the text alone, and nothing stands against it',
  (name) => {
    const { audit, plan, warnings } = made(name);
    expect(warnings.filter(({ grade }) => grade === 'stop')).toEqual([]);
    expect(audit.findings.filter(({ grade }) => grade !== 'note')).toEqual([]);
    expect(audit.rungs).toHaveLength(2 * plan.rungs.length);
    expect(audit.rungs.filter(({ ok }) => !ok)).toEqual([]);
    const columns = plan.axes[1]!.steps.length;
    expect(plan.rungs.length).toBe(columns * plan.axes[0]!.steps.length);
    expect(columns).toBeGreaterThanOrEqual(3);
  },
);

test('it costs less than 0.7 of the two ladders that it stands for', () => {
  const bench = benchFor('wren');
  const cost = ({ trace, motion, audit }: Made) => {
    const { laying, travel, dwell } = timesOf(trace, motion);
    return { seconds: laying + travel + dwell, grams: audit.grams };
  };
  const one = cost(made('wren'));
  const two = ['temperature', 'retraction'].map((id) => cost(good(makeLadder(id, {}, bench))));
  expect(one.seconds).toBeLessThan(0.7 * (two[0]!.seconds + two[1]!.seconds));
  expect(one.grams).toBeLessThan(0.7 * (two[0]!.grams + two[1]!.grams));
});

test('columns stand apart, their signs lie before them, and all of it within what is said to be taken', () => {
  const sizes = sizesOf({ layerHeight: 0.2, rungHeight: 4 }, 0.4, 0.4);
  const form = gridForm(sizes, twoPosts(sizes.bead, 12, 1), ['220', '210'], ['12', '16', '20']);
  const [first, ...above] = layersOf(form);
  const whole = footprint(form);
  const foot = boxOf(first!.parts[0]!.outline);
  expect(foot.minX).toBeGreaterThanOrEqual(whole.minX - 1e-6);
  expect(foot.minY).toBeGreaterThanOrEqual(whole.minY - 1e-6);
  expect(foot.maxX).toBeLessThanOrEqual(whole.maxX + 1e-6);
  const apart = islands(first!.parts[0]!.outline);
  // A sole, and as many signs as there are figures in the labels.
  expect(apart).toHaveLength(1 + 6);
  apart.forEach((one, i) =>
    apart.slice(i + 1).forEach((two) => expect(area(intersect(one, two))).toBe(0)),
  );
  const row = above.at(-1)!.parts;
  // Back again: the last layer of a band goes from right to left.
  expect(row.map(({ rung }) => rung)).toEqual([5, 5, 4, 4, 3, 3, 3]);
  for (const column of [0, 1, 2]) {
    const box = boxOfColumn(form, column);
    const posts = row.slice(0, -1).map(({ outline }) => boxOf(outline));
    posts.forEach(({ minX, maxX }, other) => {
      const inside = minX >= box.minX && maxX <= box.maxX;
      expect(inside).toBe(Math.floor(other / 2) === 2 - column);
    });
  }
});

test('cells that must cool alike are laid in the same order in every layer, and alike to the last motor step', () => {
  const sizes = sizesOf({ layerHeight: 0.2, rungHeight: 4 }, 0.4, 0.4);
  const cell = { ...twoPosts(sizes.bead, 11.3, 1), order: 'same' as const };
  const form = gridForm(sizes, cell, ['220', '210'], ['0', '5', '10']);
  const orders = layersOf(form)
    .slice(2)
    .map(({ parts }) => parts.map(({ rung }) => rung! % 3).join(''));
  expect(new Set(orders)).toEqual(new Set(['0001122']));
  const left = [0, 1, 2].map((column) => boxOfColumn(form, column).minX);
  for (const i of [1, 2]) {
    const steps = (left[i]! - left[0]!) / 0.2;
    expect(steps).toBeCloseTo(Math.round(steps), 6);
  }
});

test('the next grid goes where the ranges say, and one that is too large offers larger steps', () => {
  const bench = benchFor();
  const usual = kind.defaults(bench) as Record<string, number>;
  const next = kind.moved(usual, {
    nozzle: { from: 214, to: 206, step: 2 },
    retraction: { from: 4, to: 5, step: 0.25 },
  });
  expect(next).toMatchObject({ from: 214, to: 206, step: 2, left: 4, right: 5, columnStep: 0.25 });
  const many = kind.check({ ...usual, step: 2, gap: 5, columnStep: 0.5 }, bench);
  const told = many.find(({ code }) => code === 'many-cells')!;
  expect(told.offers![0]!.patch).toEqual({ step: 4 });
  const wild = kind.check({ ...usual, left: 25, right: 30, columnStep: 1 }, bench);
  expect(wild.find(({ code }) => code === 'out-of-bounds')!.where).toBe('right');
});

test('leans of a grid have their angle and their speed or air by the text alone, in the same order in every layer', () => {
  const bench = benchFor('wren');
  for (const id of ['lean-speed', 'lean-fan']) {
    const { audit, plan, text } = good(makeLadder(id, {}, bench));
    expect(audit.rungs.filter(({ ok }) => !ok)).toEqual([]);
    expect(audit.rungs.length).toBeGreaterThanOrEqual(2 * plan.rungs.length);
    if (id !== 'lean-fan') continue;
    // From column to column and not from lean to lean: each change is waited for.
    const waits = text.split('\n').filter((line) => /^G4 P3000/.test(line)).length;
    const layers = plan.rungs[0]!.layers.last - plan.rungs[0]!.layers.first + 1;
    const columns = plan.axes[1]!.steps.length;
    expect(waits).toBeGreaterThan((columns - 1) * layers);
    expect(waits).toBeLessThan((columns + 1) * layers + 10);
  }
});

test('a shaper check sets the shaper once a layer, and leaves the machine as it was', () => {
  const bench = benchFor('wren');
  const { text, plan, audit } = good(makeLadder('shaper-check', { frequency: 38 }, bench));
  expect(audit.rungs.filter(({ ok }) => !ok)).toEqual([]);
  const told = text.split('\n').filter((line) => /^SET_INPUT_SHAPER/.test(line));
  expect(told.at(-2)).toContain('SHAPER_FREQ_X=0');
  expect(told.at(-1)).toContain('SHAPER_FREQ_Y=0');
  expect(told.some((line) => line.includes('SHAPER_FREQ_X=38'))).toBe(true);
  const layers = plan.rungs.at(-1)!.layers.last - plan.rungs[0]!.layers.first + 1;
  // A line for each axis.
  expect(told.length / 2).toBeLessThan(layers + plan.axes[0]!.steps.length + 4);
});

test('speeds between whole ones stand in plastic as whole numbers', () => {
  const bench = benchFor('wren');
  const spec = { left: 40.5, right: 70.5, columnStep: 10 };
  const { plan, audit } = good(makeLadder('advance-speed', spec, bench));
  expect(plan.axes[1]!.steps.map(({ mark }) => mark)).toEqual(['405', '505', '605', '705']);
  expect(audit.rungs.filter(({ ok }) => !ok)).toEqual([]);
});
