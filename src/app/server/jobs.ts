/** What came to its end on a machine stands as printed, whoever was there to see it. */

import 'server-only';
import { Simulated } from '@/store/ladders';
import type { FinishedJob } from '@/store/wires';
import { store } from './store';
import { inThread } from './threads';

const shared = globalThis as { ashKeeping?: Promise<void>; ashUnkept?: Map<number, number> };
/** Jobs that could not be kept, and how often that was tried. */
const unkept = (shared.ashUnkept ??= new Map<number, number>());
const MOST_TRIES = 3;

const waiting = (): FinishedJob[] =>
  store()
    .wires.finished()
    .filter(({ id }) => (unkept.get(id) ?? 0) < MOST_TRIES);

/** Called when something on a machine is another, and when the server starts: one after the other, each once. */
export function keepFinished(): void {
  if (shared.ashKeeping || waiting().length === 0) return;
  shared.ashKeeping = keepAll().finally(() => {
    delete shared.ashKeeping;
    // What ended meanwhile.
    keepFinished();
  });
}

/** Until what has ended by now is kept, or could not be. */
export const whileKeeping = (): Promise<void> => shared.ashKeeping ?? Promise.resolve();

/** What one job leaves behind is no trouble of any other, nor of a page. */
async function keepAll(): Promise<void> {
  for (const job of waiting())
    try {
      await keep(job);
      unkept.delete(job.id);
    } catch (error) {
      unkept.set(job.id, (unkept.get(job.id) ?? 0) + 1);
      process.stderr.write(`Job ${job.id} could not be kept as a print: ${String(error)}\n`);
    }
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
