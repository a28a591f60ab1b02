import { inForce } from '../bench/in-force';
import { conditionsOf } from '../deposit/conditions';
import type { Bench } from '../bench/bench';
import { formerKinds, kinds } from '../ladders/registry';
import { SETTING_NAMES, type Setting } from '../bench/settings';
import { benchFor } from '../testing';
import { baseOf, staleReasons, tunedIn } from './base';
import { nextStop, routeOf, stillUnderway, type Laddered, type LedgerValue } from './route';

const bench = benchFor();
const valueOf = (setting: Setting, value: number, on: Bench = bench, times = 1): LedgerValue => ({
  setting,
  value,
  base: baseOf(
    on,
    [...kinds(), ...formerKinds()].find((kind) => kind.finds[0] === setting)!.standsOn,
  ),
  at: '2026-01-01',
  simulated: false,
  times,
  rows: true,
  provenAt: '2026-01-02',
});
const stopOf = (setting: Setting, values: LedgerValue[], on: Bench) =>
  routeOf(on, values, []).find((stop) => stop.setting === setting)!;

test('the route goes from first layer to nozzle alignment, one stop a value, as the machine fits', () => {
  const settings = (machine: Parameters<typeof benchFor>[0]) =>
    routeOf(benchFor(machine), [], [])
      .filter(({ onDemand }) => !onDemand)
      .map(({ setting }) => setting);
  const common = ['nozzle', 'meltFlow', 'flow', 'retraction', 'advance', 'acceleration'];
  expect(settings('heron')).toEqual([
    ...['zOffset', 'steps', ...common, 'jerk', 'advance', 'bridgeFlow', 'overhang'],
  ]);
  expect(settings('wren')).toEqual([
    ...['zOffset', 'rotation', ...common, 'square', 'advance', 'bridgeFlow', 'overhang'],
  ]);
  expect(settings('otter')).toEqual([
    ...['zOffset', 'steps', ...common, 'deviation', 'advance', 'bridgeFlow', 'overhang', 'offsetX'],
  ]);
  const advance = stopOf('advance', [], bench);
  expect(advance.kinds.map(({ id }) => id)).toEqual([
    'advance-hairpins',
    'advance-meander',
    'advance-wall',
    'advance-speed',
  ]);
});

test('a rung is open without a value, fresh with one, and the next open one follows', () => {
  expect(nextStop(routeOf(bench, [], []))!.kind).toBe('first-layer');
  const fresh = routeOf(bench, [valueOf('zOffset', 0.02)], []);
  expect(fresh[0]!.state).toBe('fresh');
  expect(nextStop(fresh)!.kind).toBe('extruder-steps');
  const all = routeOf(bench, [], []).map(({ setting }) => valueOf(setting, 1));
  expect(nextStop(routeOf(bench, all, []))).toBeNull();
});

test('what is only printed on suspicion is never the next thing, unless it went stale', () => {
  const needed = routeOf(bench, [], []).filter(({ onDemand }) => !onDemand);
  const all = needed.map(({ setting }) => valueOf(setting, 1));
  expect(nextStop(routeOf(bench, all, []))).toBeNull();
  const speed = valueOf('retractSpeed', 30);
  const moved = { ...bench, tuned: { retraction: inForce(bench).retraction + 2 } };
  expect(
    nextStop(
      routeOf(
        moved,
        [
          ...all.filter(({ setting }) => setting !== 'retraction'),
          { ...valueOf('retraction', 7, moved) },
          speed,
        ],
        [],
      ),
    )!.setting,
  ).toBe('retractSpeed');
});

test('another nozzle or material makes a value stale, with the reason', () => {
  const moved = benchFor('heron', { bore: 0.6 });
  const stop = stopOf('nozzle', [valueOf('nozzle', 205)], moved);
  expect(stop).toMatchObject({ state: 'stale', reasons: ['nozzle changed from 0.4 mm to 0.6 mm'] });
  expect(staleReasons(baseOf(bench), baseOf(bench))).toEqual([]);
});

test.each([
  ['nozzle', 'flow', 5, 6],
  ['flow', 'advance', 0.02, 0.03],
  ['nozzle', 'retraction', -5, -5.5],
] as const)(
  '%s that moves past its tolerance makes %s stale, and not before',
  (on, setting, near, far) => {
    const was = valueOf(setting, 1);
    const at = (by: number): Bench => ({ ...bench, tuned: { [on]: inForce(bench)[on] + by } });
    expect(stopOf(setting, [was], at(near)).state).toBe('fresh');
    const stale = stopOf(setting, [was], at(far));
    expect(stale.state).toBe('stale');
    expect(stale.reasons[0]).toMatch(/changed from .* to /);
  },
);

