/** Measures of what a rung's face and outline look like: edge, gloss, bulge, stroke width. */

import type { Box } from '../bench/bed';
import { mean, quantile } from '../numbers';
import { leastSquares, robustDeviation } from './fitting';
import { sidesOf } from './expected';
import { withoutTrend } from './periods';
import { outlineOf } from './outline';
import { cannotTell, EIGHT_OF_TEN, type Sight, type Spot, type Taken } from './sight';
import { columnOf, rowOf } from './straighten';

export const ALIKE = 'Print and ground look alike: lay it before another colour.';
/** Fewest pixels a millimetre by which an outline is followed. */
export const FEWEST_PX = 6;

/** Roughness of the outline of a band, mm: how far its edges are off a slow bend, root mean square. */
export function edgeRoughness(sight: Sight, { box }: Spot): Taken {
  const { across, plan, plastic: shown } = sight;
  const layers = Math.max(4, (box.maxY - box.minY) / plan.layerHeight);
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
    const freedom = Math.max(2, layers - 3);
    return [
      {
        square: (mean(rest.map((v) => v * v)) * layers) / freedom,
        steep: points.map((one) => one.steep),
      },
    ];
  });
  if (sides.length === 0)
    return cannotTell(box, 'No clear edge is seen at the sides of this rung.');
  // Where one side is much rougher, overhangs and blobs are there, which are no roughness of the layers.
  const smoother = Math.min(...sides.map(({ square }) => square));
  const alike = sides.filter(({ square }) => square <= ALIKE_SIDES ** 2 * smoother);
  // A pixel's own noise makes an edge look rough by about a tenth of it.
  const own = 0.1 / across;
  const shows = mean(alike.map(({ square }) => square)) - own ** 2;
  // Blur, as an edge shows it, runs layers together.
  const blur =
    0.4 /
    quantile(
      alike.flatMap(({ steep }) => steep),
      0.5,
    );
  const left = shareLeft(plan.layerHeight, blur);
  const value = Math.sqrt(Math.max(0, shows / left));
  const deviation = Math.hypot(
    value / Math.sqrt(2 * layers * alike.length),
    own / 2,
    value * (1 - Math.sqrt(left)) * UNSURE_OF_BLUR,
  );
  const face = faceOf(sight, shown, box);
  return {
    value,
    spread: EIGHT_OF_TEN * deviation,
    told: true,
    at: box,
    also: { ...(face === null ? {} : { face }), banding: bandingOf(sight, box) },
  };
}

/** Sides of a band are looked at together where one is not rougher than the other by more than this. */
const ALIKE_SIDES = 1.6;
/** How far off it may be what blur took, as a share of that. */
const UNSURE_OF_BLUR = 0.4;

/**
 * Share of the variance of layers that end each where they like that is left when a blur, standard deviation in mm, has
 * run them together: the mean of 1 − |t| / layer over a normal t that is the difference of two blurs.
 */
function shareLeft(layer: number, blur: number): number {
  const [steps, wide] = [60, Math.SQRT2 * blur];
  let [sum, weight] = [0, 0];
  for (let i = -3 * steps; i <= 3 * steps; i++) {
    const t = (i / steps) * wide;
    const often = Math.exp(-0.5 * (i / steps) ** 2);
    sum += often * Math.max(0, 1 - Math.abs(t) / layer);
    weight += often;
  }
  return Math.max(LEAST_LEFT, sum / weight);
}
/** What is left of less is not multiplied further. */
const LEAST_LEFT = 0.2;

/** Way along a layer, mm, over which a face that is smooth is evenly light. */
const SMOOTH = 0.5;

/**
 * Roughness of a face: how far lightness is off the mean of what lies half a millimetre around along the layer, as a
 * share of the face's light (root mean square). What the photo's own noise adds, as seen on the ground, is taken off.
 */
