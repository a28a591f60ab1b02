/** Measures of what a rung's face and outline look like: edge, gloss, bulge, sag, gaps, stroke width. */

import type { Box } from '../bench/bed';
import { mean, quantile } from '../numbers';
import { deviationOfMean, leastSquares, robustDeviation } from './fitting';
import { openArea, openingsIn } from './openings';
import { withoutTrend } from './periods';
import { cannotTell, EIGHT_OF_TEN, type Sight, type Spot, type Taken } from './sight';
import { columnOf, rowOf } from './straighten';

const ALIKE = 'Print and ground look alike: lay it before another colour.';
/** The outline is looked for this far out and in, mm. */
const [OUT, IN] = [1.6, 6];
/** Fewest pixels a millimetre by which an outline is followed. */
const FEWEST_PX = 6;

/**
 * Where the plastic ends at the sides of a band, from outside inward: mm from the place's edge, one a row; outward
 * is above 0. Rows where nothing is found are left out.
 */
function outlineOf(
  { flat }: Sight,
  plastic: Float32Array,
  box: Box,
  side: 'left' | 'right',
): { z: number; off: number }[] {
  const { width, height, pxPerMm, bottom } = flat;
  const top = Math.round(rowOf(flat, box.maxY));
  const end = Math.round(rowOf(flat, box.minY));
  const edge = columnOf(flat, side === 'left' ? box.minX : box.maxX);
  const inward = side === 'left' ? 1 : -1;
  const found: { z: number; off: number }[] = [];
  for (let row = Math.max(0, top); row < Math.min(height, end); row++) {
    let before = NaN;
    for (let s = -OUT * pxPerMm; s <= IN * pxPerMm; s++) {
      const column = Math.round(edge + inward * s);
      if (column < 0 || column >= width) continue;
      const now = plastic[row * width + column]!;
      // What stays plastic for a third of a millimetre is no thread.
      if (before < 0.5 && now >= 0.5 && stays(plastic, row * width + column, inward, pxPerMm)) {
        const back = (now - 0.5) / (now - before);
        found.push({
          z: bottom + (height - row - 0.5) / pxPerMm,
          off: -inward * ((column + 0.5 - inward * back - edge) / pxPerMm),
        });
        break;
      }
      before = now;
    }
  }
  return found;
}

function stays(plastic: Float32Array, at: number, inward: number, pxPerMm: number): boolean {
  const reach = Math.max(1, Math.round(pxPerMm / 3));
  let sum = 0;
  for (let k = 0; k < reach; k++) sum += plastic[at + inward * k] ?? 0;
  return sum > 0.6 * reach;
}

/** Roughness of the outline of a band, mm: how far its edges are off a slow bend, root mean square. */
export function edgeRoughness(sight: Sight, { box }: Spot): Taken {
  const { across, plan, plastic: shown } = sight;
  if (!shown) return cannotTell(box, ALIKE);
  if (across < FEWEST_PX) return cannotTell(box, 'Too few pixels for an edge: go nearer.');
  const sides = (['left', 'right'] as const).flatMap((side) => {
    const points = outlineOf(sight, shown, box, side);
    const rows = (box.maxY - box.minY) * sight.flat.pxPerMm;
    if (points.length < 0.7 * rows || points.length < 12) return [];
    const middle = (box.minY + box.maxY) / 2;
    const z = points.map((one) => (one.z - middle) / (box.maxY - box.minY));
    const off = points.map((one) => one.off);
    const fit = leastSquares([z.map(() => 1), z, z.map((v) => v * v)], off);
    if (!fit) return [];
    const rest = off.map(
      (value, i) => value - fit.p[0]! - fit.p[1]! * z[i]! - fit.p[2]! * z[i]! ** 2,
    );
    return [{ rms: Math.sqrt(mean(rest.map((v) => v * v))), count: points.length }];
  });
  if (sides.length === 0)
    return cannotTell(box, 'No clear edge is seen at the sides of this rung.');
  // The smoother side: overhangs and blobs of the other one are no roughness of the layers.
  const best = sides.reduce((a, b) => (b.rms < a.rms ? b : a));
  const layersSeen = Math.max(2, (box.maxY - box.minY) / plan.layerHeight);
  // A pixel's own noise makes an edge look rough by about a tenth of it.
  const own = 0.1 / across;
  const value = Math.sqrt(Math.max(0, best.rms ** 2 - own ** 2));
  const deviation = Math.hypot(value / Math.sqrt(2 * layersSeen), own / 2);
  return { value, spread: EIGHT_OF_TEN * deviation, told: true, at: box };
}

