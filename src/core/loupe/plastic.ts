/** Plastic told from the ground that it lies before, under light that is not even. */

import { quantile } from '../numbers';
import type { Flat } from './straighten';
import { columnOf, rowOf, seenAt, type Pose } from './straighten';
import type { Box } from '../bench/bed';

/** Plastic and ground that differ by less than this share of the ground's light are not told apart. */
const LEAST_CONTRAST = 0.12;
/** The print is seen in more than one in ten of the pixels inside its box, or in more than one in fifty where it is lines. */
const [FACES, LINES] = [0.9, 0.98];
/** Lines differ from the ground by this many times what the ground differs from itself. */
const OWN = 2;
/** Pixels beside the print that are looked at, and inside. */
const SAMPLES = 4000;
/** The outline itself is left out, mm. */
const RIM = 0.5;
/** Where a picture ends at the print, its ground is looked for this far inside the print's own box, mm. */
const WITHIN = 1.5;
/** Fewest samples of the ground. */
const FEWEST = 50;

type Rgb = [number, number, number];
type Plane = [number, number, number];

export type Told = {
  /** 0 on the ground, 1 on plastic, between them on the outline; a pixel each. */
  plastic: Float32Array;
  /** Colour of plastic and of the ground, 0..255. */
  colour: Rgb;
  ground: Rgb;
  contrast: number;
};

type Sample = { x: number; y: number; at: number };

/**
 * Every pixel as a share between ground and plastic. The ground's light is a plane for each colour, seen beside the
 * print; plastic is a constant share of it.
 *
 * @param pose how the photo was straightened: beyond its edges there is no ground, only what its edge was
 * @returns null where print and ground have nearly the same colour
 */
export function plasticOf(flat: Flat, box: Box, pose: Pose): Told | null {
  const { width, height, rgb } = flat;
  const around = samplesOf(flat, box, pose, [RIM, Infinity]);
  const beside = around.length >= FEWEST ? around : samplesOf(flat, box, pose, [-WITHIN, Infinity]);
  const inside = samplesOf(flat, box, pose, [-Infinity, -RIM]);
  if (beside.length < FEWEST || inside.length < FEWEST) return null;
  const planes = [0, 1, 2].map((part) => planeThrough(beside, rgb, part)) as [Plane, Plane, Plane];
  const groundAt = (part: number, x: number, y: number) => {
    const [a, b, c] = planes[part]!;
    return Math.max(8, a + b * x + c * y);
  };
  const sharesOf = (some: readonly Sample[]) =>
    some.map(
      ({ x, y, at }) => [0, 1, 2].map((part) => rgb[at + part]! / groundAt(part, x, y) - 1) as Rgb,
    );
  const shares = sharesOf(inside);
  const far = shares.map((share) => Math.hypot(...share));
  const usual = (most: number): Rgb => {
    const plain = shares.filter((_, i) => far[i]! > most / 2);
    return [0, 1, 2].map((part) =>
      quantile(
        plain.map((one) => one[part]!),
        0.5,
      ),
    ) as Rgb;
  };
  let w = usual(quantile(far, FACES));
  if (Math.hypot(...w) < LEAST_CONTRAST) {
    // A few lines on much ground: what they differ by must be more than the ground differs from itself.
    w = usual(quantile(far, LINES));
    const own = sharesOf(beside).map((share) => Math.hypot(...share));
    if (Math.hypot(...w) < OWN * quantile(own, LINES)) return null;
  }
  const square = w[0] ** 2 + w[1] ** 2 + w[2] ** 2;
  const contrast = Math.sqrt(square);
  if (contrast < LEAST_CONTRAST) return null;
  const plastic = new Float32Array(width * height);
  const [sr, sg, sb] = planes.map((plane) => plane[1] / width) as Rgb;
  const [wr, wg, wb] = w.map((share) => share / square) as Rgb;
  for (let row = 0, i = 0; row < height; row++) {
    const y = row / height - 0.5;
    let [r, g, b] = planes.map(([at, along, up]) => at - along / 2 + up * y) as Rgb;
    for (let column = 0; column < width; column++, i++) {
      const at = i * 3;
      plastic[i] =
        wr * (rgb[at]! / (r < 8 ? 8 : r) - 1) +
        wg * (rgb[at + 1]! / (g < 8 ? 8 : g) - 1) +
        wb * (rgb[at + 2]! / (b < 8 ? 8 : b) - 1);
      r += sr;
      g += sg;
      b += sb;
    }
  }
  const ground = [0, 1, 2].map((part) => groundAt(part, 0, 0)) as Rgb;
  const colour = ground.map((value, part) => value * (1 + w[part]!)) as Rgb;
  return { plastic, colour, ground, contrast };
}

