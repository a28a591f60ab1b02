/** Gaps and ridges of flat patches, seen from above. */

import type { Box } from '../bench/bed';
import { mean, quantile } from '../numbers';
import { ALIKE, FEWEST_PX } from './faces';
import { deviationOfMean } from './fitting';
import { cannotTell, EIGHT_OF_TEN, type Sight, type Spot, type Taken } from './sight';
import { columnOf, rowOf } from './straighten';

/** The rim of a patch is left out, as a share of its shorter side. */
const RIM = 0.12;
/** What is closed all over is this share of a patch at the least. */
const CLOSED = 0.9;
/** Of all patches on a picture, those with the fewest gaps: a single one may shine. */
const FULLEST = 0.8;
/** How far it may be off what closed plastic looks like, as a share. */
const UNSURE = 0.05;
/** A patch is measured in so many parts: how they differ is how sure the number is. */
const PARTS = 4;

/**
 * Share of a flat patch in which the ground shows. `also.grain` is how uneven its light is, which ridges make. What
 * closed plastic looks like is told from the fullest patches of the picture: gaps finer than the photo shows only make a
 * patch a little more like the ground.
 */
export function gaps(sight: Sight, { box }: Spot): Taken {
  if (!sight.plastic) return cannotTell(box, ALIKE);
  if (Math.min(sight.up, sight.across) < FEWEST_PX)
    return cannotTell(box, 'Too few pixels for gaps: go nearer.');
  const inner = innerOf(box);
  const closed = sight.closed();
  const tall = (inner.maxY - inner.minY) / PARTS;
  const parts = Array.from({ length: PARTS }, (_, i) =>
    lookOf(sight, { ...inner, minY: inner.minY + i * tall, maxY: inner.minY + (i + 1) * tall }),
  );
  const whole = lookOf(sight, inner);
  const scatter = deviationOfMean(parts.map(({ share }) => share / closed)) ?? 0;
  return {
    value: Math.max(0, 1 - whole.share / closed),
    spread: EIGHT_OF_TEN * Math.hypot(scatter, UNSURE),
    told: true,
    at: inner,
    also: { grain: whole.grain },
  };
}

/** How much of plastic the closed parts of patches show: 1 where the picture's own colour of plastic is theirs. */
export function closedOf(sight: Sight, patches: readonly Box[]): number {
  const each = patches.map((box) => fullestOf(sight, innerOf(box)));
  return Math.max(0.3, quantile(each, FULLEST));
}

function innerOf(box: Box): Box {
  const rim = RIM * Math.min(box.maxX - box.minX, box.maxY - box.minY);
  return {
    minX: box.minX + rim,
    maxX: box.maxX - rim,
    minY: box.minY + rim,
    maxY: box.maxY - rim,
  };
}

const pixelsOf = ({ flat }: Sight, part: Box) => ({
  from: Math.round(columnOf(flat, part.minX)),
  to: Math.round(columnOf(flat, part.maxX)),
  top: Math.round(rowOf(flat, part.maxY)),
  end: Math.round(rowOf(flat, part.minY)),
});

/** How much plastic a part shows, 0..1, and how its light scatters, as a share of it. */
function lookOf(sight: Sight, part: Box): { share: number; grain: number } {
  const { from, to, top, end } = pixelsOf(sight, part);
  const { flat, plastic, grey } = sight;
  let [n, shown, sum, square] = [0, 0, 0, 0];
  for (let row = top; row < end; row++)
    for (let column = from; column < to; column++, n++) {
      const at = row * flat.width + column;
      // Noise lies on both sides: cut off at plastic and ground, it would be counted as bare.
      shown += Math.max(-0.5, Math.min(1.5, plastic![at]!));
      sum += grey[at]!;
      square += grey[at]! ** 2;
    }
  const light = sum / n;
  return {
    share: shown / n,
    grain: Math.sqrt(Math.max(0, square / n - light ** 2)) / light,
  };
}

/** How much of plastic the fullest places of a part show, the mean of three by three pixels each. */
function fullestOf(sight: Sight, part: Box): number {
  const { from, to, top, end } = pixelsOf(sight, part);
  const { flat, plastic } = sight;
  const means: number[] = [];
  for (let row = top + 1; row < end - 1; row += 2)
    for (let column = from + 1; column < to - 1; column += 2) {
      const near = [-1, 0, 1].flatMap((up) =>
        [-1, 0, 1].map((aside) => plastic![(row + up) * flat.width + column + aside]!),
      );
      means.push(mean(near));
    }
  return means.length > 0 ? quantile(means, CLOSED) : 1;
}
