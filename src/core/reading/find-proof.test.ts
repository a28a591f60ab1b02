import fc from 'fast-check';
import { CRITERION_NAMES, type Criterion } from '../criteria';
import { benchFor, good } from '../testing';
import { makeLadder } from '../ladders/make';
import { proof } from '../ladders/proof/kind';
import { orderOf } from '../ladders/proof/sets';
import type { LadderKind } from '../ladders/types';
import { normal, seeded } from '../random';
import { findValue } from './find-value';
import type { Score, Scores } from './types';

const kind = proof as unknown as LadderKind;
const bench = { ...benchFor('wren'), tuned: { flow: 0.96, retraction: 1 } };
const names = kind.criteria.map(({ name }) => name);

/** A proof whose A is one side. */
function planWith(first: 'before' | 'after') {
  let seed = 1;
  while (orderOf({ seed })[0] !== first) seed++;
  return good(makeLadder('proof', { seed }, bench)).plan;
}
const plan = planWith('before');

/** Scores of A and B by criterion. */
const scores = (of: (name: Criterion) => [number, number]): Scores =>
  Object.fromEntries(names.map((name) => [name, of(name) as [Score, Score]]));
const find = (readings: Scores[], on = plan) => findValue(kind, on, bench, { readings });

test('clearly better in one criterion, the same in all others: the values passed', () => {
  const {
    verdict,
    values,
    proof: told,
    reason,
  } = good(find([scores((name) => (name === 'stringing' ? [0, 4] : [3, 3]))]));
  expect(verdict).toBe('value');
  expect(told!.told).toBe('better');
  expect(told!.order).toEqual(['before', 'after']);
  expect(told!.criteria.find(({ name }) => name === 'stringing')).toMatchObject({
    before: 0,
    after: 4,
    told: 'better',
  });
  expect(reason).toContain('Better after: stringing.');
  expect(values).toEqual([
    { setting: 'flow', value: 0.96, range: null },
    { setting: 'retraction', value: 1, range: null },
  ]);
});

test('the same scores with A and B the other way round tell the opposite', () => {
  const given = scores((name) => (name === 'stringing' ? [0, 4] : [3, 3]));
  const { proof: told, verdict, values } = good(find([given], planWith('after')));
  expect(told!.told).toBe('worse');
  expect(told!.order).toEqual(['after', 'before']);
  expect(verdict).toBe('no-effect');
  expect(values.every(({ value }) => value === null)).toBe(true);
});

test('one score apart proves nothing, however it lies', () => {
  const { proof: told, reason } = good(
    find([scores((name) => (name === 'stringing' ? [2, 3] : name === 'seam' ? [3, 2] : [3, 3]))]),
  );
  expect(told!.told).toBe('same');
  expect(reason).toContain('Nothing differs');
});

test('a little better everywhere is better, though no criterion decides', () => {
  const { proof: told, reason } = good(find([scores(() => [2, 3])]));
  expect(told!.told).toBe('better');
  expect(told!.criteria.every((one) => one.told !== 'better')).toBe(true);
  expect(reason).toContain('all together');
});

test('better here and worse there is said so, and proves nothing', () => {
  const { proof: told, verdict } = good(
    find([
      scores((name) => (name === 'stringing' ? [0, 4] : name === 'bridging' ? [4, 0] : [3, 3])),
    ]),
  );
  expect(told!.told).toBe('mixed');
  expect(verdict).toBe('no-effect');
});

test('two apart is not sure from one look, and is from several', () => {
  const apart = scores((name) => (name === 'stringing' ? [2, 4] : [3, 3]));
  const of = (readings: Scores[]) =>
    good(find(readings)).proof!.criteria.find(({ name }) => name === 'stringing')!;
  expect(of([apart]).told).toBe('unsure');
  expect(of([apart, apart, apart]).told).toBe('better');
  expect(of([apart, apart, apart]).sure).toBeGreaterThan(of([apart]).sure);
});

test('equal parts are seldom called anything but the same, whatever an eye scatters', () => {
  let same = 0;
  for (let seed = 1; seed <= 200; seed++) {
    const random = seeded(seed);
    const one = () => Math.max(0, Math.min(4, Math.round(2.5 + 0.5 * normal(random))));
    same += good(find([scores(() => [one(), one()])])).proof!.told === 'same' ? 1 : 0;
  }
  expect(same).toBeGreaterThanOrEqual(180);
});

test('how sure is a share, and a larger difference never makes less sure of it', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 4 }), fc.integer({ min: 1, max: 4 }), (was, readers) => {
      const of = (is: number) => {
        const given = scores((name) => (name === 'stringing' ? [was, is] : [3, 3]));
        const all = Array.from({ length: readers }, () => given);
        const [one] = good(find(all)).proof!.criteria.filter(({ name }) => name === 'stringing');
        return one!.told === 'same' ? 1 - one!.sure : one!.sure;
      };
      const chances = [0, 1, 2, 3, 4].filter((is) => is >= was).map(of);
      chances
        .slice(1)
        .forEach((chance, i) => expect(chance).toBeGreaterThanOrEqual(chances[i]! - 1e-9));
      for (const chance of chances) expect(chance >= 0 && chance <= 1).toBe(true);
    }),
    { seed: 3, numRuns: 20 },
  );
});

test('nothing is told before enough is scored on both', () => {
  const few = Object.fromEntries(names.slice(0, 4).map((name) => [name, [3, 3] as [Score, Score]]));
  const early = find([few]);
  expect(early.ok ? '' : early.problems[0]!.what).toBe(
    '4 of 8 criteria are scored on both parts; which is which is told after 5.',
  );
  const one = find([Object.fromEntries(CRITERION_NAMES.map((name) => [name, [3, null]]))]);
  expect(one.ok ? '' : one.problems[0]!.what).toContain('0 of 8');
});
