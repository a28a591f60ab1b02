import { MACHINES, type MachinePreset } from '../../bench/presets';
import type { Values } from '../../bench/settings';
import { benchFor, good, movesOf } from '../../testing';
import { makeLadder } from '../make';
import type { LadderKind } from '../types';
import { proof } from './kind';
import { differing, orderOf, standsOver, SWAPS } from './sets';

const kind = proof as unknown as LadderKind<Record<string, number>>;
const benchOf = (
  name: MachinePreset,
  tuned: Values = { flow: 0.96, retraction: 1, advance: 0.04 },
) => ({
  ...benchFor(name),
  tuned,
});
const made = (name: MachinePreset, spec = {}, tuned?: Values) =>
  good(makeLadder('proof', spec, benchOf(name, tuned)));

test.each(Object.keys(MACHINES) as MachinePreset[])(
  'on %s both parts have their values by the text alone, side by side and over each other',
  (name) => {
    for (const tuned of [undefined, { flow: 0.96, nozzle: 215 }]) {
      const { audit, plan, warnings } = made(name, {}, tuned);
      expect(warnings.filter(({ grade }) => grade === 'stop')).toEqual([]);
      expect(audit.findings.filter(({ grade }) => grade === 'stop')).toEqual([]);
      expect(audit.rungs.filter(({ ok }) => !ok)).toEqual([]);
      for (const { set } of plan.rungs)
        for (const setting of Object.keys(set))
          expect(audit.rungs.filter((row) => row.setting === setting)).toHaveLength(2);
      expect(plan.axes[0]!.along).toBe(tuned ? 'z' : 'x');
    }
  },
);

test('which is A is drawn, and both draws come', () => {
  const spec = kind.defaults(benchOf('wren'));
  const firsts = Array.from({ length: 40 }, (_, seed) => orderOf({ ...spec, seed })[0]);
  expect(firsts.filter((one) => one === 'before').length).toBeGreaterThan(8);
  expect(firsts.filter((one) => one === 'after').length).toBeGreaterThan(8);
  const seed = firsts.indexOf('after');
  const { plan } = made('wren', { seed });
  expect(plan.rungs[0]!.set.retraction).toBe(1);
  expect(plan.axes[0]!.steps.map(({ label }) => label)).toEqual(['A', 'B']);
  // Nothing that is called A or B says which it is.
  expect(JSON.stringify(plan.axes[0]!.title + plan.axes[0]!.unit)).not.toMatch(/before|after/);
});

test('side by side, what differs changes once a layer', () => {
  const { text, plan } = made('wren');
  const layers = plan.rungs[0]!.layers.last - plan.rungs[0]!.layers.first + 1;
  const told = text.split('\n').filter((line) => /^SET_PRESSURE_ADVANCE/.test(line)).length;
  expect(told).toBeGreaterThan(layers / 2);
  expect(told).toBeLessThan(layers + 6);
});

test('both parts are alike: as long, as much plastic but for their flow and their marks', () => {
  const print = made('wren', {}, { retraction: 1 });
  const fed = [0, 0];
  for (const { rung, e } of movesOf(print, 'extrude')) if (rung >= 0) fed[rung]! += e;
  expect(fed[0]! / fed[1]!).toBeCloseTo(1, 1);
});

test('what is changed by hand: one over the other, and the head waits aside, drawn back and high', () => {
  const swap = SWAPS.indexOf('the spool');
  const spec = { ...kind.defaults(benchOf('heron')), swap };
  expect(standsOver(spec)).toBe(true);
  expect(orderOf({ ...spec, seed: 7 })).toEqual(['before', 'after']);
  const { text, plan } = made('heron', { swap });
  const lines = text.split('\n');
  const at = lines.findIndex((line) => line === 'M0');
  expect(lines[at - 1]).toBe('M117 A is done. Change the spool, then go on.');
  const before = lines.slice(0, at);
  const drawn = before.findLastIndex((line) => /^G1 E-/.test(line));
  const laid = before.findLastIndex((line) => /^G1 .*[XY].* E\d/.test(line));
  expect(drawn).toBeGreaterThan(laid);
  const high = before.findLast((line) => /Z/.test(line))!;
  expect(Number(/Z([\d.]+)/.exec(high)![1])).toBeGreaterThan(plan.height + 10);
  // A machine without a button is told how long it waits.
  const { warnings, text: other } = made('wren', { swap });
  expect(warnings.map(({ code }) => code)).toEqual(
    expect.arrayContaining(['known-to-one', 'waits-for-a-time']),
  );
  expect(other).toContain('G4 P300000');
});

test('sets that are alike are told, and what a machine cannot be told is refused', () => {
  const alike = good(makeLadder('proof', {}, benchFor('heron')));
  expect(alike.warnings.map(({ code }) => code)).toContain('sets-alike');
  expect(differing(alike.plan.spec as Record<string, number>)).toEqual([]);
  const bench = benchFor('heron');
  const mute = {
    ...bench,
    machine: { ...bench.machine, dialect: { ...bench.machine.dialect, advance: '' } },
    tuned: { advance: 0.4 },
  };
  const refused = makeLadder('proof', {}, mute);
  expect(refused.ok ? '' : refused.problems[0]!.what).toContain('has no command for');
  for (const [key, value] of Object.entries({ afterRetraction: -0.5, beforeAcceleration: 3 })) {
    const low = makeLadder('proof', { [key]: value }, benchOf('wren'));
    expect(low.ok ? '' : low.problems[0]!.where).toBe(key);
  }
  expect(makeLadder('proof', { afterRetraction: 500 }, benchOf('wren')).ok).toBe(false);
  // A span without room for a post between its bodies.
  const narrow = makeLadder('proof', { span: 8 }, benchOf('wren'));
  expect(narrow.ok ? '' : narrow.problems[0]!.where).toBe('span');
  const hot = makeLadder('proof', { afterNozzle: 420 }, bench);
  expect(hot.ok ? '' : hot.problems[0]!.what).toContain('420 °C was asked for');
});

test('a small bed gets smaller parts', () => {
  const bench = benchOf('heron');
  const small = {
    ...bench,
    machine: {
      ...bench.machine,
      bed: { shape: 'rectangle' as const, origin: 'corner' as const, width: 120, depth: 120 },
    },
  };
  const spec = kind.defaults(small);
  expect(spec.body).toBeLessThan(kind.defaults(bench).body!);
  expect(makeLadder('proof', {}, small).ok).toBe(true);
});
