import { benchFor } from '../testing';
import { baseOf, staleReasons } from './base';
import { nextStop, routeOf } from './route';

const bench = benchFor();
const standing = {
  setting: 'nozzle' as const,
  value: 205,
  base: baseOf(bench),
  at: '2026-01-01',
  simulated: false,
};

test('a rung is open without a value, fresh with one, and the next thing follows', () => {
  const open = routeOf(bench, [], []);
  expect(open.map(({ kind, state }) => [kind, state])).toEqual([['temperature', 'open']]);
  expect(nextStop(open)!.kind).toBe('temperature');
  const fresh = routeOf(bench, [standing], []);
  expect(fresh[0]!.state).toBe('fresh');
  expect(nextStop(fresh)).toBeNull();
});

test('another nozzle or material makes a value stale, with the reason', () => {
  const moved = benchFor('heron', { bore: 0.6 });
  const [stop] = routeOf(moved, [standing], []);
  expect(stop).toMatchObject({ state: 'stale', reasons: ['nozzle changed from 0.4 mm to 0.6 mm'] });
  expect(staleReasons(baseOf(bench), baseOf(bench))).toEqual([]);
});

test('what is under way comes first', () => {
  const route = routeOf(bench, [standing], [{ kind: 'temperature', ladder: 3, state: 'printed' }]);
  expect(nextStop(route)!.underway!.ladder).toBe(3);
});
