/**
 * Two flat patterns of pressure advance, one value a rung, lowest value in front:
 *
 *     strokes   |────━━━━━━━━────|  .02     slow, fast, slow between two posts of a frame;
 *                   ╵        ╵               ticks stand where the speed changes
 *     corners   /\/\/\/\  .02               three zigzags side by side: sharp turns in both senses
 */

import type { Box } from '../../bench/bed';
import type { Bench } from '../../bench/bench';
import { beadPitch } from '../../deposit/bead';
import { beadWidthOf } from '../../deposit/conditions';
import { short } from '../../numbers';
import { boxOf } from '../../shape/region';
import { plasticLabel } from '../../shape/relief';
import {
  flatText,
  outlineOf,
  signHeight,
  signWidth,
  type Line,
  type FlatPattern,
  type PatternRung,
} from '../flat-pattern';

export type Pattern = Pick<FlatPattern, 'box' | 'marks' | 'rungs'>;

/** Free room between a pattern and its labels, mm. */
const LABEL_GAP = 2;
const TICK = 3;

/** Labels at the right, as many as have room; each beside the middle of its rung. */
function labels(values: readonly number[], x: number, pitch: number, middle: number, bead: number) {
  const every = Math.max(1, Math.ceil((signHeight(bead) + bead) / pitch));
  const lines = values.flatMap((value, i) =>
    i % every === 0
      ? flatText(
          plasticLabel(short(value)),
          x + LABEL_GAP,
          i * pitch + middle - signHeight(bead) / 2,
          bead,
        )
      : [],
  );
  const wide = Math.max(...values.map((value) => signWidth(plasticLabel(short(value)), bead)));
  return { lines, end: x + LABEL_GAP + wide };
}

export type StrokesShape = {
  slowLength: number;
  fastLength: number;
  slow: number;
  speed: number;
  layerHeight: number;
};

export function strokes(values: readonly number[], shape: StrokesShape, bench: Bench): Pattern {
  const { slowLength, fastLength, slow, speed, layerHeight } = shape;
  const bead = Math.max(beadWidthOf(bench.nozzle.diameter), layerHeight);
  const pitch = Math.max(5, 5 * bead);
  const end = 2 * slowLength + fastLength;
  const [a, b] = [slowLength, slowLength + fastLength];
  const top = (values.length - 1) * pitch;
  const text = labels(values, end + 2 * bead, pitch, 0, bead);
  const upright = (x: number): Line => ({
    path: [
      { x, y: -2 },
      { x, y: top + 2 },
    ],
  });
  // Strokes begin and end on the posts of the frame, so that the first blob is not part of them.
  const frame = [-bead, 0, end, end + bead].map(upright);
  const ticks = [a, b].flatMap((x): Line[] =>
    [-2 - TICK, top + 2].map((y) => ({
      path: [
        { x, y },
        { x, y: y + TICK },
      ],
    })),
  );
  const rungs = values.map((_, i): PatternRung => {
    const y = i * pitch;
    const piece = (from: number, to: number, at: number): Line => ({
      path: [
        { x: from, y },
        { x: to, y },
      ],
      speed: at,
    });
    return {
      lines: [[piece(0, a, slow), piece(a, b, speed), piece(b, end, slow)]],
      // Inside the posts, which belong to no rung.
      boxes: [{ minX: bead, maxX: end - bead, minY: y - pitch / 2, maxY: y + pitch / 2 }],
    };
  });
  return {
    box: {
      minX: -2 * bead,
      minY: -2 - TICK,
      maxX: text.end,
      maxY: Math.max(top + 2 + TICK, top + signHeight(bead) / 2),
    },
    marks: [...frame, ...ticks, ...text.lines],
    rungs,
  };
}

export type CornersShape = { side: number; speed: number; layerHeight: number };

/** Zigzags that lie side by side, touching, so that a gap at a turn can be seen. */
const NESTED = 3;
const TURNS = 4;

export function corners(values: readonly number[], shape: CornersShape, bench: Bench): Pattern {
  const { side, speed, layerHeight } = shape;
  const bead = Math.max(beadWidthOf(bench.nozzle.diameter), layerHeight);
  const step = beadPitch(bead, layerHeight) * Math.SQRT2;
  const rise = side / Math.SQRT2;
  const pitch = rise + (NESTED - 1) * step + Math.max(2.5, 4 * bead);
  const wide = TURNS * rise;
  const text = labels(values, wide + bead, pitch, (rise + step) / 2, bead);
  const rungs = values.map((_, i): PatternRung => {
    const foot = i * pitch;
    const lines = Array.from({ length: NESTED }, (_, n): Line => {
      const path = Array.from({ length: TURNS + 1 }, (_, turn) => ({
        x: turn * rise,
        y: foot + n * step + (turn % 2 === 0 ? 0 : rise),
      }));
      return { path: n % 2 === 0 ? path : path.reverse(), speed };
    });
    return {
      lines: [lines],
      boxes: [
        {
          minX: -bead,
          maxX: wide + bead,
          minY: foot - bead,
          maxY: foot + rise + (NESTED - 1) * step + bead,
        },
      ],
    };
  });
  const top = (values.length - 1) * pitch + rise + (NESTED - 1) * step;
  const frame: Box = {
    minX: -3 * bead - 1,
    minY: -3 * bead - 1,
    maxX: wide + 3 * bead,
    maxY: top + 3 * bead + 1,
  };
  const far = Math.max(text.end, frame.maxX) + 1;
  const around: Box = { ...frame, maxX: far };
  const all = boxOf([outlineOf(around)]);
  return {
    box: {
      ...all,
      minX: all.minX - bead,
      minY: all.minY - bead,
      maxX: all.maxX + bead,
      maxY: all.maxY + bead,
    },
    marks: [{ path: outlineOf(around) }, ...text.lines],
    rungs,
  };
}