/** How far outside its own face the outline of a band's sides stands, mm: bulges at corners. */
export function bulge(sight: Sight, { box }: Spot): Taken {
  const { plastic: shown } = sight;
  if (!shown) return cannotTell(box, ALIKE);
  if (sight.across < FEWEST_PX) return cannotTell(box, 'Too few pixels for an edge: go nearer.');
  const sides = (['left', 'right'] as const).map((side) => {
    const inset = 0.15 * (box.maxY - box.minY);
    return outlineOf(
      sight,
      shown,
      { ...box, minY: box.minY + inset, maxY: box.maxY - inset },
      side,
    ).map(({ off }) => off);
  });
  const seen = sides.filter(({ length }) => length >= 10);
  if (seen.length === 0) return cannotTell(box, 'No clear edge is seen at the sides of this rung.');
  const each = seen.map((offs) => ({
    off: quantile(offs, 0.5),
    scatter: robustDeviation(offs) / Math.sqrt(offs.length / 4),
  }));
  const value = mean(each.map(({ off }) => off));
  const width = box.maxX - box.minX;
  const deviation = Math.hypot(
    Math.hypot(...each.map(({ scatter }) => scatter)) / each.length,
    0.15 / sight.across,
    (sight.scaleError * width) / 4,
  );
  return { value, spread: EIGHT_OF_TEN * deviation, told: true, at: box };
}

/**
 * How much a face shines: light that comes back in the lamp's colour, not in the filament's (two kinds of light, S.
 * Shafer, Color Res. Appl. 10, 1985). The value is the mean share of such light, of what the face gives back.
 */
export function gloss(sight: Sight, { box }: Spot): Taken {
  const face = insideOf(sight, box);
  if (face.length < 400) return cannotTell(box, 'Nothing of this rung is seen.');
  const light = face.map(({ light: own }) => own);
  const middle = quantile(light, 0.5);
  if (middle < 0.04) return cannotTell(box, 'It is too dark to tell shine: more light.');
  if (light.filter((v) => v > 0.985).length > 0.25 * face.length)
    return cannotTell(box, 'Glare covers it: turn it, or take the light further to the side.');
  const body = bodyOf(face, middle);
  if (body === null)
    return cannotTell(
      box,
      'The filament has no colour of its own, so that shine cannot be told from light.',
    );
  const shines = face.map((one) => ({ x: one.x, own: shineOf(one, body) / middle }));
  const value = mean(shines.map(({ own }) => own));
  // Parts of the face differ: how much tells how sure the share is.
  const wide = (box.maxX - box.minX) / 6;
  const parts = Array.from({ length: 6 }, (_, p) =>
    shines.filter(({ x }) => x >= box.minX + p * wide && x < box.minX + (p + 1) * wide),
  ).filter(({ length }) => length > 40);
  const shares = parts.map((part) => mean(part.map(({ own }) => own)));
  const scatter = deviationOfMean(shares) ?? value;
  const bright = shines.filter(({ own }) => own > SHINES);
  return {
    value,
    spread: EIGHT_OF_TEN * Math.hypot(scatter, 0.003),
    told: true,
    at: box,
    also: {
      share: bright.length / shines.length,
      contrast: bright.length > 0 ? mean(bright.map(({ own }) => own)) : 0,
      light: middle,
      banding: grainOf(sight.grey, sight, box),
    },
  };
}
/** Shine of this much of a face's own light is a highlight. */
const SHINES = 0.25;

