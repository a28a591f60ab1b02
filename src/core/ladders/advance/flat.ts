/**
 * Two flat patterns of pressure advance, one value a rung, lowest value in front:
 *
 *     hairpins   ▐────━━━━━━━━━────╮        out and back side by side, both ends on one rail. Out speeds up at the first
 *                ▐   >           <  │  20   arrow and slows down at the second, back the other way round: thick lies
 *                ▐────━━━━━━━━━────╯        beside thin, and they swap sides past the right value
 *     meander    ═╗ ╔═╗ ╔═  20               two beads that touch all along, laid in opposite directions: right angles in
 *                 ╚═╝ ╚═╝                    both senses, each bead with one free flank
 */

import type { Point } from '../../bench/bed';
import type { Bench } from '../../bench/bench';
import { beadPitch } from '../../deposit/bead';
import { beadWidthOf } from '../../deposit/conditions';
import { marksOf } from '../../plan/marks';
import {
  flatText,
  signHeight,
  signWidth,
  type Line,
  type FlatPattern,
  type PatternRung,
} from '../flat-pattern';

export type Pattern = Pick<FlatPattern, 'box' | 'marks' | 'rungs'>;

/** Free room between a pattern and its labels, mm. */
const LABEL_GAP = 2;

/** Labels at the right, as many as have room; each beside the middle of its rung. */
function labels(values: readonly number[], x: number, pitch: number, middle: number, bead: number) {
  const every = Math.max(1, Math.ceil((signHeight(bead) + bead) / pitch));
  const { texts } = marksOf('advance', values);
  const lines = texts.flatMap((text, i) =>
    i % every === 0
      ? flatText(text, x + LABEL_GAP, i * pitch + middle - signHeight(bead) / 2, bead)
      : [],
  );
  const wide = Math.max(...texts.map((text) => signWidth(text, bead)));
  return { lines, end: x + LABEL_GAP + wide };
}

export type HairpinShape = {
  slowLength: number;
  fastLength: number;
  slow: number;
  speed: number;
  layerHeight: number;
  /** Length of the way to the first arrow of each column, mm. */
  lead?: number;
  /** Its values are told elsewhere. */
  unlabelled?: boolean;
};

/**
 * Beads between the middles of the two legs: the bulge at no advance is up to four beads wide, and must not reach its
 * neighbour. From one hairpin to the next there is room for an arrow as well.
 */
const [LEGS, APART] = [4.5, 7];
/** Height and depth of an arrow, whose tip stands where the speed changes, mm; and the way to the first of a column. */
const [ARROW, DEPTH, LEAD] = [1.2, 0.7, 8];
/** Way from the second arrow to the turn, as a share of the slow way from the rail: the turn itself is slow as well. */
const TO_TURN = 0.5;
/** Pieces of a half circle. */
const PIECES = 10;
/** Rail in front of the first and behind the last hairpin, mm. */
const RAIL_END = 2;

const to = (x: number, y: number): Point => ({ x, y });

