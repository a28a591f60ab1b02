/** What stands against a picture, before anything is measured on it, and what to do. */

import type { Box } from '../bench/bed';
import { quantile } from '../numbers';
import { problem, type Problem } from '../result';
import { FEWEST_PX } from './layer-pitch';
import type { Told } from './plastic';
import { columnOf, rowOf, scales, type Flat, type Pose } from './straighten';

/** Nearest and furthest corner may differ by this in scale; across and upward by this. */
const [UNEVEN, SQUEEZED] = [1.5, 1.6];
/** Lightness under which nearly all of a dark picture lies, and share of it that may be blown out. */
const [DARK, GLARE] = [0.18, 0.03];
/** Blur that swallows layers: width of an edge, in layers. */
const SOFT = 1.6;

export type Quality = {
  problems: Problem[];
  /** Fewest pixels a millimetre, upward and across. */
  up: number;
  across: number;
  /** Width over which the outline turns from ground to plastic, mm; null where there is none. */
  soft: number | null;
};

/** @param layer layer height, mm */
export function qualityOf(
  pose: Pose,
  flat: Flat,
  grey: Float32Array,
  told: Told | null,
  layer: number | null,
): Quality {
  const all = scales(pose);
  const up = Math.min(...all.map((one) => one.up));
  const across = Math.min(...all.map((one) => one.across));
  const problems: Problem[] = [];
  const sizes = all.map((one) => Math.sqrt(one.up * one.across));
  const [small, large] = [Math.min(...sizes), Math.max(...sizes)];
  const squeeze = Math.max(...all.map((one) => Math.max(one.up / one.across, one.across / one.up)));
  if (large / small > UNEVEN || squeeze > SQUEEZED)
    problems.push(
      problem(
        'slant',
        'The picture is taken at a steep slant: near and far parts differ too much.',
        'Hold it straight before the print.',
      ),
    );
  if (layer !== null && up * layer < FEWEST_PX)
    problems.push(
      problem(
        'pixels',
        `A layer of ${layer} mm has ${(up * layer).toFixed(1)} pixels; two and a half are needed, four are good.`,
        'Go nearer, or take part of the print at a time.',
      ),
    );
  const inside = insideOf(flat, grey, pose.box);
  if (quantile(inside, 0.95) < DARK)
    problems.push(
      problem('light', 'The print is too dark to be told.', 'Bring a lamp, or a longer exposure.'),
    );
  if (inside.filter((value) => value > 0.985).length > GLARE * inside.length)
    problems.push(
      problem(
        'glare',
        'Glare covers part of the print.',
        'Turn it, or take the light further to the side.',
      ),
    );
  const soft = told ? edgeWidth(flat, told, pose.box) : null;
  if (soft !== null && soft > Math.max(0.25, SOFT * (layer ?? 0.2)))
    problems.push(
      problem(
        'soft',
        `The outline is soft: it turns over ${soft.toFixed(2)} mm.`,
        'Hold it still, touch the print on the screen to focus, and take it again.',
      ),
    );
  if (!told)
    problems.push(
      problem(
        'ground',
        'Print and ground have nearly the same colour: outlines and openings cannot be told.',
        'Lay it before another colour.',
      ),
    );
  return { problems, up, across, soft };
}

function insideOf(flat: Flat, grey: Float32Array, box: Box): number[] {
  const [from, to] = [columnOf(flat, box.minX), columnOf(flat, box.maxX)].map(Math.round) as [
    number,
    number,
  ];
  const [top, end] = [rowOf(flat, box.maxY), rowOf(flat, box.minY)].map(Math.round) as [
    number,
    number,
  ];
  const step = Math.max(1, Math.floor(Math.sqrt(((to - from) * (end - top)) / 10_000)));
  const inside: number[] = [];
  for (let row = top; row < end; row += step)
    for (let column = from; column < to; column += step)
      inside.push(grey[row * flat.width + column]!);
  return inside;
}

/** Middle of the widths over which rows turn from a fifth to four fifths of plastic, mm. */
function edgeWidth(flat: Flat, { plastic }: Told, box: Box): number | null {
  const { width, pxPerMm } = flat;
  const widths: number[] = [];
  const [top, end] = [rowOf(flat, box.maxY), rowOf(flat, box.minY)].map(Math.round) as [
    number,
    number,
  ];
  const rows = 90;
  for (let k = 0; k < rows; k++) {
    const row = Math.round(top + ((end - top) * (k + 0.5)) / rows);
    if (row < 0 || row >= flat.height) continue;
    let low = -1;
    for (let column = 0; column < width; column++) {
      const now = plastic[row * width + column]!;
      if (now < 0.2) low = column;
      else if (now > 0.8) {
        if (low >= 0 && column - low < 3 * pxPerMm) widths.push((column - low) / pxPerMm);
        low = -1;
      }
    }
  }
  return widths.length < 8 ? null : quantile(widths, 0.3);
}