function faceOf({ flat, grey }: Sight, plastic: Float32Array, box: Box): number | null {
  const from = Math.max(0, Math.round(columnOf(flat, box.minX)));
  const to = Math.min(flat.width, Math.round(columnOf(flat, box.maxX)));
  const top = Math.max(0, Math.round(rowOf(flat, box.maxY)));
  const end = Math.min(flat.height, Math.round(rowOf(flat, box.minY)));
  const reach = Math.max(2, Math.round((SMOOTH / 2) * flat.pxPerMm));
  const span = 2 * reach + 1;
  const face = { square: 0, light: 0, n: 0 };
  const ground = { square: 0, n: 0 };
  const step = Math.max(1, Math.floor((end - top) / 60));
  for (let row = top; row < end; row += step) {
    const start = row * flat.width;
    let [sum, on] = [0, 0];
    for (let column = from; column < to; column++) {
      sum += grey[start + column]!;
      on += plastic[start + column]! > 0.5 ? 1 : 0;
      if (column - from < span - 1) continue;
      const at = start + column - reach;
      const square = (grey[at]! - sum / span) ** 2;
      if (on === span) {
        face.square += square;
        face.light += grey[at]!;
        face.n++;
      } else if (on === 0) {
        ground.square += square;
        ground.n++;
      }
      sum -= grey[start + column - span + 1]!;
      on -= plastic[start + column - span + 1]! > 0.5 ? 1 : 0;
    }
  }
  if (face.n < 400) return null;
  const noise = ground.n > 400 ? ground.square / ground.n : 0;
  return Math.sqrt(Math.max(0, face.square / face.n - noise)) / Math.max(0.02, face.light / face.n);
}

/** How far outside of where the plan has them the sides of a band stand, mm: bulges at corners; rounded ones are below 0. */
export function bulge(sight: Sight, spot: Spot): Taken {
  const { plastic: shown, plan } = sight;
  const { box: band } = spot;
  if (!shown) return cannotTell(band, ALIKE);
  if (sight.across < FEWEST_PX) return cannotTell(band, 'Too few pixels for an edge: go nearer.');
  // A grid's cells stand side by side, so that their sides are not seen; of a sliced file only its box is known.
  const levels = sight.levels();
  const span = levels && sidesOf(levels, plan, spot);
  const box = span ? { ...band, minX: span.from, maxX: span.to } : band;
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
  // Parts of the face differ: how much tells how sure the share is. What hangs before one of them counts for little.
  const wide = (box.maxX - box.minX) / 6;
  const parts = Array.from({ length: 6 }, (_, p) =>
    shines.filter(({ x }) => x >= box.minX + p * wide && x < box.minX + (p + 1) * wide),
  ).filter(({ length }) => length > 40);
  const shares = parts.map((part) => mean(part.map(({ own }) => own)));
  if (shares.length === 0) return cannotTell(box, 'Nothing of this rung is seen.');
  const value = quantile(shares, 0.5);
  const scatter = shares.length > 2 ? robustDeviation(shares) / Math.sqrt(shares.length) : value;
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
    },
  };
}
/** Shine of this much of a face's own light is a highlight. */
const SHINES = 0.25;

type Spotted = { x: number; rgb: readonly [number, number, number]; light: number };

/** Plastic that is no wider than twice this, mm, is a thread or an edge and no face. */
const FACE = 0.6;

/** A sample of the pixels that show a face: plastic all around, so that outlines and threads are left out. */
function insideOf({ flat, grey, plastic }: Sight, box: Box): Spotted[] {
  const from = Math.max(0, Math.round(columnOf(flat, box.minX)));
  const to = Math.min(flat.width, Math.round(columnOf(flat, box.maxX)));
  const top = Math.max(0, Math.round(rowOf(flat, box.maxY)));
  const end = Math.min(flat.height, Math.round(rowOf(flat, box.minY)));
  const step = Math.max(1, Math.floor(Math.sqrt(((to - from) * (end - top)) / 12_000)));
  const reach = Math.max(1, Math.round(FACE * flat.pxPerMm));
  const face: Spotted[] = [];
  for (let row = top; row < end; row += step)
    for (let column = from; column < to; column += step) {
      const at = row * flat.width + column;
      if (plastic !== null && !isFace(plastic, at, reach, flat.width)) continue;
      const [r, g, b] = [0, 1, 2].map((part) => flat.rgb[at * 3 + part]! / 255);
      face.push({ x: flat.left + column / flat.pxPerMm, rgb: [r!, g!, b!], light: grey[at]! });
    }
  return face;
}

const isFace = (plastic: Float32Array, at: number, reach: number, width: number): boolean =>
  [0, -reach, reach, -reach * width, reach * width].every(
    (step) => (plastic[at + step] ?? 0) > 0.6,
  );

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

