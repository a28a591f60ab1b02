import { slowForCooling } from './cooling';
import { pathLength, type Step, type Stroke } from './step';

const WAYS = { travelSpeed: 150, travelAcceleration: 1500, drawing: 0.5 };
const stroke = (role: Stroke['role'], length: number, speed: number): Step => ({
  do: 'stroke',
  role,
  path: [
    { x: 0, y: 0 },
    { x: length, y: 0 },
  ],
  area: 0.1,
  speed,
});
const time = (steps: Step[]) =>
  steps.reduce((sum, s) => sum + (s.do === 'stroke' ? pathLength(s.path) / s.speed : 0), 0);

test('a short layer is slowed to just the time it needs, its bridges left alone', () => {
  const slowed = slowForCooling([stroke('wall', 100, 50), stroke('bridge', 30, 30)], 6, WAYS);
  expect(time(slowed)).toBeCloseTo(6, 6);
  expect(slowed[1]).toMatchObject({ speed: 30 });
});

test('the time of ways, and of drawing back for them, counts too', () => {
  const way: Step = { do: 'travel', to: { x: 30, y: 0 }, retract: true };
  const layer = [stroke('wall', 100, 50), way, stroke('wall', 20, 50)];
  // 70 mm back at 150 mm/s with 1500 mm/s² are 0.567 s, and drawing back takes half a second.
  expect(time(slowForCooling(layer, 6, WAYS))).toBeCloseTo(6 - 0.567 - 0.5, 2);
});

test('a long layer and a floor of 10 mm/s are kept', () => {
  const long = [stroke('wall', 1000, 50)];
  expect(slowForCooling(long, 6, WAYS)).toEqual(long);
  expect(slowForCooling([stroke('wall', 10, 50)], 60, WAYS)[0]).toMatchObject({ speed: 10 });
});
