/** A picture of a print turned upright and flat: every pixel of it is a known place on the print. */

import type { Box, Point } from '../bench/bed';
import { homographyTo, project, unproject, type Homography } from './homography';
import { bulged, flattened, lensOf, type Lens } from './lens';
import type { Corners, Pixels } from './pixels';

/** A straightened picture. Its column 0 begins at `left`, its last row ends at `bottom`, mm of the print. */
export type Flat = Pixels & {
  pxPerMm: number;
  left: number;
  bottom: number;
};

/** What lies between a place on the print and its pixel in the photo. */
export type Pose = {
  map: Homography;
  lens: Lens;
  /** The print's box, mm. */
  box: Box;
  /** Size of the photo, pixels. */
  photo: { width: number; height: number };
};

/** Air around the print that is kept, mm: its outline must be seen from outside. */
export const AIR = 2;
/** Most pixels of a straightened picture. */
const MOST_PIXELS = 4_000_000;
/** More pixels a millimetre tell nothing more. */
const FINEST = 32;

/** @returns null where the corners make no quadrangle */
export function poseOf(
  photo: { width: number; height: number },
  corners: Corners,
  box: Box,
  k = 0,
): Pose | null {
  const lens = lensOf(photo, k);
  const map = homographyTo(corners.map((one) => flattened(lens, one)) as Corners);
  return map && { map, lens, box, photo: { width: photo.width, height: photo.height } };
}

/** Pixel of the photo at which a place of the print is seen. */
export function seenAt({ map, lens, box }: Pose, { x, y }: Point): Point {
  const u = (x - box.minX) / (box.maxX - box.minX);
  const v = (y - box.minY) / (box.maxY - box.minY);
  return bulged(lens, project(map, u, v));
}

/** Place of the print that is seen at a pixel of the photo. */
export function placeAt({ map, lens, box }: Pose, seen: Point): Point {
  const { x, y } = unproject(map, flattened(lens, seen));
  return {
    x: box.minX + x * (box.maxX - box.minX),
    y: box.minY + y * (box.maxY - box.minY),
  };
}

/** Pixels of the photo for a millimetre, across and upward, at a place of the print. */
export function scaleAt(pose: Pose, { x, y }: Point): { across: number; up: number } {
  const span = 0.5;
  const far = (a: Point, b: Point) => Math.hypot(a.x - b.x, a.y - b.y) / (2 * span);
  return {
    across: far(seenAt(pose, { x: x - span, y }), seenAt(pose, { x: x + span, y })),
    up: far(seenAt(pose, { x, y: y - span }), seenAt(pose, { x, y: y + span })),
  };
}

/** Scales at the corners and in the middle of the box. */
export function scales(pose: Pose): { across: number; up: number }[] {
  const { minX, maxX, minY, maxY } = pose.box;
  const places = [0.05, 0.5, 0.95].flatMap((u) => [0.05, 0.5, 0.95].map((v) => [u, v] as const));
  return places.map(([u, v]) =>
    scaleAt(pose, { x: minX + u * (maxX - minX), y: minY + v * (maxY - minY) }),
  );
}

/** Pixels a millimetre at which nothing that the photo shows is lost. */
export function finestScale(pose: Pose): number {
  const { minX, maxX, minY, maxY } = pose.box;
  const wide = maxX - minX + 2 * AIR;
  const tall = maxY - minY + 2 * AIR;
  const best = Math.max(...scales(pose).flatMap(({ across, up }) => [across, up]));
  return Math.min(best, FINEST, Math.sqrt(MOST_PIXELS / (wide * tall)));
}

/**
 * Straightens the whole box with some air around it. What lies outside the photo is as its nearest edge.
 *
 * @param pxPerMm as fine as the photo is, without
 */
export function straighten(photo: Pixels, pose: Pose, pxPerMm = finestScale(pose)): Flat {
  const { minX, maxX, minY, maxY } = pose.box;
  const [left, bottom] = [minX - AIR, minY - AIR];
  const width = Math.max(1, Math.round((maxX - minX + 2 * AIR) * pxPerMm));
  const height = Math.max(1, Math.round((maxY - minY + 2 * AIR) * pxPerMm));
  const rgb = new Uint8Array(width * height * 3);
  const { map, lens } = pose;
  const [a, b, c, d, e, f, g, h] = map;
  const { x: mx, y: my } = lens.middle;
  const bend = lens.k / (lens.reach * lens.reach);
  const source = photo.rgb;
  const stride = photo.width * 3;
  const [lastX, lastY] = [photo.width - 1, photo.height - 1];
  const du = 1 / pxPerMm / (maxX - minX);
  const u0 = (left - minX) / (maxX - minX) + du / 2;
  for (let row = 0, to = 0; row < height; row++) {
    const v = (bottom + (height - row - 0.5) / pxPerMm - minY) / (maxY - minY);
    for (let column = 0, u = u0; column < width; column++, u += du, to += 3) {
      const w = g * u + h * v + 1;
      let x = (a * u + b * v + c) / w;
      let y = (d * u + e * v + f) / w;
      if (bend !== 0) {
        const [dx, dy] = [x - mx, y - my];
        const grow = 1 + bend * (dx * dx + dy * dy);
        x = mx + dx * grow;
        y = my + dy * grow;
      }
      // A pixel's colour stands at its middle.
      x -= 0.5;
      y -= 0.5;
      x = x < 0 ? 0 : x > lastX ? lastX : x;
      y = y < 0 ? 0 : y > lastY ? lastY : y;
      const [x0, y0] = [x | 0, y | 0];
      const [fx, fy] = [x - x0, y - y0];
      const from = y0 * stride + x0 * 3;
      const right = x0 < lastX ? 3 : 0;
      const below = y0 < lastY ? stride : 0;
      const [w00, w10] = [(1 - fx) * (1 - fy), fx * (1 - fy)];
      const [w01, w11] = [(1 - fx) * fy, fx * fy];
      const [p10, p01] = [from + right, from + below];
      const p11 = p01 + right;
      for (let part = 0; part < 3; part++)
        rgb[to + part] =
          source[from + part]! * w00 +
          source[p10 + part]! * w10 +
          source[p01 + part]! * w01 +
          source[p11 + part]! * w11 +
          0.5;
    }
  }
  return { width, height, rgb, pxPerMm, left, bottom };
}

/** Column of a straightened picture, as a number with a fraction, of a place; and the place of a column. */
export const columnOf = ({ left, pxPerMm }: Flat, x: number): number => (x - left) * pxPerMm;
export const rowOf = ({ bottom, height, pxPerMm }: Flat, y: number): number =>
  height - (y - bottom) * pxPerMm;
