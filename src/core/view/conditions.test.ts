/** What the designer says that a file holds while its rungs are printed. */

import type { Values } from '../bench/settings';
import { benchFor, good } from '../testing';
import { kindOf } from '../ladders/registry';
import { Designer } from './designer';

function conditionsFor(kind: string, tuned: Values) {
  const bench = { ...benchFor(), tuned };
  const spec = good(kindOf(kind)).defaults(bench) as Record<string, number>;
  const view = new Designer().design(kind, spec, bench, 6);
  if (!view.ok) throw new Error(JSON.stringify(view.problems));
  return view.conditions;
}

test('what is held as it was found is said to stand, not to come back', () => {
  expect(conditionsFor('retraction', { advance: 0.45 })).toEqual([
    { title: 'pressure advance', value: '0.45 s', back: null },
  ]);
});

test('what a test bends comes back to what was found', () => {
  const conditions = conditionsFor('advance-hairpins', { jerk: 12, acceleration: 800 });
  expect(conditions).toHaveLength(2);
  expect(conditions).toContainEqual({
    title: 'acceleration',
    value: '140 mm/s²',
    back: '800 mm/s²',
  });
  expect(conditions).toContainEqual({ title: 'jerk', value: '5 mm/s', back: '12 mm/s' });
});
