/** A camera for tests only: takes a flat scene with a slant, a lens, blur, noise and uneven light. */

import { normal, seeded, type Random } from '../../random';
import { unproject } from '../homography';
import { flattened } from '../lens';
import type { Corners, Pixels } from '../pixels';
import { columnOf, poseOf, rowOf, type Flat } from '../straighten';
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
  const { box, rgb } = scene;
  const [wide, tall] = [box.maxX - box.minX, box.maxY - box.minY];
  // Two by two looks into each pixel: a fine scene does not shimmer. Between places half a pixel apart all is straight.
  const rowOfPlaces = (y: number) => {
    const places = new Float64Array(2 * (width + 1));
    for (let column = 0; column <= width; column++) {
      const uv = unproject(pose.map, flattened(pose.lens, { x: column, y }));
      places[2 * column] = columnOf(scene, box.minX + uv.x * wide);
      places[2 * column + 1] = rowOf(scene, box.minY + uv.y * tall);
    }
    return places;
  };
  let below = rowOfPlaces(0);
  for (let row = 0; row < height; row++) {
    const above = below;
    below = rowOfPlaces(row + 1);
    for (let column = 0; column < width; column++) {
      const at = (row * width + column) * 3;
      const [ax, ay] = [above[2 * column]!, above[2 * column + 1]!];
      const [bx, by] = [above[2 * column + 2]! - ax, above[2 * column + 3]! - ay];
      const [cx, cy] = [below[2 * column]! - ax, below[2 * column + 1]! - ay];
      for (const fy of [0.25, 0.75])
        for (const fx of [0.25, 0.75]) {
          // Between four places of the scene: without that, its own pixels would show as stairs.
          const x = Math.min(scene.width - 1.001, Math.max(0, ax + bx * fx + cx * fy - 0.5));
          const y = Math.min(scene.height - 1.001, Math.max(0, ay + by * fx + cy * fy - 0.5));
          const [left, top] = [Math.floor(x), Math.floor(y)];
          const [px, py] = [x - left, y - top];
          const upper = (top * scene.width + left) * 3;
          const lower = upper + scene.width * 3;
          for (let part = 0; part < 3; part++) {
            const high = rgb[upper + part]! * (1 - px) + rgb[upper + 3 + part]! * px;
            const low = rgb[lower + part]! * (1 - px) + rgb[lower + 3 + part]! * px;
            light[at + part]! += (high * (1 - py) + low * py) / 4;
          }
        }
    }
  }
  blurred(light, width, height, shot.blur);
  const taken = new Uint8Array(light.length);
  for (let row = 0, at = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const along =
        (column / width - 0.5) * Math.cos(angle) + (row / height - 0.5) * Math.sin(angle);
      const lit = shot.gain * (1 - shot.uneven * (along + 0.5));
      for (let part = 0; part < 3; part++, at++)
        taken[at] = Math.max(
          0,
          Math.min(255, light[at]! * lit + shot.noise * normal(random) + 0.5),
        );
    }
  return { photo: { width, height, rgb: taken }, corners };
}

/** Blurs in place with a Gaussian, row by row and column by column. */
function blurred(light: Float32Array, width: number, height: number, sigma: number): void {
  if (sigma <= 0) return;
  const reach = Math.ceil(3 * sigma);
  const kernel = Array.from({ length: 2 * reach + 1 }, (_, i) =>
    Math.exp(-((i - reach) ** 2) / (2 * sigma * sigma)),
  );
  const sum = kernel.reduce((a, b) => a + b, 0);
  const pass = (lines: number, length: number, step: number, lineStep: number) => {
    const line = new Float32Array(length);
    for (let l = 0; l < lines; l++)
      for (let part = 0; part < 3; part++) {
        const from = l * lineStep + part;
        for (let i = 0; i < length; i++) line[i] = light[from + i * step]!;
        for (let i = 0; i < length; i++) {
          let total = 0;
          for (let j = -reach; j <= reach; j++)
            total += kernel[j + reach]! * line[Math.min(length - 1, Math.max(0, i + j))]!;
          light[from + i * step] = total / sum;
        }
      }
  };
  pass(height, width, 3, width * 3);
  pass(width, height, width * 3, 3);
}
