import { inForce } from '../core/bench/in-force';
import { kinds } from '../core/ladders/registry';
import { settingInfo } from '../core/bench/settings';
import { benchFor } from '../core/testing';
import { drawTruths } from '../understudy/truths';
import { withFound } from './found-before';

const seeds = Array.from({ length: 20 }, (_, i) => i + 1);

test('a kind that stands on nothing is printed on the bench as it is', () => {
  const bench = benchFor();
  expect(withFound(bench, [], drawTruths(bench, 1))).toBe(bench);
});

test('a hidden machine gets what suits it, snapped to what a machine takes', () => {
  const bench = benchFor('wren');
  const found = seeds.map(
    (seed) => withFound(bench, ['nozzle', 'flow', 'advance'], drawTruths(bench, seed)).tuned!,
  );
  for (const tuned of found) {
    expect(tuned.nozzle! % settingInfo('nozzle').resolution).toBe(0);
    expect(tuned.nozzle).toBeGreaterThanOrEqual(bench.filament.nozzle.min);
    expect(tuned.nozzle).toBeLessThanOrEqual(bench.filament.nozzle.max);
    expect(tuned.advance).toBeGreaterThan(0);
    expect(tuned.advance).toBeLessThan(0.1);
  }
  expect(new Set(found.map(({ flow }) => flow)).size).toBeGreaterThan(5);
});

test('flow found is what makes up for the feeder', () => {
  const bench = benchFor();
  for (const seed of seeds) {
    const truths = drawTruths(bench, seed);
    const { flow } = inForce(withFound(bench, ['flow'], truths));
    expect(Math.abs(flow * truths.feeds - 1)).toBeLessThan(0.006);
  }
});

test('a weaker or less damped axis bears less acceleration, and no axis more than its limit', () => {
  const bench = benchFor('wren');
  const { x } = bench.machine.limits.acceleration;
  const of = (hertz: number, damping: number) =>
    withFound(bench, ['acceleration'], {
      ...drawTruths(bench, 1),
      resonance: { x: hertz, y: hertz },
      damping: { x: damping, y: damping },
    }).tuned!.acceleration!;
  expect(of(30, 0.08)).toBeLessThan(of(50, 0.08));
  expect(of(40, 0.05)).toBeLessThan(of(40, 0.1));
  expect(of(500, 0.1)).toBe(x);
});

test('whatever any kind stands on, the bench can print it', () => {
  for (const kind of kinds()) {
    const bench = benchFor(kind.id === 'nozzle-alignment' ? 'otter' : 'newt');
    if (kind.unfit?.(bench)) continue;
    for (const seed of seeds.slice(0, 4)) {
      const standing = withFound(bench, kind.standsOn, drawTruths(bench, seed));
      const spec = kind.defaults(standing);
      expect(kind.check(spec, standing).filter(({ grade }) => grade === 'stop')).toEqual([]);
    }
  }
});
