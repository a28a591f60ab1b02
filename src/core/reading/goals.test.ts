import { kinds } from '../ladders/registry';
import { temperatureKind } from '../testing';
import { defaultWeights } from './gather';
import { GOAL_NAMES, hasGoals, weightsFor } from './goals';
import { Weights } from './types';

const kind = temperatureKind();

test('balanced is what a kind starts with; looks and strength raise what serves them and keep the rest', () => {
  expect(weightsFor('balanced', kind)).toEqual(defaultWeights(kind));
  const looks = weightsFor('looks', kind);
  const strength = weightsFor('strength', kind);
  expect(looks.gloss).toBeGreaterThan(looks['layer adhesion']!);
  expect(strength['layer adhesion']).toBeGreaterThan(strength.gloss!);
});

test.each(kinds().map((one) => [one.id, one] as const))(
  'every goal of %s gives each of its criteria a weight that a slider has, and leaves none out',
  (_, one) => {
    for (const goal of GOAL_NAMES) {
      const weights = weightsFor(goal, one);
      expect(Weights.safeParse(weights).success).toBe(true);
      expect(Object.keys(weights)).toEqual(one.criteria.map(({ name }) => name));
      for (const weight of Object.values(weights)) {
        expect(weight).toBeGreaterThan(0);
        expect(weight * 10).toBeCloseTo(Math.round(weight * 10), 9);
      }
    }
  },
);

test('a kind whose criteria all serve one goal, or that is measured, offers none', () => {
  expect(hasGoals(kind)).toBe(true);
  expect(hasGoals({ criteria: [] })).toBe(false);
  expect(hasGoals({ criteria: [{ name: 'overhang', weight: 1, where: '' }] })).toBe(false);
});
