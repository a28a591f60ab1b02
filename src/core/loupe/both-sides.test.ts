import { againstOther } from './both-sides';
import type { MeasureKept } from './kept';

const NOWHERE = { x: 0, y: 0 };
const gloss = (rung: number, value: number | null): MeasureKept => ({
  name: 'gloss',
  rung,
  value,
  spread: value === null ? null : 0.01,
  unit: 'of the face',
  told: value !== null,
  at: [NOWHERE, NOWHERE, NOWHERE, NOWHERE],
});

test('front less back, rung by rung and in the mean, of rungs that both tell', () => {
  const front = [gloss(0, 0.2), gloss(1, 0.3), gloss(2, null), gloss(3, 0.4)];
  const back = [gloss(3, 0.3), gloss(0, 0.1), gloss(1, 0.22), gloss(2, 0.5)];
  const against = againstOther('gloss', front, back)!;
  expect(against.rungs.map(({ rung }) => rung)).toEqual([0, 1, 3]);
  expect(against.rungs[1]).toMatchObject({ here: 0.3, there: 0.22 });
  expect(against.value).toBeCloseTo((0.1 + 0.08 + 0.1) / 3, 9);
  expect(against.spread).toBeGreaterThan(0.005);
  expect(against.spread).toBeLessThan(0.02);
  // Seen from the other side it is the same number, the other way round.
  expect(againstOther('gloss', back, front)!.value).toBeCloseTo(-against.value, 9);
});

test('nothing is said where no rung is told on both, or of another measure', () => {
  expect(againstOther('gloss', [gloss(0, null)], [gloss(0, 0.1)])).toBeNull();
  expect(againstOther('threads', [gloss(0, 0.1)], [gloss(0, 0.1)])).toBeNull();
});
