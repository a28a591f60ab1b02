import { NOTICED } from '../understudy/eye';
import { curveOf, NOTICEABLE, regretMeasured, regretOn } from './regret';

/** Best at 3; a fault that grows with the distance from it. */
const values = [5, 4, 3, 2, 1];
const curve = curveOf(
  values,
  values.map((value) => 4 - Math.abs(value - 3)),
  values.map((value) => ({ corners: 0.1 * Math.abs(value - 3) })),
);

test('nothing is lost at the best, and more the farther away, between rungs too', () => {
  expect(regretOn(curve, 3, 3)).toEqual({ loss: 0, excess: { corners: 0 } });
  expect(regretOn(curve, 2.5, 3).loss).toBeCloseTo(0.5, 9);
  expect(regretOn(curve, 2.5, 3).excess.corners).toBeCloseTo(0.05, 9);
  expect(regretOn(curve, 4, 3).loss).toBeCloseTo(1, 9);
});

test('beyond the ends of what was printed, the end is what is known', () => {
  expect(regretOn(curve, 99, 3)).toEqual(regretOn(curve, 5, 3));
  expect(regretOn(curve, -99, 3)).toEqual(regretOn(curve, 1, 3));
});

test('on the clean side of a limit nothing is lost', () => {
  // The limit is at 4: at 3 it prints better still.
  expect(regretOn(curve, 3, 4).loss).toBe(0);
  expect(regretOn(curve, 5, 4).loss).toBeCloseTo(1, 9);
});

test('an error in what was measured is noticed just where the eye begins to', () => {
  const [noticed] = NOTICED.gaps;
  expect(regretMeasured('wall', 1, 1)).toEqual({ loss: 0, excess: { gaps: 0 } });
  expect(regretMeasured('wall', 1 - noticed, 1).loss).toBeCloseTo(NOTICEABLE, 6);
  expect(regretMeasured('wall', 1 - 0.9 * noticed, 1).loss).toBeLessThan(NOTICEABLE);
  expect(regretMeasured('wall', 1.06, 1).excess).toHaveProperty('ridges');
  // Filament that goes farther a turn than was thought: too little comes.
  expect(regretMeasured('left', 8, 7.7).excess).toHaveProperty('gaps');
});