type Spotted = { x: number; rgb: readonly [number, number, number]; light: number };

/** A sample of the pixels that show plastic, the outline left out. */
function insideOf({ flat, grey, plastic }: Sight, box: Box): Spotted[] {
  const from = Math.max(0, Math.round(columnOf(flat, box.minX)));
  const to = Math.min(flat.width, Math.round(columnOf(flat, box.maxX)));
  const top = Math.max(0, Math.round(rowOf(flat, box.maxY)));
  const end = Math.min(flat.height, Math.round(rowOf(flat, box.minY)));
  const step = Math.max(1, Math.floor(Math.sqrt(((to - from) * (end - top)) / 12_000)));
  const face: Spotted[] = [];
  for (let row = top; row < end; row += step)
    for (let column = from; column < to; column += step) {
      const at = row * flat.width + column;
      if (plastic !== null && plastic[at]! <= 0.6) continue;
      const [r, g, b] = [0, 1, 2].map((part) => flat.rgb[at * 3 + part]! / 255);
      face.push({ x: flat.left + column / flat.pxPerMm, rgb: [r!, g!, b!], light: grey[at]! });
    }
  return face;
}

/** Colour of the plastic itself, scaled to a lightness of 1, from what is neither dark nor bright; null for grey. */
function bodyOf(
  face: readonly Spotted[],
  middle: number,
): readonly [number, number, number] | null {
  const plain = face.filter(({ light }) => light > 0.6 * middle && light < 1.05 * middle);
  const [r, g, b] = [0, 1, 2].map((part) =>
    quantile(
      plain.map(({ rgb, light }) => rgb[part]! / light),
      0.5,
    ),
  ) as [number, number, number];
  return Math.max(r, g, b) - Math.min(r, g, b) > LEAST_COLOUR ? [r, g, b] : null;
}
const LEAST_COLOUR = 0.12;

/** How much white light is mixed into a pixel of a colour: least squares for both kinds of light. */
function shineOf({ rgb }: Spotted, body: readonly [number, number, number]): number {
  const bb = body[0] ** 2 + body[1] ** 2 + body[2] ** 2;
  const bw = body[0] + body[1] + body[2];
  const pb = rgb[0] * body[0] + rgb[1] * body[1] + rgb[2] * body[2];
  const pw = rgb[0] + rgb[1] + rgb[2];
  return (bb * pw - bw * pb) / (3 * bb - bw * bw);
}

/** Banding and roughness of a face: how lightness scatters along height, its layers left aside. */
function grainOf(grey: Float32Array, { flat, plan }: Sight, box: Box): number {
  const from = Math.round(columnOf(flat, box.minX));
  const to = Math.round(columnOf(flat, box.maxX));
  const top = Math.round(rowOf(flat, box.maxY));
  const end = Math.round(rowOf(flat, box.minY));
  const line = new Float64Array(Math.max(0, end - top));
  for (let row = top; row < end; row++) {
    let sum = 0;
    for (let column = from; column < to; column++) sum += grey[row * flat.width + column]!;
    line[row - top] = sum / Math.max(1, to - from);
  }
  if (line.length < 8) return 0;
  const layer = plan.layerHeight * flat.pxPerMm;
  const trend = withoutTrend(line, 2 * layer);
  const slow = [...line].map((value, i) => value - trend[i]!);
  return robustDeviation(slow) / Math.max(0.02, mean(slow));
}

/** A bridge hangs in the upper part of its rung; what stands lower is something else. */
const LOWER = 0.62;

