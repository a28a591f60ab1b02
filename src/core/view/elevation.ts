/**
 * Front view of a print, drawn from the moves that are really in its file: for every pixel the nearest
 * plastic. Digits stand out because they are nearer, layers because each bead is round.
 */

import type { Layer } from '../deposit/layer';
import { MOVE, type Trace } from '../gcode/trace';
import { inkOn, scaleColour, shareOf, type Rgb } from './scale';

export type Elevation = {
  width: number;
  height: number;
  pxPerMm: number;
  /** Left edge of the picture, mm; its lower edge is the bed. */
  left: number;
  /** y of the nearest plastic, mm; NaN where there is none. */
  depth: Float32Array;
  /** Value in force when it was laid; NaN before the first. */
  value: Float32Array;
};

/** Largest picture, pixels: a tall ladder is drawn smaller rather than slowly. */
const MOST_PIXELS = 1_500_000;

export type Frame = { minX: number; maxX: number; height: number };

/** Plastic drawn stroke by stroke; what is nearer hides what is further. */
class Canvas {
  readonly elevation: Elevation;

  constructor(
    { minX, maxX, height: tall }: Frame,
    private readonly layer: number,
    wantedPxPerMm: number,
  ) {
    const wide = maxX - minX;
    const most = Math.sqrt(MOST_PIXELS / Math.max(1, wide * tall));
    const pxPerMm = Math.min(wantedPxPerMm, most);
    const width = Math.max(1, Math.ceil(wide * pxPerMm));
    const height = Math.max(1, Math.ceil(tall * pxPerMm));
    this.elevation = {
      width,
      height,
      pxPerMm,
      left: minX,
      depth: new Float32Array(width * height).fill(NaN),
      value: new Float32Array(width * height).fill(NaN),
    };
  }

  /** A stroke from (x0, y0) to (x1, y1) in the layer whose top is z, `grow` mm longer at both ends. */
  draw(x0: number, y0: number, x1: number, y1: number, z: number, grow: number, now: number) {
    const { width, height, pxPerMm, left, depth, value } = this.elevation;
    const top = Math.max(0, height - Math.round(z * pxPerMm));
    const bottom = Math.min(height, height - Math.round((z - this.layer) * pxPerMm));
    const low = (x0 < x1 ? x0 : x1) - grow;
    const high = (x0 < x1 ? x1 : x0) + grow;
    const from = Math.max(0, Math.round((low - left) * pxPerMm));
    const to = Math.min(width, Math.round((high - left) * pxPerMm));
    const upright = x1 === x0;
    for (let column = from; column < to; column++) {
      const x = left + (column + 0.5) / pxPerMm;
      const share = upright ? 0 : (x - x0) / (x1 - x0);
      const y = upright
        ? Math.min(y0, y1)
        : y0 + (y1 - y0) * (share < 0 ? 0 : share > 1 ? 1 : share);
      for (let pixel = top * width + column, row = top; row < bottom; row++, pixel += width) {
        if (depth[pixel]! <= y) continue;
        depth[pixel] = y;
        value[pixel] = now;
      }
    }
  }
}

/**
 * @param frame   what the picture shows, mm
 * @param layer   layer height, mm
 * @param valueOf value of the rung that a move prints, NaN for none
 */
export function drawElevation(
  { moves }: Trace,
  frame: Frame,
  layer: number,
  bead: number,
  valueOf: (move: number) => number,
  pxPerMm: number,
): Elevation {
  const canvas = new Canvas(frame, layer, pxPerMm);
  const { kind, x, y, z } = moves;
  for (let i = 1; i < moves.count; i++) {
    if (kind[i] !== MOVE.extrude) continue;
    canvas.draw(x[i - 1]!, y[i - 1]!, x[i]!, y[i]!, z[i]!, bead / 2, valueOf(i));
  }
  return canvas.elevation;
}

