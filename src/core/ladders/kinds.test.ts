/**
 * Every kind on every machine in every dialect: the file must pass its own audit, rung by rung, and leave nothing
 * behind. Each kind on a part of the benches here, on all of them by `npm run matrix`.
 */

import { joinBench, type Bench } from '../bench/bench';
import { FILAMENTS, MACHINES, speaking, type MachinePreset } from '../bench/presets';
import { inForce } from '../bench/in-force';
import type { Column } from '../dialect/dialect';
import { benchFor, good } from '../testing';
import { makeLadder, specFor, type Made } from './make';
import { kindOf, kinds } from './registry';
import type { LadderKind } from './types';

const COLUMNS: Column[] = ['A', 'B', 'C', 'D'];
const BORES = [0.2, 0.4, 1];

function benchOf(machine: MachinePreset, column: Column, bore: number, strand = 1.75): Bench {
  const filament = { ...structuredClone(FILAMENTS.moss), diameter: strand };
  return joinBench(
    speaking(structuredClone(MACHINES[machine]), column),
    { diameter: bore },
    filament,
  );
}

/** Benches of each machine and each dialect, with all nozzles and both strands among them. */
const SOME = (Object.keys(MACHINES) as MachinePreset[]).flatMap((machine, m) =>
  COLUMNS.filter((_, c) => (m + c) % 2 === 0).map(
    (column, c): [MachinePreset, Column, number, number] => [
      machine,
      column,
      BORES[(m + c) % BORES.length]!,
      (m + c) % 4 === 0 ? 2.85 : 1.75,
    ],
  ),
);
const fits = (kind: LadderKind, bench: Bench) => !kind.unfit?.(bench);

/** What may not be. A fine nozzle takes little of thick filament between two ways back, and then it is said. */
const amiss = ({ audit }: Made, { nozzle, filament }: Bench) =>
  audit.findings.filter(
    ({ grade, code }) =>
      grade !== 'note' &&
      !(code === 'filament-chewed' && nozzle.diameter < 0.3 && filament.diameter > 2),
  );

/** Of those that a kind fits, two: from kind to kind others, so that all of them are seen. All: `npm run matrix`. */
const MOST_BENCHES = 2;

describe.each(kinds().map((kind, n) => [kind.id, kind, n] as const))('%s', (id, kind, n) => {
  const turned = [...SOME.slice(n % SOME.length), ...SOME.slice(0, n % SOME.length)];
  const benches = turned
    .map((one) => benchOf(...one))
    .filter((bench) => fits(kind, bench))
    .slice(0, MOST_BENCHES);

  test('is made with its defaults without a finding above a note, every rung confirmed', () => {
    expect(benches.length).toBeGreaterThan(0);
    for (const bench of benches) {
      const made = good(makeLadder(id, {}, bench));
      const { audit, warnings, plan } = made;
      expect(amiss(made, bench)).toEqual([]);
      expect(warnings.filter(({ grade }) => grade !== 'note')).toEqual([]);
      expect(audit.rungs.filter(({ ok }) => !ok)).toEqual([]);
      // Of a proof nothing differs yet where nothing was found.
      if (plan.rungs.length > 1 && Object.keys(plan.rungs[0]!.set).length > 0)
        expect(audit.rungs.length).toBeGreaterThanOrEqual(plan.rungs.length);
    }
  });

  test('gives the same bytes twice', () => {
    const [bench] = benches as [Bench];
    expect(good(makeLadder(id, {}, bench)).text).toBe(good(makeLadder(id, {}, bench)).text);
  });

  test('its defaults are a spec of its own, and nothing else is', () => {
    const [bench] = benches as [Bench];
    expect(specFor(kind, bench, {}).ok).toBe(true);
    expect(specFor(kind, bench, { colour: 3 }).ok).toBe(false);
    const [name, field] = Object.entries(kind.fields)[0]!;
    expect(specFor(kind, bench, { [name]: field.max + 1 }).ok).toBe(false);
    expect(specFor(kind, bench, { [name]: Number.NaN }).ok).toBe(false);
    for (const key of kind.sentence.matchAll(/\{([A-Za-z]+)\}/g))
      expect(kind.fields).toHaveProperty(key[1]!);
  });

  test('says why it is printed, how its value is carried over, and what else may be the cause', () => {
    const [bench] = benches as [Bench];
    expect(kind.reason(bench)).toMatch(/\.$/);
    expect(kind.carry(kind.finds[0], inForce(bench)[kind.finds[0]] || 1, bench).say).toMatch(/\.$/);
    expect(kind.otherCause.length).toBeGreaterThan(10);
    expect(kind.criteria.length + (kind.measures?.length ?? 0)).toBeGreaterThan(0);
  });

  test('what its file sets, it puts back, whatever was tuned before', () => {
    const tuned = { advance: 0.04, retraction: 1.5, flow: 0.97, nozzle: 205, lift: 0.2 };
    const [bench] = benches as [Bench];
    const made = good(makeLadder(id, {}, { ...bench, tuned }));
    expect(amiss(made, bench)).toEqual([]);
    expect(made.plan.bench.tuned).toEqual(tuned);
  });
});