export function hairpins(values: readonly number[], shape: HairpinShape, bench: Bench): Pattern {
  const { slowLength, fastLength, slow, speed, layerHeight, lead = LEAD, unlabelled } = shape;
  const bead = Math.max(beadWidthOf(bench.nozzle.diameter), layerHeight);
  const [legs, apart] = [LEGS * bead, APART * bead];
  const pitch = legs + apart;
  const [a, b] = [slowLength, slowLength + fastLength];
  const turn = b + TO_TURN * slowLength;
  const top = (values.length - 1) * pitch + legs;
  const end = turn + legs / 2 + bead / 2;
  const text = unlabelled ? { lines: [], end } : labels(values, end, pitch, legs / 2, bead);
  const upright = (x: number, low: number, high: number): Line => ({
    path: [to(x, low), to(x, high)],
  });
  const rail = [upright(-bead, -RAIL_END, top + RAIL_END), upright(0, top + RAIL_END, -RAIL_END)];
  // From arrow to arrow of a column, so that hardly any way is long enough to be drawn back for. The first of each is
  // led to by a line from the outside: what was drawn back has to be pressed up again.
  const gaps = Array.from({ length: values.length + 1 }, (_, i) => i * pitch - apart / 2);
  const column = (x: number, ys: readonly number[], sign: 1 | -1): Line[] =>
    ys.map((y, i) => {
      const [tail, half] = [x - sign * DEPTH, (sign * ARROW) / 2];
      const led = i === 0 ? [to(tail, y - sign * lead)] : [];
      return { path: [...led, to(tail, y - half), to(x, y), to(tail, y + half)] };
    });
  // They point at each other: what lies between them is fast.
  const arrows = [...column(a, gaps, 1), ...column(b, [...gaps].reverse(), -1)];
  const beside = (apart - ARROW - bead) / 2;
  const rungs = values.map((_, i): PatternRung => {
    const [out, back] = [i * pitch, i * pitch + legs];
    const half = Array.from({ length: PIECES + 1 }, (_, n): Point => {
      const angle = Math.PI * (n / PIECES - 0.5);
      return to(
        turn + (legs / 2) * Math.cos(angle),
        (out + back) / 2 + (legs / 2) * Math.sin(angle),
      );
    });
    return {
      lines: [
        [
          { path: [to(0, out), to(a, out)], speed: slow },
          { path: [to(a, out), to(b, out)], speed },
          { path: [to(b, out), ...half, to(b, back)], speed: slow },
          { path: [to(b, back), to(a, back)], speed },
          { path: [to(a, back), to(0, back)], speed: slow },
        ],
      ],
      // Between rail and turn, and between the arrows, which belong to no value.
      boxes: [{ minX: 2 * bead, maxX: turn, minY: out - beside, maxY: back + beside }],
    };
  });
  return {
    box: {
      minX: -1.5 * bead,
      minY: Math.min(-apart / 2 - lead, (legs - signHeight(bead)) / 2),
      maxX: text.end,
      maxY: Math.max(top + apart / 2 + lead, top + (signHeight(bead) - legs) / 2),
    },
    marks: [...rail, ...arrows, ...text.lines],
    rungs,
  };
}

export type MeanderShape = { side: number; speed: number; layerHeight: number };

/** Sides of a meander along its way: every second one goes across. */
const SIDES = 7;
/** Share of a side at both ends of a figure that belongs to no corner. */
const ENDS = 0.4;

export function meander(values: readonly number[], shape: MeanderShape, bench: Bench): Pattern {
  const { side, speed, layerHeight } = shape;
  const bead = Math.max(beadWidthOf(bench.nozzle.diameter), layerHeight);
  const beside = beadPitch(bead, layerHeight);
  const pitch = side + beside + Math.max(2.5, 5 * bead);
  const wide = ((SIDES + 1) / 2) * side;
  const text = labels(values, wide + bead, pitch, (side + beside) / 2, bead);
  const rungs = values.map((_, i): PatternRung => {
    const foot = i * pitch;
    const first = squareWave(side).map(({ x, y }) => to(x, y + foot));
    return {
      lines: [
        [
          { path: first, speed },
          { path: parallel(first, beside).reverse(), speed },
        ],
      ],
      boxes: [
        {
          minX: ENDS * side,
          maxX: wide - ENDS * side,
          minY: foot - bead,
          maxY: foot + side + beside + bead,
        },
      ],
    };
  });
  const top = (values.length - 1) * pitch + side + beside;
  return {
    box: {
      minX: -bead - beside,
      minY: Math.min(-bead, (side + beside - signHeight(bead)) / 2),
      maxX: text.end,
      maxY: Math.max(top + bead, top - (side + beside - signHeight(bead)) / 2),
    },
    marks: text.lines,
    rungs,
  };
}

/** Along, up, along, down: every corner is a right angle, two to the left, then two to the right. */
function squareWave(side: number): Point[] {
  const path = [to(0, 0)];
  for (let i = 0; i < SIDES; i++) {
    const { x, y } = path.at(-1)!;
    path.push(i % 2 === 0 ? to(x + side, y) : to(x, y === 0 ? side : 0));
  }
  return path;
}

/** A way to the left of one of right angles, everywhere as far from it. */
function parallel(path: readonly Point[], by: number): Point[] {
  const normals = path.slice(1).map(({ x, y }, i) => {
    const [dx, dy] = [Math.sign(x - path[i]!.x), Math.sign(y - path[i]!.y)];
    return to(-dy * by, dx * by);
  });
  return path.map(({ x, y }, i) => {
    const [one, two] = [normals[i - 1], normals[i]];
    return to(x + (one?.x ?? 0) + (two?.x ?? 0), y + (one?.y ?? 0) + (two?.y ?? 0));
  });
}
