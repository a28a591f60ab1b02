import { axisOf, cellsOf } from '../plan/axes';
import type { Plan } from '../plan/plan';
import { guessesOf, wronglyChosen } from './best-rows';

const axes = [axisOf('nozzle', [200, 210, 220, 230], 'z'), axisOf('retraction', [1, 2, 3], 'x')];
const rungs = cellsOf(axes).map(({ at, set }, index) => ({ index, at, set }));
const plan = { axes, rungs } as unknown as Plan;

test('a chosen cell speaks of its own column alone, of what is further off as worse and less sure', () => {
  const guesses = guessesOf(plan, [4]);
  expect(guesses.map(({ rung }) => rung)).toEqual([1, 4, 7, 10]);
  const [below, best, above, far] = guesses as [(typeof guesses)[0], ...typeof guesses];
  expect(best!.y).toBeGreaterThan(above!.y);
  expect(below.y).toBeCloseTo(above!.y);
  expect(far!.y).toBeLessThan(above!.y);
  expect(far!.noise).toBeGreaterThan(best!.noise);
});

test.each([
  [[12], 'has cells 0 to 11'],
  [[1.5], 'has cells 0 to 11'],
  [[-1], 'has cells 0 to 11'],
  [[1, 4], 'Two cells of column 2'],
])('%j is refused with words', (chosen, words) => {
  expect(wronglyChosen(plan, chosen)!.what).toContain(words);
});

test('one cell a column is taken, and none as well', () => {
  expect(wronglyChosen(plan, [0, 4, 8])).toBeNull();
  expect(wronglyChosen(plan, [])).toBeNull();
});
