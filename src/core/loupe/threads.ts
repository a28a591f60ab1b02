/**
 * Threads between posts: thin lines across what is open. They are counted where they cross each upright cut through
 * the opening, so that broken ones and bent ones count by their length.
 */

import { clamp, mean, quantile } from '../numbers';
import { ALIKE } from './faces';
import { deviationOfMean, robustDeviation } from './fitting';
import { openingsIn } from './openings';
import { cannotTell, EIGHT_OF_TEN, type Sight, type Spot, type Taken } from './sight';
import { columnOf, rowOf } from './straighten';

/** Width of a cut, mm: threads run nearly level, and noise is averaged over it. */
const CUT = 0.6;
/** A thread is thinner than this, mm. */
const THICKEST = 0.45;
/** The ground is looked for within this way, mm: this share of what is there is not lighter. */
const [BESIDE, GROUND] = [1.4, 0.2];
/**
 * Its scatter is told from how far this share lies below that one: what lies above may be threads. The two are this
 * many deviations apart, whether no threads are there (0.80) or half of all is threads (1.03).
 */
const [DARKEST, APART] = [0.05, 0.9];
/** A thread stands out of the ground by this many times its scatter, and by this share of the plastic's contrast. */
const [STANDS_OUT, LEAST] = [4.2, 0.05];
/** Fewest pixels of the photo a millimetre by which threads are seen at all. */
const FEWEST_PX = 7;
/** Least area of openings, mm². */
const LEAST_AREA = 4;
/** Threads of so many layers are told apart from above. */
const FEW_LAYERS = 3;
/** Pieces of an opening that are counted apart. */
const PARTS = 6;
/** Edges of posts and beams, mm, where no thread can be told from them. */
const RIM = 0.25;

export function threads(sight: Sight, { rung, box }: Spot): Taken {
  const { flat, plastic, up } = sight;
  if (up < FEWEST_PX)
    return cannotTell(
      box,
      `A millimetre has ${up.toFixed(1)} pixels: go nearer, until it has ten.`,
    );
  if (!plastic) return cannotTell(box, ALIKE);
  if (sight.side === 'top' && layersOf(sight, rung) > FEW_LAYERS)
    return cannotTell(
      box,
      'From above, threads of all layers lie over each other: count them by eye.',
    );
  const openings = openingsIn(sight, box);
  if (!openings) return cannotTell(box, 'Nothing is open here.');
  const { open, columns, rows, cell } = openings;
  const per = Math.max(1, Math.round(CUT / cell));
  const cuts: { count: number; width: number; tall: number }[] = [];
  const lines: { line: Float64Array; cut: number }[] = [];
  const halves: Float64Array[] = [];
  for (let c = 0; c + per <= columns; c += per) {
    let cutOpen = false;
    for (let r = 0; r < rows;) {
      const isOpen = (row: number) => {
        for (let k = 0; k < per; k++) if (!open[row * columns + c + k]) return false;
        return true;
      };
      if (!isOpen(r)) {
        r++;
        continue;
      }
      let end = r;
      while (end < rows && isOpen(end)) end++;
      const from = box.minY + r * cell + RIM;
      const to = box.minY + end * cell - RIM;
      if (to - from > 2 * THICKEST) {
        if (!cutOpen) cuts.push({ count: 0, width: per * cell, tall: 0 });
        cutOpen = true;
        const [x, half] = [box.minX + c * cell, (per * cell) / 2];
        const near = lineOf(sight, x, half, from, to);
        const far = lineOf(sight, x + half, half, from, to);
        lines.push({ line: near.map((value, i) => (value + far[i]!) / 2), cut: cuts.length - 1 });
        // Threads run nearly level: what the halves of a cut differ by is noise.
        halves.push(near.map((value, i) => (value - far[i]!) / 2));
      }
      r = end;
    }
  }
  const area = lines.reduce((sum, { line }) => sum + (line.length / flat.pxPerMm) * per * cell, 0);
  if (area < LEAST_AREA) return cannotTell(box, 'Nothing is open here between posts.');
  const levelled = lines.map(({ line, cut }) => ({ ...aboveGround(line, flat.pxPerMm), cut }));
  // Both are too high where threads are many, each for a reason of its own.
  const noise = Math.min(
    quantile(
      levelled.map((one) => one.noise),
      0.5,
    ),
    robustDeviation(halves.flatMap((one) => [...one])),
  );
  const limit = Math.max(LEAST, STANDS_OUT * noise);
  if (limit > 0.35)
    return cannotTell(box, 'The picture is too rough for threads to be told: more light.');
  for (const { line, cut } of levelled) {
    cuts[cut]!.count += peaksIn(line, limit, flat.pxPerMm);
    cuts[cut]!.tall += line.length / flat.pxPerMm;
  }
  const length = cuts.reduce((sum, { count, width }) => sum + count * width, 0);
  // How much of the ground they cover tells how thick they are, where they are too many to be counted as well.
  const all = lines.flatMap(({ line }) => [...line]);
  const cover = mean(all.map((share) => clamp(share, 0, 1.5)));
  // What hangs before an opening, and its rims, hide threads: as many a millimetre are there as where one sees.
  const seen = cuts.reduce((sum, { tall, width }) => sum + tall * width, 0);
  const tallest = Math.max(...cuts.map(({ tall }) => tall)) + 2 * RIM;
  const value = (length / seen) * tallest;
  // Counts of neighbouring cuts go together: how parts of the opening differ is how sure the number is.
  const size = Math.max(1, Math.ceil(cuts.length / PARTS));
  const parts = Array.from({ length: Math.ceil(cuts.length / size) }, (_, p) => {
    const some = cuts.slice(p * size, (p + 1) * size);
    const [sum, tall] = some.reduce(([a, b], one) => [a + one.count, b + one.tall], [0, 0]);
    return (sum / tall) * tallest;
  });
  const scatter = deviationOfMean(parts) ?? value / 2;
  // Threads that touch are counted as one.
  const crowd = (value * value * THICKEST) / (4 * Math.max(1, box.maxY - box.minY));
  const deviation = Math.hypot(scatter, 0.15, 0.06 * value, crowd);
  return {
    value,
    spread: EIGHT_OF_TEN * deviation,
    told: true,
    at: box,
    also: { length: (length * tallest * seenWidth(cuts)) / seen, open: area, cover },
  };
}

