import type { Progress } from '../core/link-state';
import { againstNudge } from './nudging';

const FLOORS = [
  { line: 20, least: -0.06 },
  { line: 80, least: 0.02 },
];
const job = (more: Partial<Progress> = {}) => ({
  progress: {
    state: 'printing' as const,
    line: 40,
    sure: 39,
    lines: 100,
    why: null,
    keepsHeatS: null,
    hot: false,
    nudged: 0,
    ...more,
  },
});

test.each([
  [job(), null, -0.02, 'no first-layer ladder'],
  [job({ state: 'paused' }), FLOORS, 0.02, 'does not print now'],
  [job({ line: 20 }), FLOORS, -0.02, 'have not begun'],
  [job({ nudged: -0.05 }), FLOORS, -0.02, '-0.06 mm is as low'],
  [job({ nudged: 0.48 }), FLOORS, 0.05, 'in the air'],
])('%#: refused, %s', (given, floors, mm, why) => {
  expect(againstNudge(given, floors, mm)!.what).toContain(why);
});

test('to the floor itself it goes, and up again from under one that has risen', () => {
  expect(againstNudge(job({ nudged: -0.01 }), FLOORS, -0.05)).toBeNull();
  const under = job({ nudged: -0.06, line: 90, sure: 88 });
  expect(againstNudge(under, FLOORS, 0.02)).toBeNull();
  expect(againstNudge(under, FLOORS, -0.02)!.what).toContain('0.02 mm is as low');
  // What the machine has surely taken counts, not what was given ahead.
  expect(againstNudge(job({ nudged: -0.01, line: 90, sure: 70 }), FLOORS, -0.05)).toBeNull();
});