/** Front view of a form that is not laid yet, from the rims of its layers that face the viewer. */
export function draftElevation(
  layers: readonly Layer[],
  frame: Frame,
  valueOf: (rung: number | null, z: number) => number,
  pxPerMm: number,
): Elevation {
  const canvas = new Canvas(frame, layers[0]!.height, pxPerMm);
  for (const { z, parts } of layers) {
    for (const { rung, outline } of parts) {
      const now = valueOf(rung, z);
      for (const ring of outline) {
        ring.forEach((a, i) => {
          const b = ring[i + 1] ?? ring[0]!;
          // Rims turn counter-clockwise, so those that run to the right face the front.
          if (b.x > a.x) canvas.draw(a.x, a.y, b.x, b.y, z, 0, now);
        });
      }
    }
  }
  return canvas.elevation;
}

/** Light falls from the upper left: this much brighter per millimetre that a face turns toward it. */
const LIGHT = 0.3;
/** Plastic further back than the front face is darker, down to this share at 15 mm. */
const FAR = 0.6;
const FAR_AT = 15;
/** What stands out of the face by this much, mm, is drawn fully in the ink of its colour: the digits. */
const RELIEF = 0.4;
const INK_SHARE = 0.85;
/** What stands out further is another part, the base plate for one. */
const MOST_RELIEF = 2;
/** Every second layer a little darker, so that layers can be counted. */
const LAYER_LINE = 0.05;
/** Depths are counted in steps of this, mm, to find the face. */
const FACE_STEP = 0.1;

/** Colours an elevation by value on the one scale. @returns RGBA bytes, clear where there is nothing */
export function shadeElevation(
  { width, height, pxPerMm, depth, value }: Elevation,
  values: readonly number[],
  layer: number,
): Uint8ClampedArray<ArrayBuffer> {
  const rgba = new Uint8ClampedArray(width * height * 4);
  const face = faceOf(depth);
  const tones = new Map<number, { colour: Rgb; ink: number }>([[NaN, PLAIN]]);
  let tone = PLAIN;
  let toned = NaN;
  for (let row = 0, pixel = 0; row < height; row++) {
    const index = Math.floor((height - row - 0.5) / pxPerMm / layer);
    const lined = index % 2 === 0 ? 1 : 1 - LAYER_LINE;
    for (let column = 0; column < width; column++, pixel++) {
      const y = depth[pixel]!;
      if (y !== y) continue; // nothing here
      const left = column > 0 ? depth[pixel - 1]! : NaN;
      const above = row > 0 ? depth[pixel - width]! : NaN;
      // A step toward the viewer from its left or upper neighbour catches light.
      const rise = (left === left ? left - y : 0) + (above === above ? above - y : 0);
      const light = 1 + Math.max(-0.2, Math.min(0.2, rise * LIGHT));
      const far = 1 - Math.min(1, Math.max(0, (y - face) / FAR_AT)) * (1 - FAR);
      const v = value[pixel]!;
      if (v !== toned) {
        toned = v;
        tone = tones.get(v) ?? toneOf(v, values);
        tones.set(v, tone);
      }
      const proud = face - y;
      const raised = proud > MOST_RELIEF ? 0 : Math.min(1, Math.max(0, proud / RELIEF));
      const out = raised * INK_SHARE;
      const shade = light * far * lined * (1 - out);
      const inked = tone.ink * out;
      const at = pixel * 4;
      rgba[at] = tone.colour[0] * shade + inked;
      rgba[at + 1] = tone.colour[1] * shade + inked;
      rgba[at + 2] = tone.colour[2] * shade + inked;
      rgba[at + 3] = 255;
    }
  }
  return rgba;
}

function toneOf(value: number, values: readonly number[]): { colour: Rgb; ink: number } {
  const share = shareOf(value, values);
  return { colour: scaleColour(share), ink: inkOn(share) === '#ffffff' ? 255 : 34 };
}

/** Plastic laid before the first value: the base, in the colour of wood. */
const PLAIN: { colour: Rgb; ink: number } = { colour: [205, 191, 159], ink: 34 };

/** The front face: the depth at which most pixels lie. */
function faceOf(depth: Float32Array): number {
  let low = Infinity;
  let high = -Infinity;
  for (const y of depth) {
    if (y < low) low = y;
    if (y > high) high = y;
  }
  if (low > high) return 0;
  const counts = new Uint32Array(Math.floor((high - low) / FACE_STEP) + 1);
  for (const y of depth) if (y === y) counts[Math.floor((y - low) / FACE_STEP)]!++;
  return low + (counts.indexOf(Math.max(...counts)) + 0.5) * FACE_STEP;
}
