import { isOver, JOB_NEXT, MAY_WISH, type JobState } from './job-states';

const STATES = Object.keys(JOB_NEXT) as JobState[];

test('from every state that is not an end, an end can be reached; from an end nothing', () => {
  const ends = (from: JobState, seen = new Set<JobState>()): boolean =>
    isOver(from) ||
    (!seen.has(from) && JOB_NEXT[from].some((next) => ends(next, new Set([...seen, from]))));
  for (const state of STATES) expect(ends(state)).toBe(true);
  expect(STATES.filter(isOver)).toEqual(['finished', 'stopped', 'failed']);
});

test('whatever has not ended may fail, and may be stopped unless it is being stopped', () => {
  for (const state of STATES.filter((one) => !isOver(one))) {
    expect(JOB_NEXT[state]).toContain('failed');
    if (state !== 'stopping') expect(MAY_WISH.stop).toContain(state);
  }
});