/** Banding of a face: how lightness scatters along height, its layers left aside, as a share of its light. */
function bandingOf({ flat, grey, plan }: Sight, box: Box): number {
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
  const [lines, length] = lengthways ? [to - from, end - top] : [end - top, to - from];
  const per: { at: number; middle: number; width: number }[] = [];
  const cut = Math.max(1, Math.round(CUT * flat.pxPerMm));
  for (let line = 0; line + cut <= lines; line += cut) {
    const across = new Float64Array(length);
    for (let k = line; k < line + cut; k++)
      for (let i = 0; i < length; i++)
        across[i]! +=
          plastic[
            lengthways ? (top + i) * flat.width + from + k : (top + k) * flat.width + from + i
          ]! / cut;
    for (const { middle, wide } of strokesIn(across)) {
      const width = wide / flat.pxPerMm;
      if (width > 0.15 && width < WIDEST)
        per.push({ at: line, middle: middle / flat.pxPerMm, width });
    }
  }
  const most = quantile(
    per.map(({ width }) => width),
    0.5,
  );
  if (per.length < (0.3 * lines) / cut) return cannotTell(box, 'No single strokes are seen here.');
  const near = per.filter(({ width }) => width > 0.4 * most && width < 2.2 * most);
  const widths = near.map(({ width }) => width);
  // In pieces of a millimetre, each stroke by itself: noise of single cuts is no unevenness.
  const pieces = new Map<number, Map<number, number[]>>();
  for (const { at, middle, width } of near) {
    const piece = Math.floor(at / flat.pxPerMm);
    const strokes = pieces.get(piece) ?? new Map<number, number[]>();
    pieces.set(piece, strokes);
    const stroke = Math.round(middle / (1.5 * most));
    const known = [...strokes.keys()].find((one) => Math.abs(one - stroke) <= 1) ?? stroke;
    strokes.set(known, [...(strokes.get(known) ?? []), width]);
  }
  const each = [...pieces.values()].map((strokes) => [...strokes.values()].map((of) => mean(of)));
  const means = each.flat();
  const value = mean(widths);
  const uneven = means.length > 2 ? robustDeviation(means) : 0;
  const deviation = Math.hypot(
    uneven / Math.sqrt(Math.max(1, means.length)),
    0.12 / sight.across,
    SHADED,
  );
  // Where two strokes run side by side, one tells what the other should be: what both have in common is no fault.
  const pairs = each.flatMap(([a, b, ...more]) =>
    a === undefined || b === undefined || more.length > 0 ? [] : [a - b],
  );
  const beside = pairs.length >= PAIRED * each.length;
  const compared = beside ? pairs : means;
  const middle = mean(compared);
  return {
    value,
    spread: EIGHT_OF_TEN * deviation,
    told: true,
    at: box,
    also: { evenness: Math.sqrt(mean(compared.map((one) => (one - middle) ** 2))) },
  };
}
/**
 * Runs of plastic across a cut, pixels. A stroke ends where half of its own height is left: blur does not move that
 * place, and a stroke that is lighter or darker than others is no wider for it.
 */
function strokesIn(across: Float64Array): { middle: number; wide: number }[] {
  const found: { middle: number; wide: number }[] = [];
  for (let i = 0; i < across.length; i++) {
    if (across[i]! <= GROUND) continue;
    let end = i;
    while (end < across.length && across[end]! > GROUND) end++;
    const half = quantile(across.subarray(i, end), 0.8) / 2;
    let [low, high] = [i, end - 1];
    while (low < high && across[low]! < half) low++;
    while (high > low && across[high]! < half) high--;
    const before = low > 0 ? across[low - 1]! : 0;
    const after = high < across.length - 1 ? across[high + 1]! : 0;
    const left = low - (across[low]! - half) / (across[low]! - Math.min(before, half));
    const right = high + (across[high]! - half) / (across[high]! - Math.min(after, half));
    if (high > low && Number.isFinite(left + right))
      found.push({ middle: (left + right) / 2 + 0.5, wide: right - left });
    i = end;
  }
  return found;
}
/** How far light from one side moves where a stroke seems to end, mm. */
const SHADED = 0.035;
/** Less of plastic than this is the ground. */
const GROUND = 0.15;
/** Cuts across a stroke are this wide along it, mm: noise of single pixels would move its ends. */
const CUT = 0.25;
/** Share of a stroke's pieces that must have just one stroke beside them for the two to be compared. */
const PAIRED = 0.4;
/** Wider runs of plastic are no single strokes, mm. */
const WIDEST = 2.4;