test('retraction and pressure advance ask for each other again, once each', () => {
  const retraction = valueOf('retraction', 5);
  const found: Bench = { ...bench, tuned: { retraction: 5, advance: 0.5 } };
  expect(stopOf('retraction', [retraction], found).reasons[0]).toContain('pressure advance');
  const again = valueOf('retraction', 3.5, found, 2);
  const after: Bench = { ...bench, tuned: { retraction: 3.5, advance: 0.5 } };
  const advance = valueOf('advance', 0.5, found);
  expect(stopOf('advance', [advance, again], after).state).toBe('stale');
  const advanceAgain = valueOf('advance', 0.4, after, 2);
  const last: Bench = { ...bench, tuned: { retraction: 3.5, advance: 0.4 } };
  expect(stopOf('retraction', [again, advanceAgain], last).state).toBe('fresh');
  // Anything else still counts.
  const hotter: Bench = { ...bench, tuned: { ...last.tuned, nozzle: 230 } };
  expect(stopOf('retraction', [again], hotter).state).toBe('stale');
});

test('what is under way comes first', () => {
  const underway = [{ kind: 'advance-wall', ladder: 3, state: 'printed' as const }];
  expect(nextStop(routeOf(bench, [], underway))).toMatchObject({
    setting: 'advance',
    underway: { ladder: 3 },
  });
});

test('every setting that a ladder finds has a place in the list of settings', () => {
  for (const kind of kinds()) {
    expect(SETTING_NAMES).toContain(kind.finds[0]);
    for (const on of kind.standsOn) expect(SETTING_NAMES).toContain(on);
  }
});

test('cornering goes stale when the acceleration that it was tuned with has moved', () => {
  const before = { ...bench, tuned: { acceleration: 1000 } };
  const jerk = valueOf('jerk', 10, before);
  expect(stopOf('jerk', [jerk], before).state).toBe('fresh');
  const little = { ...bench, tuned: { acceleration: 1100 } };
  expect(stopOf('jerk', [jerk], little).state).toBe('fresh');
  const much = { ...bench, tuned: { acceleration: 2000 } };
  expect(stopOf('jerk', [jerk], much)).toMatchObject({
    state: 'stale',
    reasons: ['acceleration changed from 1000 to 2000 mm/s²'],
  });
});

test('how strands are laid goes stale with the plastic that they get', () => {
  const before = { ...bench, tuned: { bridgeFlow: 1 } };
  const fan = valueOf('bridgeFan', 0.8, before);
  const less = { ...bench, tuned: { bridgeFlow: 0.7 } };
  expect(stopOf('bridgeFan', [fan], less).state).toBe('stale');
  expect(stopOf('bridgeFlow', [valueOf('bridgeFlow', 1, before)], less).state).toBe('fresh');
});

test('a value of the real machine stands before one of a simulated machine, whichever is newer', () => {
  const real = valueOf('nozzle', 205);
  const tried = { ...valueOf('nozzle', 212), simulated: true, at: '2026-02-02' };
  for (const both of [
    [real, tried],
    [tried, real],
  ]) {
    const stop = stopOf('nozzle', both, bench);
    expect(stop.found).toEqual(real);
    expect(stop.tried).toEqual(tried);
  }
  expect(stopOf('nozzle', [tried], bench)).toMatchObject({ found: tried, tried: null });
});

test('what is not offered any more stays with its value, and what was printed before counts', () => {
  const lift = () =>
    routeOf(bench, [valueOf('lift', 0.2)], []).find((one) => one.setting === 'lift');
  expect(lift()).toMatchObject({ kind: 'lift', state: 'fresh' });
  expect(routeOf(bench, [], []).some(({ setting }) => setting === 'lift')).toBe(false);
  const printed = { kind: 'advance-strokes', ladder: 7, state: 'printed' as const };
  const advance = routeOf(bench, [], [printed]).find(({ setting }) => setting === 'advance')!;
  expect(advance.underway).toEqual(printed);
  expect(advance.kinds.map(({ id }) => id)).not.toContain('advance-strokes');
});

test('what a value was found with is said with its unit, and what a bench is made of is not', () => {
  const bench = { ...benchFor(), tuned: { nozzle: 207, retraction: 1.2 } };
  expect(tunedIn(baseOf(bench, ['nozzle', 'retraction']))).toEqual([
    'nozzle temperature 207 °C',
    'retraction distance 1.2 mm',
  ]);
  expect(tunedIn(baseOf(bench))).toEqual([]);
});