test('a machine that cannot be told a setting is refused with the row that is missing', () => {
  const bench = benchFor('heron');
  bench.machine.dialect = { ...bench.machine.dialect, advance: '' };
  const made = makeLadder('advance-hairpins', {}, bench);
  expect(made.ok ? [] : made.problems[0]!.what).toContain('no command for pressure advance');
  const one = makeLadder('nozzle-alignment', {}, benchFor('wren'));
  expect(one.ok ? [] : one.problems[0]!.what).toContain('one nozzle');
  const square = makeLadder('cornering-square', {}, benchFor('heron'));
  expect(square.ok).toBe(false);
});

test.each([
  ['first-layer', { to: -0.3 }, 'heron', 'digs-in'],
  ['first-layer', { touch: -0.05 }, 'heron', 'digs-in'],
  ['retraction', { to: 4 }, 'wren', 'out-of-bounds'],
  ['acceleration', { to: 50_000 }, 'heron', 'out-of-bounds'],
  ['extruder-steps', { mark: 60 }, 'heron', 'mark-too-low'],
  ['nozzle-alignment', { step: 0.5 }, 'otter', 'ambiguous'],
  ['acceleration', { rungHeight: 40 }, 'heron', 'too-tall'],
  ['advance-wall', { layerHeight: 0.5 }, 'heron', 'layer-height'],
  ['advance-meander', { shiftX: 300 }, 'heron', 'off-bed'],
] as const)('%s with %o on %s is stopped: %s', (id, spec, machine, code) => {
  const bench = benchFor(machine);
  const kind = good(kindOf(id));
  const full = good(specFor(kind, bench, spec));
  const stops = kind.check(full, bench).filter(({ grade }) => grade === 'stop');
  expect(stops.map((one) => one.code)).toContain(code);
  expect(makeLadder(id, spec, bench).ok).toBe(false);
});

test.each([
  ['advance-hairpins', { slow: 40, speed: 60 }, 'heron', 'speed-ratio'],
  ['advance-hairpins', { step: 0.03 }, 'wren', 'not-whole'],
  ['advance-wall', { acceleration: 9000, from: 0, to: 1, step: 0.1 }, 'heron', 'acceleration-cut'],
  ['advance-wall', { acceleration: 3000 }, 'heron', 'feeder-limit'],
  ['extruder-steps', { speed: 8 }, 'heron', 'too-fast'],
  ['temperature', { from: 205, to: 205 }, 'heron', 'too-few-rungs'],
  ['retraction', { from: 2, to: 3, step: 1 }, 'heron', 'too-few-rungs'],
] as const)('%s with %o on %s is warned of: %s', (id, spec, machine, code) => {
  const bench = benchFor(machine);
  const kind = good(kindOf(id));
  const codes = kind.check(good(specFor(kind, bench, spec)), bench).map((one) => one.code);
  expect(codes).toContain(code);
});

test('a file is named after bench, kind, range and step', () => {
  const { plan } = good(makeLadder('advance-hairpins', {}, benchFor('wren')));
  expect(plan.file).toBe('wren-0.4-moss-matte-pla_advance-hairpins_0-0.1-by-0.005.gcode');
});

test('too few rungs come with a mend that takes one press', () => {
  const bench = benchFor();
  const kind = good(kindOf('temperature'));
  const told = (spec: Record<string, number>) =>
    kind
      .check(good(specFor(kind, bench, spec)), bench)
      .find(({ code }) => code === 'too-few-rungs');
  const offers = told({ from: 205, to: 205 })!.offers!;
  expect(offers).toHaveLength(2);
  for (const { patch } of offers) expect(told({ from: 205, to: 205, ...patch })).toBeUndefined();
});