/** Some thousand pixels of the photo that lie so far outside the box, mm; inside it is below 0. */
function samplesOf(
  flat: Flat,
  box: Box,
  pose: Pose,
  [least, most]: readonly [number, number],
): Sample[] {
  const { width, height, pxPerMm } = flat;
  const [left, right] = [columnOf(flat, box.minX), columnOf(flat, box.maxX)];
  const [top, bottom] = [rowOf(flat, box.maxY), rowOf(flat, box.minY)];
  const all = (step: number): Sample[] => {
    const found: Sample[] = [];
    for (let row = 0; row < height; row += step)
      for (let column = 0; column < width; column += step) {
        const out = Math.max(left - column, column - right, top - row, row - bottom) / pxPerMm;
        if (out <= least || out >= most) continue;
        if (!isSeen(pose, flat, column, row)) continue;
        const at = (row * width + column) * 3;
        found.push({ x: column / width - 0.5, y: row / height - 0.5, at });
      }
    return found;
  };
  const step = Math.max(1, Math.floor(Math.sqrt((width * height) / (SAMPLES * 4))));
  const found = all(step);
  // A narrow strip falls between samples that lie far apart.
  return found.length < SAMPLES / 4 && step > 3 ? all(3) : found;
}

function isSeen(pose: Pose, flat: Flat, column: number, row: number): boolean {
  const { left, bottom, height, pxPerMm } = flat;
  const { x, y } = seenAt(pose, {
    x: left + (column + 0.5) / pxPerMm,
    y: bottom + (height - row - 0.5) / pxPerMm,
  });
  return x >= 0 && y >= 0 && x <= pose.photo.width && y <= pose.photo.height;
}

/** A plane through one colour of pixels, what does not fit left out: something else may lie beside the print. */
function planeThrough(pixels: readonly Sample[], rgb: Uint8Array, part: number): Plane {
  const middle = quantile(
    pixels.map(({ at }) => rgb[at + part]!),
    0.5,
  );
  let plane: Plane = [middle, 0, 0];
  let kept = pixels;
  for (const within of [60, 30, 20]) {
    const off = ({ x, y, at }: Sample) =>
      Math.abs(rgb[at + part]! - plane[0] - plane[1] * x - plane[2] * y);
    kept = pixels.filter((one) => off(one) < within);
    if (kept.length < pixels.length / 5) return plane;
    plane = leastSquares(kept, rgb, part) ?? plane;
  }
  return plane;
}

function leastSquares(pixels: readonly Sample[], rgb: Uint8Array, part: number): Plane | null {
  const n = pixels.length;
  let [sx, sy, sv, sxx, sxy, syy, sxv, syv] = [0, 0, 0, 0, 0, 0, 0, 0];
  for (const { x, y, at } of pixels) {
    const v = rgb[at + part]!;
    sx += x;
    sy += y;
    sv += v;
    sxx += x * x;
    sxy += x * y;
    syy += y * y;
    sxv += x * v;
    syv += y * v;
  }
  const [mx, my, mv] = [sx / n, sy / n, sv / n];
  const [xx, xy, yy] = [sxx / n - mx * mx, sxy / n - mx * my, syy / n - my * my];
  const [xv, yv] = [sxv / n - mx * mv, syv / n - my * mv];
  const det = xx * yy - xy * xy;
  if (!(Math.abs(det) > 1e-9)) return null;
  const b = (xv * yy - yv * xy) / det;
  const c = (yv * xx - xv * xy) / det;
  return [mv - b * mx - c * my, b, c];
}