test('a map is a stop of its own: one value alone does not reach it, and its rows do', () => {
  const mapOf = (rows: boolean) =>
    routeOf(bench, [{ ...valueOf('advance', 0.4), rows }], []).filter(
      ({ setting }) => setting === 'advance',
    );
  const [one, map] = mapOf(false);
  expect([one!.state, map!.state]).toEqual(['fresh', 'open']);
  expect(map!.kind).toBe('advance-map');
  expect(mapOf(true).map(({ state }) => state)).toEqual(['fresh', 'fresh']);
  // What it was found at has moved: the map is stale too.
  const hotter = { ...bench, tuned: { nozzle: inForce(bench).nozzle + 15 } };
  const moved = routeOf(hotter, [valueOf('advance', 0.4)], []);
  expect(moved.find(({ kind }) => kind === 'advance-map')!.state).toBe('stale');
});

test('proof stands at the top: reached when every value that it speaks of is proven, and open again with a new one', () => {
  const top = (values: LedgerValue[]) =>
    routeOf(bench, values, []).find(({ kind }) => kind === 'proof')!;
  const proven = [valueOf('flow', 0.97), valueOf('retraction', 4)];
  expect(routeOf(bench, [], []).at(-1)!.kind).toBe('proof');
  // With nothing found there is nothing to prove.
  expect(top([])).toMatchObject({ state: 'open', onDemand: true, says: null });
  expect(top(proven)).toMatchObject({ state: 'fresh', says: '2 of 2 values proven' });
  const fresh = { ...valueOf('advance', 0.5), provenAt: null };
  expect(top([...proven, fresh])).toMatchObject({ state: 'open', says: '2 of 3 values proven' });
  // A value of a simulated machine beside a real one is not asked for.
  expect(top([...proven, { ...fresh, setting: 'flow', simulated: true }]).state).toBe('fresh');
});

test('what was set up before a ladder of its kind that is settled waits for nobody, nor does a proof that is read', () => {
  const one = (ladder: number, kind: string, state: Laddered['state'], settled = false) => ({
    ladder,
    kind,
    state,
    settled,
  });
  const left = stillUnderway([
    one(9, 'advance-map', 'designed'),
    one(8, 'advance-map', 'read', true),
    // The first print of that map, read as well.
    one(7, 'advance-map', 'read'),
    one(6, 'proof', 'read'),
    one(5, 'proof', 'reading'),
    one(4, 'temperature', 'read'),
  ]);
  expect(left.map(({ ladder }) => ladder)).toEqual([9, 5, 4]);
  expect(left[0]).not.toHaveProperty('settled');
});

test('a fan that was found is what every ladder is printed with', () => {
  const found: Bench = { ...bench, tuned: { fan: 0.35 } };
  expect(conditionsOf(found, 0.2, 40).fan.print).toBe(0.35);
  expect(conditionsOf(bench, 0.2, 40).fan.print).toBe(bench.filament.fan.print);
});

test('what is not found yet says what comes first, the lowest of what it stands on', () => {
  const says = (kind: string, values: LedgerValue[]) =>
    routeOf(bench, values, []).find((stop) => stop.kind === kind)!.says;
  expect(says('first-layer', [])).toBeNull();
  expect(says('flow', [])).toBe('after extruder steps');
  expect(says('flow', [valueOf('steps', 96)])).toBe('after temperature');
  const both = [valueOf('steps', 96), valueOf('nozzle', 210)];
  expect(says('flow', both)).toBeNull();
  // What lies above on the route is never what comes first.
  expect(says('retraction', [...both, valueOf('flow', 0.97)])).toBeNull();
  expect(says('overhang', both)).toBe('after flow');
  expect(says('temperature', both)).toBeNull();
});

test('a stale value says since when, where a date was kept of everything that moved', () => {
  const flow = { ...valueOf('flow', 0.97), at: '2026-01-01' };
  const hotter: Bench = { ...bench, tuned: { ...bench.tuned, nozzle: 235 } };
  const nozzle = { ...valueOf('nozzle', 235), at: '2026-02-03' };
  expect(stopOf('flow', [flow, nozzle], hotter)).toMatchObject({
    state: 'stale',
    since: '2026-02-03',
  });
  expect(stopOf('flow', [flow], bench).since).toBeNull();
  // Nobody writes down when a nozzle is screwed in.
  const wider: Bench = { ...hotter, nozzle: { ...bench.nozzle, diameter: 0.6 } };
  expect(stopOf('flow', [flow, nozzle], wider)).toMatchObject({ state: 'stale', since: null });
});
