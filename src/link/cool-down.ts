/** Brings a machine to where it is seen to cool: over another connection where the first has ended, again and again. */

import { CoolWatch, heatersOf } from './cooling';
import type { Machine } from './machine';
import { WAITS_MS } from './patience';

export type Cooled =
  /** Told to be off, and seen to fall. */
  | 'falls'
  /** It has taken that, but its temperatures were not seen to fall. */
  | 'told'
  | 'unheard';

const LOOK_MS = 1000;
/** Told once more where nothing falls, ms. */
const AGAIN_MS = 30_000;

/** Answers without a temperature. */
const MOST_MUTE = 5;

const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** @param until ms of performance.now() @param wanted whether it is still to be done @param taken is called when it was told */
export async function coolDown(
  machine: Machine,
  until: number,
  wanted: () => boolean = () => true,
  everyMs = LOOK_MS,
  taken: () => void = () => undefined,
): Promise<Cooled> {
  let told: { at: number } | null = null;
  let watch = new CoolWatch();
  let mute = 0;
  const left = () => until - performance.now();
  while (wanted() && left() > 0) {
    if (machine.wire.over) {
      told = null;
      watch = new CoolWatch();
      const met = await machine.anew(Math.min(WAITS_MS.comesUp, left()));
      if (!met.ok) await sleep(Math.min(everyMs, Math.max(0, left())));
      continue;
    }
    if (!told || performance.now() - told.at > AGAIN_MS) {
      const done = await machine.cool();
      if (done.ok) {
        told = { at: performance.now() };
        taken();
      }
      continue;
    }
    const asked = await machine.ask('M105');
    if (asked.ok && watch.look(machine.heat)) return 'falls';
    // Who never says how warm it is will not say that it cools.
    if (asked.ok && heatersOf(machine.heat).length === 0 && ++mute > MOST_MUTE) return 'told';
    await sleep(Math.min(everyMs, Math.max(0, left())));
  }
  return told ? 'told' : 'unheard';
}
