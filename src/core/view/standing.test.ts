import { makeLadder } from '../ladders/make';
import { benchFor, good } from '../testing';
import { onSharedAxis } from './shared-axis';
import { standingOf } from './standing';

// Drawn from the form, laid on the bed, and a grid.
test.each(['temperature', 'advance-hairpins', 'bridge-speed-fan'])(
  'a place is kept for %s that its drawing fills',
  (kind) => {
    const bench = benchFor();
    const kept = standingOf(kind, {}, bench)!;
    const stands = onSharedAxis(good(makeLadder(kind, {}, bench)).plan);
    expect(kept.height).toBeCloseTo(stands.height, 1);
    expect(Math.abs(kept.width - stands.width)).toBeLessThan(1);
    expect(kept.stretch).toBe(stands.stretch);
    expect(kept.rungs.map(({ name }) => name)).toEqual(stands.rungs.map(({ name }) => name));
    expect(kept.cells?.columns.length).toBe(stands.cells?.columns.length);
  },
);

test('nothing is kept for what cannot be made', () => {
  expect(standingOf('temperature', { rungHeight: 30, step: 1 }, benchFor())).toBeNull();
});

test('what is seen from the front may grow upward; what is looked at for its shape may not', () => {
  const stretch = (kind: string) => standingOf(kind, {}, benchFor())!.stretch;
  expect(stretch('temperature')).toBeGreaterThan(1);
  expect([stretch('overhang'), stretch('first-layer')]).toEqual([1, 1]);
});