/** How far what spans an opening hangs under its ends, mm, at its lowest. */
export function sag(sight: Sight, { box }: Spot): Taken {
  const shown = sight.plastic;
  if (!shown) return cannotTell(box, ALIKE);
  if (sight.up < FEWEST_PX) return cannotTell(box, 'Too few pixels for a bridge: go nearer.');
  const openings = openingsIn(sight, box);
  if (!openings || openArea(openings) < 4)
    return cannotTell(box, 'No opening with a bridge over it is seen.');
  const { columns, rows, open, cell } = openings;
  // Columns of the widest stretch in which something is open.
  const isOpen = Array.from({ length: columns }, (_, c) => {
    for (let r = 0; r < rows; r++) if (open[r * columns + c]) return true;
    return false;
  });
  let [from, to] = [0, 0];
  for (let c = 0; c < columns;) {
    if (!isOpen[c]) {
      c++;
      continue;
    }
    let end = c;
    while (end < columns && isOpen[end]) end++;
    if (end - c > to - from) [from, to] = [c, end];
    c = end;
  }
  if ((to - from) * cell < 3) return cannotTell(box, 'No opening with a bridge over it is seen.');
  const { flat } = sight;
  const points: { x: number; y: number }[] = [];
  const first = Math.round(columnOf(flat, box.minX + from * cell));
  const last = Math.round(columnOf(flat, box.minX + to * cell));
  const low = Math.round(rowOf(flat, box.minY + LOWER * (box.maxY - box.minY)));
  const high = Math.max(0, Math.round(rowOf(flat, box.maxY)));
  const bead = Math.max(2, Math.round(0.6 * sight.plan.layerHeight * flat.pxPerMm));
  for (let column = first; column < last; column++) {
    // From the top down: the underside of the lowest plastic that is thicker than a thread.
    let under = NaN;
    for (let row = high, thick = 0; row < low; row++) {
      const now = (shown[row * flat.width + column] ?? 0) > 0.5;
      if (now) thick++;
      if (now && row + 1 < low) continue;
      if (!now && thick >= bead) under = row;
      thick = 0;
    }
    if (Number.isFinite(under))
      points.push({ x: column, y: (flat.height - under) / flat.pxPerMm + flat.bottom });
  }
  if (points.length < 0.4 * (last - first))
    return cannotTell(box, 'No bridge is seen over the opening.');
  const span = last - first;
  const ends = points.filter(({ x }) => Math.min(x - first, last - x) < 0.1 * span);
  if (ends.length < 4) return cannotTell(box, 'The ends of the bridge are not seen.');
  const anchor = quantile(
    ends.map(({ y }) => y),
    0.8,
  );
  const middle = points.filter(({ x }) => Math.abs(x - (first + last) / 2) < 0.3 * span);
  if (middle.length < 4) return cannotTell(box, 'No bridge is seen over the opening.');
  const value =
    anchor -
    quantile(
      middle.map(({ y }) => y),
      0.1,
    );
  const scatter = robustDeviation(ends.map(({ y }) => y)) / Math.sqrt(Math.max(1, ends.length / 6));
  const deviation = Math.hypot(scatter, 0.4 / sight.up);
  return { value, spread: EIGHT_OF_TEN * deviation, told: true, at: box };
}

