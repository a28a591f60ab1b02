/** Scenes with a known truth, drawn as a print would look: layers, echoes, threads, pairs of lines. */

import type { Box } from '../../bench/bed';
import { normal, seeded } from '../../random';
import { columnOf, rowOf } from '../straighten';
import type { Scene } from './camera';

export type Rgb = readonly [number, number, number];
export const PAPER: Rgb = [228, 226, 220];
export const MOSS: Rgb = [94, 122, 70];

/** Air around the print in a scene, mm. */
const AROUND = 12;

/** An empty scene around a box. */
export function sceneOf(box: Box, pxPerMm: number, ground: Rgb = PAPER): Scene {
  const [left, bottom] = [box.minX - AROUND, box.minY - AROUND];
  const width = Math.round((box.maxX - box.minX + 2 * AROUND) * pxPerMm);
  const height = Math.round((box.maxY - box.minY + 2 * AROUND) * pxPerMm);
  const rgb = new Uint8Array(width * height * 3);
  for (let i = 0; i < rgb.length; i++) rgb[i] = ground[i % 3]!;
  return { width, height, rgb, pxPerMm, left, bottom, box };
}

/** Paints a box: `tone` says what the colour is times, at a place. */
export function paint(
  scene: Scene,
  box: Box,
  colour: Rgb,
  tone: (x: number, y: number) => number = () => 1,
): void {
  const { width, height, rgb, pxPerMm, left, bottom } = scene;
  const from = Math.max(0, Math.round(columnOf(scene, box.minX)));
  const to = Math.min(width, Math.round(columnOf(scene, box.maxX)));
  const top = Math.max(0, Math.round(rowOf(scene, box.maxY)));
  const end = Math.min(height, Math.round(rowOf(scene, box.minY)));
  for (let row = top; row < end; row++)
    for (let column = from; column < to; column++) {
      const x = left + (column + 0.5) / pxPerMm;
      const y = bottom + (height - row - 0.5) / pxPerMm;
      const times = tone(x, y);
      const at = (row * width + column) * 3;
      for (let part = 0; part < 3; part++)
        rgb[at + part] = Math.max(0, Math.min(255, colour[part]! * times));
    }
}

/** How light goes over one layer, 0 at its lower edge and 1 at its upper, as a share of `depth`. */
const FORMS = {
  round: (share: number) => Math.cos(2 * Math.PI * (share - 0.4)),
  grooves: (share: number) => (share < 0.22 ? -1.4 : 0.4),
  steps: (share: number) => 1.2 * (share - 0.5),
} as const;
export type LayerForm = keyof typeof FORMS;

/** A face whose layers have another pitch in every band. */
export function layers(
  box: Box,
  bands: readonly { from: number; to: number; pitch: number }[],
  {
    pxPerMm = 24,
    depth = 0.22,
    jitter = 0,
    grain = 0.05,
    seed = 1,
    colour = MOSS,
    ground = PAPER,
    form = 'round',
  }: {
    pxPerMm?: number;
    depth?: number;
    jitter?: number;
    grain?: number;
    seed?: number;
    colour?: Rgb;
    ground?: Rgb;
    form?: LayerForm;
  } = {},
): Scene {
  const scene = sceneOf(box, pxPerMm, ground);
  const random = seeded(seed);
  for (const { from, to, pitch } of bands) {
    const count = Math.ceil((to - from) / pitch) + 2;
    const edges = Array.from(
      { length: count },
      (_, i) => from + i * pitch + jitter * normal(random),
    );
    paint(scene, { ...box, minY: from, maxY: to }, colour, (_, y) => {
      let at = Math.max(0, Math.min(count - 2, Math.floor((y - from) / pitch)));
      while (at > 0 && edges[at]! > y) at--;
      while (at < count - 2 && edges[at + 1]! <= y) at++;
      const share = (y - edges[at]!) / (edges[at + 1]! - edges[at]!);
      return 1 + depth * FORMS[form](share) + grain * (random() - 0.5);
    });
  }
  return scene;
}

/** A bead from one place to another, round on top, its edges as fine as the scene can show them. */
export function bead(
  scene: Scene,
  from: { x: number; y: number },
  to: { x: number; y: number },
  width: number,
  colour: Rgb = MOSS,
): void {
  const { rgb, pxPerMm, left, bottom, height } = scene;
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const span = dx * dx + dy * dy;
  const half = width / 2;
  const c0 = Math.floor(columnOf(scene, Math.min(from.x, to.x) - width));
  const c1 = Math.ceil(columnOf(scene, Math.max(from.x, to.x) + width));
  const r0 = Math.floor(rowOf(scene, Math.max(from.y, to.y) + width));
  const r1 = Math.ceil(rowOf(scene, Math.min(from.y, to.y) - width));
  for (let row = r0; row <= r1; row++)
    for (let column = c0; column <= c1; column++) {
      const x = left + (column + 0.5) / pxPerMm - from.x;
      const y = bottom + (height - row - 0.5) / pxPerMm - from.y;
      const t = span > 0 ? Math.min(1, Math.max(0, (x * dx + y * dy) / span)) : 0;
      const [ox, oy] = [x - t * dx, y - t * dy];
      const away = Math.hypot(ox, oy);
      const covers = Math.min(1, Math.max(0, (half - away) * pxPerMm + 0.5));
      if (covers <= 0) continue;
      // Light from the upper left.
      const tone =
        0.8 + 0.3 * Math.sqrt(Math.max(0, 1 - (away / half) ** 2)) + (0.15 * (oy - ox)) / half;
      const at = (row * scene.width + column) * 3;
      for (let part = 0; part < 3; part++)
        rgb[at + part] =
          rgb[at + part]! * (1 - covers) + Math.min(255, colour[part]! * tone) * covers;
    }
}
