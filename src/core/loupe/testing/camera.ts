/** A camera for tests only: takes a flat scene with a slant, a lens, blur, noise and uneven light. */

import { normal, seeded, type Random } from '../../random';
import { unproject } from '../homography';
import { flattened } from '../lens';
import type { Corners, Pixels } from '../pixels';
import { columnOf, poseOf, rowOf, type Flat, type Pose } from '../straighten';
import type { Box } from '../../bench/bed';

/** What is photographed: a picture whose places are known, and the print's box in it. */
export type Scene = Flat & { box: Box };

export type Shot = {
  seed: number;
  width: number;
  height: number;
  /** Share of the picture that the print fills. */
  fills: number;
  /** How far the corners are off a straight view, as a share of the print's side. */
  slant: number;
  /** Bulge of the lens, see lens.ts. */
  k: number;
  /** Standard deviation of the blur, pixels. */
  blur: number;
  /** Standard deviation of the noise, 0..255. */
  noise: number;
  /** Light falls off by this share from one side to the other. */
  uneven: number;
  /** All light times this. */
  gain: number;
};

export const USUAL: Shot = {
  seed: 1,
  width: 1600,
  height: 1200,
  fills: 0.8,
  slant: 0.04,
  k: -0.02,
  blur: 0.8,
  noise: 3,
  uneven: 0.25,
  gain: 1,
};

/** Draws of noise, made once: twelve million for each picture would take as long as all the rest. */
const NOISE = (() => {
  const random = seeded(0xca3e4a);
  return Float32Array.from({ length: 1 << 16 }, () => normal(random));
})();

/** Where the corners of a box come to lie. */
function cornersFor(box: Box, shot: Shot, random: Random): Corners {
  const [wide, tall] = [box.maxX - box.minX, box.maxY - box.minY];
  const size = Math.min((shot.width * shot.fills) / wide, (shot.height * shot.fills) / tall);
  const turn = (random() - 0.5) * 2 * shot.slant;
  const off = () => (random() - 0.5) * 2 * shot.slant * size * Math.min(wide, tall);
  const place = (sx: number, sy: number) => {
    const [x, y] = [(sx * wide * size) / 2, (sy * tall * size) / 2];
    return {
      x: shot.width / 2 + x * Math.cos(turn) - y * Math.sin(turn) + off(),
      y: shot.height / 2 + x * Math.sin(turn) + y * Math.cos(turn) + off(),
    };
  };
  return [place(-1, 1), place(1, 1), place(1, -1), place(-1, -1)];
}

/** Takes the picture; the corners are those of the print's box as they are seen. */
export function takePicture(
  scene: Scene,
  given: Partial<Shot> = {},
): { photo: Pixels; corners: Corners } {
  const shot = { ...USUAL, ...given };
  const random = seeded(shot.seed);
  const { width, height, k } = shot;
  const corners = cornersFor(scene.box, shot, random);
  const pose = poseOf(shot, corners, scene.box, k)!;
  const angle = random() * 2 * Math.PI;
  const light = new Float32Array(width * height * 3);
  const { rgb } = scene;
  const [lastX, lastY] = [scene.width - 1.001, scene.height - 1.001];
  const stride = scene.width * 3;
  let below = placesAlong(scene, shot, pose, 0);
  for (let row = 0, at = 0; row < height; row++) {
    const above = below;
    below = placesAlong(scene, shot, pose, row + 1);
    for (let column = 0; column < width; column++, at += 3) {
      const [ax, ay] = [above[2 * column]!, above[2 * column + 1]!];
      const [bx, by] = [above[2 * column + 2]! - ax, above[2 * column + 3]! - ay];
      const [cx, cy] = [below[2 * column]! - ax, below[2 * column + 1]! - ay];
      let [red, green, blue] = [0, 0, 0];
      // Two by two looks into each pixel: a fine scene does not shimmer.
      for (let look = 0; look < 4; look++) {
        const fx = look & 1 ? 0.75 : 0.25;
        const fy = look & 2 ? 0.75 : 0.25;
        // Between four places of the scene: without that, its own pixels would show as stairs.
        let x = ax + bx * fx + cx * fy - 0.5;
        let y = ay + by * fx + cy * fy - 0.5;
        x = x < 0 ? 0 : x > lastX ? lastX : x;
        y = y < 0 ? 0 : y > lastY ? lastY : y;
        const [left, top] = [x | 0, y | 0];
        const [px, py] = [x - left, y - top];
        const [w00, w10, w01, w11] = [(1 - px) * (1 - py), px * (1 - py), (1 - px) * py, px * py];
        const upper = top * stride + left * 3;
        const lower = upper + stride;
        red +=
          rgb[upper]! * w00 + rgb[upper + 3]! * w10 + rgb[lower]! * w01 + rgb[lower + 3]! * w11;
        green +=
          rgb[upper + 1]! * w00 +
          rgb[upper + 4]! * w10 +
          rgb[lower + 1]! * w01 +
          rgb[lower + 4]! * w11;
        blue +=
          rgb[upper + 2]! * w00 +
          rgb[upper + 5]! * w10 +
          rgb[lower + 2]! * w01 +
          rgb[lower + 5]! * w11;
      }
      light[at] = red / 4;
      light[at + 1] = green / 4;
      light[at + 2] = blue / 4;
    }
  }
  blurred(light, width, height, shot.blur);
  const taken = new Uint8ClampedArray(light.length);
  const [alongX, alongY] = [Math.cos(angle) / width, Math.sin(angle) / height];
  for (let row = 0, at = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const along = (column - width / 2) * alongX + (row - height / 2) * alongY;
      const lit = shot.gain * (1 - shot.uneven * (along + 0.5));
      for (let part = 0; part < 3; part++, at++)
        taken[at] = light[at]! * lit + shot.noise * NOISE[(random() * NOISE.length) | 0]!;
    }
  return { photo: { width, height, rgb: new Uint8Array(taken.buffer) }, corners };
}

