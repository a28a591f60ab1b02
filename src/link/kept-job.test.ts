import type { Progress } from '../core/link-state';
import { KeptJob } from './kept-job';
import type { Records } from './records';

const PROGRESS: Progress = {
  state: 'printing',
  line: 4,
  sure: 3,
  lines: 9,
  why: null,
  nudged: 0,
  hot: false,
  keepsHeatS: null,
};

function keptBy(save: Records['save']) {
  const records = { save, nudge: () => true } as unknown as Records;
  const sent = { id: 1, name: 'a.gcode', file: 2, startedAt: '2026-12-01T10:00:00.000Z' };
  return new KeptJob(sent, records, () => undefined);
}

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

test('that it is over is shown once it is written: whoever sees it printed finds the print', () => {
  let busy = true;
  const saved: (string | null)[] = [];
  const job = keptBy((_id, _progress, _heat, endedAt) => {
    if (!busy) saved.push(endedAt);
    return !busy;
  });
  job.show(PROGRESS);
  job.show({ ...PROGRESS, state: 'finished' });
  job.end({ ...PROGRESS, state: 'finished' }, 'now');
  expect(job.shown!.state).toBe('printing');
  busy = false;
  jest.advanceTimersByTime(600);
  expect(job.shown!.state).toBe('finished');
  expect(saved).toEqual(['now']);
});

test('while it prints it is written down every five seconds, with the heat that is new', () => {
  const pieces: number[] = [];
  const job = keptBy((_id, _progress, heat) => (pieces.push(heat.length), true));
  for (let s = 0; s < 60; s++) {
    job.warmth({ nozzle: { now: 200 + s, target: 205 } });
    job.show({ ...PROGRESS, line: s });
    jest.advanceTimersByTime(1000);
  }
  expect(pieces.length).toBeLessThanOrEqual(13);
  // One row every two seconds, each once; what came last waits for the next time.
  const written = pieces.reduce((sum, count) => sum + count, 0);
  expect(written).toBeGreaterThan(26);
  expect(written).toBeLessThanOrEqual(30);
});
