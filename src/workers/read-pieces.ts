/** Reads a file piece by piece, in whatever worker: its bytes and what they do. */

import { Reader } from '../core/gcode/read';
import type { Trace } from '../core/gcode/trace';
import type { Machine } from '../core/bench/machine';

/** How often it is told how far it is, as a share of the whole. */
const TOLD_EVERY = 0.02;

/** @param progress told shares from 0, at once, to `most` */
export async function readPieces(
  source: Blob,
  machine: Machine,
  most: number,
  progress: (share: number) => void,
): Promise<{ bytes: Uint8Array<ArrayBuffer>; trace: Trace }> {
  progress(0);
  const bytes = new Uint8Array(source.size);
  const reader = new Reader(machine);
  const stream = source.stream().getReader();
  let at = 0;
  let told = 0;
  // Until all of it is here: that a stream has ended is sometimes never told by the browser.
  while (at < source.size) {
    const { done, value } = await stream.read();
    if (done) break;
    bytes.set(value, at);
    reader.push(value);
    at += value.length;
    const share = (most * at) / Math.max(1, source.size);
    if (share - told > TOLD_EVERY) progress((told = share));
  }
  void stream.cancel().catch(() => undefined);
  progress(most);
  return { bytes, trace: reader.end() };
}
