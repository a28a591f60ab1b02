/** Pictures as the loupe takes them: three bytes a pixel, upright, nothing beside the pixels. */

import type { Point } from '../bench/bed';

export type Pixels = {
  width: number;
  height: number;
  /** Red, green and blue of every pixel, 0..255, row by row from the top. */
  rgb: Uint8Array;
};

/** Weights of red, green and blue in how light a colour looks (Rec. 601). */
export const LUMA = [0.299, 0.587, 0.114] as const;

/** How light every pixel is, 0..1, as it is stored: not proportional to light. */
export function lightnessOf({ width, height, rgb }: Pixels): Float32Array {
  const grey = new Float32Array(width * height);
  const [r, g, b] = LUMA.map((weight) => weight / 255) as [number, number, number];
  for (let i = 0, at = 0; i < grey.length; i++, at += 3)
    grey[i] = r * rgb[at]! + g * rgb[at + 1]! + b * rgb[at + 2]!;
  return grey;
}

/** Four corners in a picture, pixels from its upper left: lower left, lower right, upper right, upper left. */
export type Corners = [Point, Point, Point, Point];

/** A value between four pixels; x and y in pixels from the upper left, pixel middles at halves. */
export function sampled(
  light: Float32Array,
  width: number,
  height: number,
  x: number,
  y: number,
): number {
  const [cx, cy] = [
    Math.max(0, Math.min(width - 1.001, x - 0.5)),
    Math.max(0, Math.min(height - 1.001, y - 0.5)),
  ];
  const [c, r] = [Math.floor(cx), Math.floor(cy)];
  const [fx, fy] = [cx - c, cy - r];
  const i = r * width + c;
  const top = light[i]! + (light[i + 1]! - light[i]!) * fx;
  const low = light[i + width]! + (light[i + width + 1]! - light[i + width]!) * fx;
  return top + (low - top) * fy;
}
