import { FILAMENTS, MACHINES } from '@/core/bench/presets';
import { thingLabels } from '@/core/bench/labels';
import { numberAt, withNumber } from './NumberFields';

test('a number that is put in is found there, and nothing else has changed', () => {
  const machine = MACHINES.heron;
  const next = withNumber(machine, ['limits', 'speed', 'x'], 123);
  expect(numberAt(next, 'limits.speed.x')).toBe(123);
  expect(next).toEqual({
    ...machine,
    limits: { ...machine.limits, speed: { ...machine.limits.speed, x: 123 } },
  });
  expect(next.retraction).toBe(machine.retraction);
  expect(machine.limits.speed.x).not.toBe(123);
});

test('what was never set is 0, and can be set', () => {
  const { advance: _, ...bare } = { advance: 0.4, ...MACHINES.heron };
  expect(numberAt(bare, 'advance')).toBe(0);
  expect(numberAt(withNumber(bare, ['advance'], 0.05), 'advance')).toBe(0.05);
  expect(numberAt(FILAMENTS.moss, 'fan.nothing')).toBe(0);
});

test('every number of a form has a name of its own', () => {
  const paths = ['height', 'speeds.travel', 'limits.speed.e', 'limits.cornering.x', 'fan.bridge'];
  const names = paths.map((path) => thingLabels(path));
  expect(names).not.toContain(undefined);
  expect(new Set(names).size).toBe(paths.length);
});
