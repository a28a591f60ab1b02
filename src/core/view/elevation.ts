/**
 * Front view of a print, drawn from the moves that are really in its file: for every pixel the nearest
 * plastic. Digits stand out because they are nearer, layers because each bead is round.
 */

import { CHANGES, MOVE, type Change, type Trace } from '../gcode/trace';
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

/**
 * @param frame   what the picture shows, mm
 * @param layer   layer height, mm
 * @param setting whose value in force is kept per pixel
 */
export function drawElevation(
  trace: Trace,
  frame: Frame,
  layer: number,
  bead: number,
  setting: Change,
  wantedPxPerMm: number,
): Elevation {
  const wide = frame.maxX - frame.minX;
  const most = Math.sqrt(MOST_PIXELS / Math.max(1, wide * frame.height));
  const pxPerMm = Math.min(wantedPxPerMm, most);
  const width = Math.max(1, Math.ceil(wide * pxPerMm));
  const height = Math.max(1, Math.ceil(frame.height * pxPerMm));
  const depth = new Float32Array(width * height).fill(NaN);
  const value = new Float32Array(width * height).fill(NaN);
  const code = CHANGES.indexOf(setting);
  const { moves, changes } = trace;
  let now = NaN;
  let at = 0;
  for (let i = 1; i < moves.count; i++) {
    for (; at < changes.count && changes.move[at]! <= i; at++) {
      if (changes.code[at] === code) now = changes.value[at]!;
    }
    if (moves.kind[i] !== MOVE.extrude) continue;
    const z = moves.z[i]!;
    const top = Math.max(0, height - Math.round(z * pxPerMm));
    const bottom = Math.min(height, height - Math.round((z - layer) * pxPerMm));
    const [x0, x1] = [moves.x[i - 1]!, moves.x[i]!];
    const [y0, y1] = [moves.y[i - 1]!, moves.y[i]!];
    const low = Math.min(x0, x1) - bead / 2;
    const high = Math.max(x0, x1) + bead / 2;
    const from = Math.max(0, Math.round((low - frame.minX) * pxPerMm));
    const to = Math.min(width, Math.round((high - frame.minX) * pxPerMm));
    for (let column = from; column < to; column++) {
      const x = frame.minX + (column + 0.5) / pxPerMm;
      const share = x1 === x0 ? 0.5 : Math.min(1, Math.max(0, (x - x0) / (x1 - x0)));
      const y = x1 === x0 ? Math.min(y0, y1) : y0 + (y1 - y0) * share;
      for (let row = top; row < bottom; row++) {
        const pixel = row * width + column;
        if (depth[pixel]! <= y) continue;
        depth[pixel] = y;
        value[pixel] = now;
      }
    }
  }
  return { width, height, pxPerMm, left: frame.minX, depth, value };
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
  const tones = new Map<number, { colour: Rgb; ink: number }>();
  const toneOf = (v: number) => {
    const known = tones.get(v);
    if (known) return known;
    const share = shareOf(v, values);
    const tone = { colour: scaleColour(share), ink: inkOn(share) === '#ffffff' ? 255 : 34 };
    tones.set(v, tone);
    return tone;
  };
  for (let pixel = 0; pixel < depth.length; pixel++) {
    const y = depth[pixel]!;
    if (Number.isNaN(y)) continue;
    const column = pixel % width;
    const row = (pixel - column) / width;
    const left = column > 0 ? depth[pixel - 1]! : NaN;
    const above = row > 0 ? depth[pixel - width]! : NaN;
    // A step toward the viewer from its left or upper neighbour catches light.
    const rise = (Number.isNaN(left) ? 0 : left - y) + (Number.isNaN(above) ? 0 : above - y);
    const light = 1 + Math.max(-0.2, Math.min(0.2, rise * LIGHT));
    const far = 1 - Math.min(1, Math.max(0, (y - face) / FAR_AT)) * (1 - FAR);
    const index = Math.floor((height - row - 0.5) / pxPerMm / layer);
    const shade = light * far * (index % 2 === 0 ? 1 : 1 - LAYER_LINE);
    const v = value[pixel]!;
    const proud = face - y;
    const out = proud > MOST_RELIEF ? 0 : Math.min(1, Math.max(0, proud / RELIEF)) * INK_SHARE;
    const { colour, ink } = Number.isNaN(v) ? PLAIN : toneOf(v);
    for (let c = 0; c < 3; c++) {
      rgba[pixel * 4 + c] = colour[c]! * shade * (1 - out) + ink * out;
    }
    rgba[pixel * 4 + 3] = 255;
  }
  return rgba;
}

/** Plastic laid before the first value: the base, in the colour of wood. */
const PLAIN: { colour: Rgb; ink: number } = { colour: [205, 191, 159], ink: 34 };

/** The front face: the depth at which most pixels lie. */
function faceOf(depth: Float32Array): number {
  const counts = new Map<number, number>();
  for (const y of depth) {
    if (Number.isNaN(y)) continue;
    const step = Math.round(y / FACE_STEP);
    counts.set(step, (counts.get(step) ?? 0) + 1);
  }
  let best = 0;
  let most = 0;
  for (const [step, count] of counts) {
    if (count > most) [best, most] = [step, count];
  }
  return best * FACE_STEP;
}
