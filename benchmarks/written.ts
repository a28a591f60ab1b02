/** What an hour of printing writes to the disk: everything that the link writes down meanwhile, by the process's own counters. */

import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Progress } from '../src/core/link-state';
import { good } from '../src/core/testing';
import { KeptJob } from '../src/link/kept-job';
import { records } from '../src/link/records';
import { migrationsIn, openStore } from '../src/store/open';
import { furnish } from '../src/store/testing/furnish';
import { row } from './measure';

const HOUR_S = 3600;
/** Lines that a machine takes in a second, and temperatures that it says. */
const [LINES_A_SECOND, WORDS_A_SECOND] = [20, 1];

/** Bytes that this process has had written to the disk. */
const written = (): number =>
  Number(/^write_bytes: (\d+)$/m.exec(readFileSync('/proc/self/io', 'utf8'))![1]);

export function hourOfPrinting(): void {
  const folder = mkdtempSync(join(tmpdir(), 'ash-written-'));
  const path = join(folder, 'ash.sqlite');
  const db = good(openStore(path, migrationsIn('src/store/migrations')));
  const { machine, file } = furnish(db, new Date().toISOString());
  const kept = records(path);
  const at = new Date().toISOString();
  const id = kept.begin({
    machine,
    file,
    kept: null,
    name: 'a',
    lines: 1e6,
    simulated: null,
    had: null,
    at,
  });
  // The clock of the job is turned on instead of waited for.
  let ms = 0;
  const plain = performance.now.bind(performance);
  performance.now = () => ms;
  const job = new KeptJob({ id, name: 'a', file, startedAt: at }, kept, () => undefined);
  const before = written();
  for (let s = 0; s < HOUR_S; s++)
    for (let n = 0; n < LINES_A_SECOND; n++) {
      ms += 1000 / LINES_A_SECOND;
      const line = s * LINES_A_SECOND + n;
      const progress: Progress = {
        state: 'printing',
        line,
        sure: line,
        lines: 1e6,
        why: null,
        nudged: 0,
        hot: false,
        keepsHeatS: null,
      };
      if (n < WORDS_A_SECOND)
        job.warmth({ nozzle: { now: 205.1, target: 205 }, bed: { now: 60.1, target: 60 } });
      job.show(progress);
    }
  performance.now = plain;
  const mb = (written() - before) / 1e6;
  row('an hour of printing writes', `${mb.toFixed(1)} MB (budget 20)`, mb < 20);
  kept.close();
  db.close();
  rmSync(folder, { recursive: true, force: true });
}
