import { addedBy, addedSince, type PutIn } from './added';

const put = (
  at: string,
  before: number | null,
  value: number,
  more: Partial<PutIn> = {},
): PutIn => ({
  setting: 'zOffset',
  value,
  before,
  simulated: false,
  at,
  takenBackAt: null,
  ...more,
});
const asked = { setting: 'zOffset' as const, simulated: false, at: '2026-05-02' };

test('only what was added later counts, and what was taken back does not', () => {
  const puts = [
    put('2026-05-04', -1.25, -1.2),
    put('2026-05-03', -1.2, -1.25),
    put('2026-05-03', -1.2, -1.3, { takenBackAt: '2026-05-03' }),
    put('2026-05-01', 0, -1.2),
    put('2026-05-03', 0, 9, { simulated: true }),
    put('2026-05-03', 1, 2, { setting: 'advance' }),
  ];
  expect(addedSince(puts, asked)).toBe(0);
  expect(addedSince(puts.slice(1), asked)).toBe(-0.05);
  expect(addedSince(puts, { ...asked, simulated: true })).toBe(9);
  expect(addedSince(puts, { ...asked, at: '2026-05-04' })).toBe(0);
});

test('where nothing is known of before, nothing counts as added', () => {
  expect(addedBy({ before: null, value: 3 })).toBe(0);
  expect(addedBy({ before: -1.2, value: -1.15 })).toBe(0.05);
});