function layersOf({ plan }: Sight, rung: number): number {
  const { first, last } = plan.rungs[rung]!.layers;
  return last - first + 1;
}

const seenWidth = (cuts: readonly { width: number }[]): number =>
  cuts.reduce((sum, { width }) => sum + width, 0);

/** How much plastic is seen along an upright cut, from below, the mean of its width. */
function lineOf({ flat, plastic }: Sight, x: number, wide: number, from: number, to: number) {
  const [c0, c1] = [Math.round(columnOf(flat, x)), Math.round(columnOf(flat, x + wide))];
  const [low, high] = [Math.round(rowOf(flat, from)), Math.round(rowOf(flat, to))];
  const line = new Float64Array(Math.max(1, low - high));
  for (let i = 0; i < line.length; i++) {
    const start = (low - 1 - i) * flat.width;
    let sum = 0;
    for (let c = c0; c < c1; c++) sum += plastic![start + c]!;
    line[i] = sum / (c1 - c0);
  }
  return line;
}

/** A line less the ground around each place, the lower part of what lies near, and the scatter of that ground. */
function aboveGround(line: Float64Array, pxPerMm: number): { line: Float64Array; noise: number } {
  const reach = Math.max(2, Math.round(BESIDE * pxPerMm));
  // The ground changes slowly: it is looked at in every few places only.
  const step = Math.max(1, Math.floor(reach / 4));
  const ground: number[] = [];
  let scatter = 0;
  for (let i = 0; i < line.length + step; i += step) {
    const near = line.subarray(Math.max(0, i - reach), i + reach + 1);
    ground.push(quantile(near, GROUND));
    scatter += (ground.at(-1)! - quantile(near, DARKEST)) / APART;
  }
  return {
    noise: scatter / ground.length,
    line: line.map((value, i) => {
      const k = Math.floor(i / step);
      const share = i / step - k;
      return value - ground[k]! * (1 - share) - ground[k + 1]! * share;
    }),
  };
}

/** Number of peaks above a limit, each thinner than a thread may be; thicker ones count for as many as fit. */
function peaksIn(line: Float64Array, limit: number, pxPerMm: number): number {
  let count = 0;
  for (let i = 0; i < line.length; i++) {
    const before = i > 0 ? line[i - 1]! : -Infinity;
    const after = i < line.length - 1 ? line[i + 1]! : -Infinity;
    if (line[i]! < limit || line[i]! < before || line[i]! <= after) continue;
    // Two tops with no dip between them are one thread.
    let j = i + 1;
    let dip = line[i]!;
    while (j < line.length && line[j]! >= limit && j - i < pxPerMm) {
      dip = Math.min(dip, line[j]!);
      if (line[j]! > line[i]!) break;
      if (line[j]! - dip > 0.3 * line[i]!) break;
      j++;
    }
    count++;
    i =
      line[j] !== undefined && line[j]! >= limit && line[j]! > line[i]! && dip > 0.7 * line[i]!
        ? j
        : i;
  }
  return count;
}
