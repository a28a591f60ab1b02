/**
 * What a machine made of what was put in, frequency by frequency, where it is known what was put in when: the strokes of a
 * shake file speed up and slow down by one acceleration, a square wave whose first harmonic is `4a/π`.
 */

import { nearMiddleOf, shareOf } from './columns';
import type { ShakeMarks, Sweep } from './marks';
import type { ShakeRecord } from './record';

/** Frequencies, Hz, and how many times what was put in came out there. */
export type Response = { hz: number[]; ratio: number[] };

/** Where a record stands on the marks of its file. */
export type Aligned = {
  /** Sample at which the first knock begins, and samples a second of the file's clock. */
  start: number;
  rate: number;
};

/** Windows in which a record is quiet or moves, s. */
const WINDOW = 0.01;
/** Times the quietest part above which it moves; a knock comes to this share of what is put in. */
const [MOVES, SHARE] = [1.7, 0.3];
/** Pauses shorter than this, s, belong to what moves. */
const PAUSE = 0.08;
/**
 * How far, s, the sweep may begin from where the knock says, and how much longer or shorter it may take, as shares: the
 * highest frequencies may be hardly felt.
 */
const [SLACK, LONGER, SHORTER] = [0.12, 0.02, 0.25];

/** A stretch in which a record moves, in samples, and the most that it moves by, mm/s². */
type Run = { from: number; to: number; most: number };

function movingIn({ x, y, z, rate }: ShakeRecord): Run[] {
  const size = Math.max(2, Math.round(WINDOW * rate));
  const middles = [x, y, z].map(nearMiddleOf);
  const count = Math.floor(x.length / size);
  const strength = Float64Array.from({ length: count }, (_, w) => {
    let sum = 0;
    [x, y, z].forEach((column, axis) => {
      for (let i = w * size; i < (w + 1) * size; i++) sum += (column[i]! - middles[axis]!) ** 2;
    });
    return Math.sqrt(sum / size);
  });
  const over = MOVES * shareOf(strength, 0.03);
  const runs: Run[] = [];
  strength.forEach((one, w) => {
    if (one < over) return;
    const last = runs.at(-1);
    if (last && w * size - last.to < PAUSE * rate) {
      last.to = (w + 1) * size;
      last.most = Math.max(last.most, one);
    } else runs.push({ from: w * size, to: (w + 1) * size, most: one });
  });
  return runs;
}

/** Finds the knock in a record; null where there is none, or where the machine did not keep to the file's times. */
export function alignedTo(record: ShakeRecord, marks: ShakeMarks): Aligned | null {
  const { rate } = record;
  const { knock, rest, sweeps } = marks;
  const runs = movingIn(record);
  for (let i = 0; i + 1 < runs.length; i++) {
    const [{ from, to, most }, { from: next }] = [runs[i]!, runs[i + 1]!];
    const began = (next - from) / rate;
    if (most < SHARE * marks.acceleration || (to - from) / rate > knock + rest / 2) continue;
    if (Math.abs(began - knock - rest) > SLACK) continue;
    // The first run is long, and the last ends where the last sweep does.
    const last = sweeps.at(-1)!;
    const planned = last.after + last.ends;
    const end = from + (planned + 1) * rate;
    const taken = (runs.filter((run) => run.from <= end).at(-1)!.to - from) / rate;
    if (taken > planned * (1 + LONGER) || taken < planned * (1 - SHORTER)) continue;
    return { start: from, rate };
  }
  return null;
}

/** First sample of a sweep, and the one after its last. */
export const samplesOf = (
  { start, rate }: Aligned,
  { after, steps, ends }: Sweep,
): [number, number] => [
  Math.round(start + (after + steps[0]![0]) * rate),
  Math.round(start + (after + ends) * rate),
];

/** @param column what the sensor tells along the direction of the sweep, mm/s² */
export function responseOf(
  column: Float64Array,
  { start, rate }: Aligned,
  { after, steps, ends }: Sweep,
  acceleration: number,
): Response {
  const response: Response = { hz: [], ratio: [] };
  steps.forEach(([begins, hz], k) => {
    const from = Math.round(start + (after + begins) * rate);
    const to = Math.round(start + (after + (steps[k + 1]?.[0] ?? ends)) * rate);
    if (from < 0 || to > column.length || to - from < 8) return;
    let [sum, cosines, sines] = [0, 0, 0];
    for (let i = from; i < to; i++) sum += column[i]!;
    const middle = sum / (to - from);
    const turn = (2 * Math.PI * hz) / rate;
    for (let i = from; i < to; i++) {
      const value = column[i]! - middle;
      cosines += value * Math.cos(turn * (i - from));
      sines += value * Math.sin(turn * (i - from));
    }
    const amplitude = (2 * Math.hypot(cosines, sines)) / (to - from);
    response.hz.push(hz);
    response.ratio.push(amplitude / ((4 / Math.PI) * acceleration));
  });
  return response;
}