/** Share of a flat patch in which the ground shows (above 0), or in which it stands up in ridges (below 0). */
export function gaps(sight: Sight, { box }: Spot): Taken {
  const { flat, plastic, grey } = sight;
  if (!plastic) return cannotTell(box, ALIKE);
  const inset = 0.12 * Math.min(box.maxX - box.minX, box.maxY - box.minY);
  const inner = {
    minX: box.minX + inset,
    maxX: box.maxX - inset,
    minY: box.minY + inset,
    maxY: box.maxY - inset,
  };
  const cut = (part: Box) => {
    const from = Math.round(columnOf(flat, part.minX));
    const to = Math.round(columnOf(flat, part.maxX));
    const top = Math.round(rowOf(flat, part.maxY));
    const end = Math.round(rowOf(flat, part.minY));
    let [bare, n, sum, square] = [0, 0, 0, 0];
    for (let row = top; row < end; row++)
      for (let column = from; column < to; column++, n++) {
        const at = row * flat.width + column;
        bare += Math.max(0, Math.min(1, 1 - plastic[at]!));
        sum += grey[at]!;
        square += grey[at]! ** 2;
      }
    const light = sum / n;
    return { share: bare / n, grain: Math.sqrt(Math.max(0, square / n - light ** 2)) / light };
  };
  const whole = cut(inner);
  const tall = (inner.maxY - inner.minY) / 4;
  const parts = Array.from({ length: 4 }, (_, i) =>
    cut({ ...inner, minY: inner.minY + i * tall, maxY: inner.minY + (i + 1) * tall }),
  );
  const scatter = deviationOfMean(parts.map(({ share }) => share)) ?? 0;
  return {
    value: whole.share,
    spread: EIGHT_OF_TEN * Math.hypot(scatter, 0.01),
    told: true,
    at: inner,
    also: { grain: whole.grain },
  };
}

/** Mean width of the strokes of a place, mm, and how evenly wide they are along it. */
export function strokeWidth(sight: Sight, { box }: Spot): Taken {
  const { flat, plastic } = sight;
  if (!plastic) return cannotTell(box, ALIKE);
  if (sight.across < 8) return cannotTell(box, 'Too few pixels for a stroke: go nearer.');
  const lengthways = box.maxX - box.minX >= box.maxY - box.minY;
  const from = Math.round(columnOf(flat, box.minX));
  const to = Math.round(columnOf(flat, box.maxX));
  const top = Math.round(rowOf(flat, box.maxY));
  const end = Math.round(rowOf(flat, box.minY));
  // Plastic across a cut, less where strokes run into each other: widths of the runs of plastic.
  const [lines, length] = lengthways ? [to - from, end - top] : [end - top, to - from];
  const per: { at: number; width: number }[] = [];
  for (let line = 0; line < lines; line++) {
    const at = (i: number) =>
      plastic[
        lengthways ? (top + i) * flat.width + from + line : (top + line) * flat.width + from + i
      ]!;
    const runs: number[] = [];
    let run = 0;
    for (let i = 0; i < length; i++) {
      const share = Math.max(0, Math.min(1, at(i)));
      if (share > 0.15) run += share;
      else if (run > 0) {
        runs.push(run / flat.pxPerMm);
        run = 0;
      }
    }
    for (const width of runs) if (width > 0.15 && width < WIDEST) per.push({ at: line, width });
  }
  const most = quantile(
    per.map(({ width }) => width),
    0.5,
  );
  if (per.length < 0.3 * lines) return cannotTell(box, 'No single strokes are seen here.');
  const near = per.filter(({ width }) => width > 0.4 * most && width < 2.2 * most);
  const widths = near.map(({ width }) => width);
  // Along the stroke, in pieces of a millimetre: noise of single cuts is no unevenness.
  const pieces = new Map<number, number[]>();
  for (const { at, width } of near) {
    const piece = Math.floor(at / flat.pxPerMm);
    pieces.set(piece, [...(pieces.get(piece) ?? []), width]);
  }
  const means = [...pieces.values()].filter(({ length: n }) => n > 2).map(mean);
  const value = mean(widths);
  const uneven = means.length > 2 ? robustDeviation(means) : 0;
  const deviation = Math.hypot(uneven / Math.sqrt(Math.max(1, means.length)), 0.12 / sight.across);
  return {
    value,
    spread: EIGHT_OF_TEN * deviation,
    told: true,
    at: box,
    also: { evenness: Math.sqrt(mean(means.map((one) => (one - value) ** 2))) },
  };
}
/** Wider runs of plastic are no single strokes, mm. */
const WIDEST = 2.4;