/** Between so many pixels a lens and a slant are straight within a thousandth of a pixel. */
const STRAIGHT = 8;

/** Places in the scene of one row of the picture's pixel corners: column and row, one after the other. */
function placesAlong(scene: Scene, { width }: Shot, pose: Pose, y: number): Float64Array {
  const { minX, maxX, minY, maxY } = scene.box;
  const placeOf = (x: number) => {
    const uv = unproject(pose.map, flattened(pose.lens, { x, y }));
    return [
      columnOf(scene, minX + uv.x * (maxX - minX)),
      rowOf(scene, minY + uv.y * (maxY - minY)),
    ] as const;
  };
  const places = new Float64Array(2 * (width + 1));
  let [x0, y0] = placeOf(0);
  for (let from = 0; from <= width; from += STRAIGHT) {
    const [x1, y1] = placeOf(from + STRAIGHT);
    for (let i = 0; i < STRAIGHT && from + i <= width; i++) {
      places[2 * (from + i)] = x0 + ((x1 - x0) * i) / STRAIGHT;
      places[2 * (from + i) + 1] = y0 + ((y1 - y0) * i) / STRAIGHT;
    }
    [x0, y0] = [x1, y1];
  }
  return places;
}

/** Blurs in place with a Gaussian, along rows and then along columns. */
function blurred(light: Float32Array, width: number, height: number, sigma: number): void {
  if (sigma <= 0) return;
  const reach = Math.ceil(3 * sigma);
  const weights = Array.from({ length: 2 * reach + 1 }, (_, i) =>
    Math.exp(-((i - reach) ** 2) / (2 * sigma * sigma)),
  );
  const sum = weights.reduce((a, b) => a + b, 0);
  const kernel = Float32Array.from(weights, (one) => one / sum);
  const stride = width * 3;
  // Both ways the inner loop runs along a row: a row lies together in memory.
  const row = new Float32Array(stride + 2 * reach * 3);
  for (let at = 0; at < light.length; at += stride) {
    const own = light.subarray(at, at + stride);
    row.set(own, reach * 3);
    for (let i = 0; i < reach * 3; i++) {
      row[i] = own[i % 3]!;
      row[reach * 3 + stride + i] = own[stride - 3 + (i % 3)]!;
    }
    own.fill(0);
    for (let j = 0; j < kernel.length; j++) {
      const [weight, shift] = [kernel[j]!, 3 * j];
      for (let i = 0; i < stride; i++) own[i]! += weight * row[i + shift]!;
    }
  }
  const before = light.slice();
  light.fill(0);
  for (let line = 0; line < height; line++) {
    const to = line * stride;
    for (let j = 0; j < kernel.length; j++) {
      const weight = kernel[j]!;
      const from = Math.max(0, Math.min(height - 1, line + j - reach)) * stride;
      for (let i = 0; i < stride; i++) light[to + i]! += weight * before[from + i]!;
    }
  }
}
