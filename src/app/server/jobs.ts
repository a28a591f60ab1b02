/** What came to its end on a machine stands as printed, whoever was there to see it. */

import 'server-only';
import { Simulated } from '@/store/ladders';
import type { FinishedJob } from '@/store/wires';
import { store } from './store';
import { inThread } from './threads';

const shared = globalThis as { ashKeeping?: Promise<void> };

/** One after the other: two pages that ask at once keep a print once. */
export function keepFinished(): Promise<void> {
  if (store().wires.finished().length === 0) return Promise.resolve();
  return (shared.ashKeeping ??= keepAll().finally(() => delete shared.ashKeeping));
}

async function keepAll(): Promise<void> {
  for (const job of store().wires.finished()) await keep(job);
}

async function keep({ id, fileId, endedAt, simulated, had }: FinishedJob): Promise<void> {
  const { db, wires, prints, readings, files } = store();
  const played = simulated === null ? null : Simulated.parse(JSON.parse(simulated));
  const file = files.get(fileId);
  const bytes = file && files.bytes(fileId);
  // Of a simulated machine what came out is worked out from the file that it was sent.
  const out =
    played && file && bytes
      ? await inThread('simulate', {
          bytes,
          plan: file.plan,
          seed: played.seed,
          nudges: wires.nudges(id),
          had,
        })
      : null;
  db.transaction(() => {
    const print = prints.add(fileId, endedAt, played);
    wires.printed(id, print);
    // Whose reading it is, is said by whoever begins to score.
    const reading = readings.start(print, '', endedAt);
    if (!out) return;
    prints.setPicture(print, out.png);
    for (const [key, values] of Object.entries(out.measured))
      readings.measure(reading, key, values, endedAt);
  })();
}
