/** Flat patterns: strokes on the bed, rung beside rung along y. What every one of them needs. */

import { growBox, type Box, type Point } from '../bench/bed';
import type { Bench } from '../bench/bench';
import { addedOffset, inForce } from '../bench/in-force';
import { areaOf, beadWidthOf, conditionsOf, type Conditions } from '../deposit/conditions';
import type { Layout } from '../deposit/layout';
import type { Role, Step } from '../deposit/step';
import { surroundLoops, surroundSteps } from '../deposit/surround';
import { tidy, WRITTEN_MM } from '../numbers';
import { cellsOf } from '../plan/axes';
import type { Axis } from '../plan/plan';
import type { Values } from '../bench/settings';
import { strokesOf, textWidth } from '../shape/digits';
import { hatch } from '../shape/hatch';
import { boxOf, distance, offset, rect } from '../shape/region';
import type { Placing } from './fields';
import { onBed } from './guards';
import { FRAME_MARGIN, layerFits, noPrime, placeOn } from './tower';
import type { Warning } from './types';

/** A line of plastic on a pattern; speed in mm/s where it is not the usual one, plastic as a share of a usual bead. */
export type Line = { path: Point[]; speed?: number; role?: Role; plastic?: number };

export type PatternRung = {
  /** Layers of lines, lowest first. */
  lines: Line[][];
  /** Where it is; the first is where it is looked at. */
  boxes: Box[];
};

export type FlatPattern = {
  spec: Placing & { layerHeight: number };
  /** All of it, before it is placed. */
  box: Box;
  /** Printed first: frames, marks and labels. */
  marks: Line[];
  /** What climbs: rungs are its places in order, the first axis slowest. */
  axes: readonly Axis[];
  rungs: PatternRung[];
  /** Order of printing, indices of `rungs`; first to last when missing. */
  order?: number[];
  /** Parts of it that are finished one after the other, each at a heat that is waited for; all at once when missing. */
  groups?: { rungs: number[]; nozzle: number }[];
  held?: Values;
  /** In force from the first stroke on. */
  from?: Values;
  /** Done before the marks, between marks and rungs, and after the last rung; `aside` is a free place beside the print. */
  before?: Step[];
  between?: (aside: Point) => Step[];
  after?: (aside: Point) => Step[];
  /** Height, mm, at which the head crosses from rung to rung; without it, it does not rise. */
  over?: number;
};

/** Strokes on the bed are laid this slow where a speed is not what is tested. */
const usualSpeed = ({ speeds }: Conditions): number => speeds.skirt;

/** Ways shorter than this, mm, stay within a figure: nothing is drawn back, as it would grind the filament. */
const NEAR = 5;

/** Height at which the head crosses a pattern that says nothing of it, mm. */
const SAFE_HEIGHT = 5;
/** Most, mm, by which a first layer is lifted. */
const HIGHEST_OFFSET = 0.5;

/** Lays a flat pattern. */
export function layPattern(pattern: FlatPattern, bench: Bench): Layout {
  const { spec, box, rungs } = pattern;
  const cells = cellsOf(pattern.axes);
  const height = spec.layerHeight;
  const conditions = conditionsOf(bench, height, bench.machine.speeds.firstLayer);
  const { dx, dy, on, around, prime } = placeOn(bench, spec, box, conditions);
  if (!prime) throw new Error('planned in spite of a stop: no room for a prime line');
  const at = ({ x, y }: Point): Point => ({ x: tidy(x + dx), y: tidy(y + dy) });
  const moved = (one: Box): Box => ({
    minX: tidy(one.minX + dx),
    minY: tidy(one.minY + dy),
    maxX: tidy(one.maxX + dx),
    maxY: tidy(one.maxY + dy),
  });
  const loops = surroundLoops(
    rect(on.minX, on.minY, on.maxX, on.maxY),
    { skirtLoops: spec.skirtLoops, brimWidth: 0 },
    conditions.width,
  );
  const start = loops.at(-1)?.loop.at(-1) ?? prime.at(-1)!;
  const pen = new Strokes(conditions, start);
  const layers = Math.max(...rungs.map(({ lines }) => lines.length));
  // Where the prime line began nothing stands that could be scraped or dripped on.
  const aside: Point = { x: prime[0]!.x - dx, y: prime[0]!.y - dy };
  pen.steps.push(...(pattern.before ?? []));
  for (const line of pattern.marks) pen.lay(line, at, pattern.over);
  pen.steps.push(...placedSteps(pattern.between?.(aside) ?? [], at));
  const inOrder = pattern.order ?? rungs.map((_, i) => i);
  const groups = pattern.groups ?? [{ rungs: inOrder, nozzle: null }];
  let current: number | null = null;
  groups.forEach(({ rungs: of, nozzle }, group) => {
    if (group > 0 && nozzle !== null) {
      pen.aside(at(aside), pattern.over);
      // What is told as a first layer begins high over all that stands.
      pen.steps.push(
        { do: 'heat', nozzle, tool: 0 },
        { do: 'layer', index: 0, z: height, height },
        { do: 'fan', share: 0 },
      );
    }
    for (let layer = 0; layer < layers; layer++) {
      const z = tidy((layer + 1) * height);
      if (layer > 0) pen.steps.push({ do: 'layer', index: layer, z, height });
      if (layer > 0) pen.steps.push({ do: 'fan', share: conditions.fan.print });
      for (const index of of) {
        const lines = rungs[index]!.lines[layer] ?? [];
        if (lines.length === 0) continue;
        // The first of several layers is there to lie well, and the value is in all on top of it: what is too much or
        // too little of it adds up.
        const tested = layer >= firstTested(rungs[index]!.lines);
        if (tested && current !== index) {
          pen.steps.push({ do: 'rung', index });
          current = index;
        }
        lines.forEach((line, i) => pen.lay(line, at, pattern.over, i === 0));
      }
    }
  });
  const top = tidy(layers * height);
  const zOffset = addedOffset(bench);
  const frame = moved(growBox(box, FRAME_MARGIN));
  return {
    view: 'top',
    frame,
    axes: [...pattern.axes],
    rungs: rungs.map(({ boxes, lines }, index) => ({
      index,
      ...cells[index]!,
      // An offset may lift the first layer far over its nominal height.
      z:
        lines.length === 1
          ? { from: 0, to: tidy(height + HIGHEST_OFFSET) }
          : { from: tidy(height + zOffset), to: tidy(top + zOffset) },
      layers: { first: firstTested(lines), last: lines.length - 1 },
      boxes: boxes.map(moved),
    })),
    steps: [
      { do: 'layer', index: 0, z: height, height },
      ...(pattern.from ? [{ do: 'set', set: pattern.from } as Step] : []),
      ...surroundSteps(prime, loops, conditions),
      ...pen.steps,
      ...placedSteps(pattern.after?.(aside) ?? [], at),
    ],
    box: around,
    height: top,
    width: tidy(frame.maxX - frame.minX),
    layerHeight: height,
    start: { nozzle: pattern.groups?.[0]?.nozzle ?? inForce(bench).nozzle },
    held: pattern.held ?? {},
  };
}

/** The first layer with the rung's value: the one there is, or else the second. */
const firstTested = (layers: readonly unknown[]): number => Math.min(1, layers.length - 1);

/** Steps of a pattern, moved to where it lands. */
const placedSteps = (steps: readonly Step[], at: (point: Point) => Point): Step[] =>
  steps.map((step) => {
    if (step.do === 'travel') return { ...step, to: at(step.to) };
    if (step.do === 'stroke') return { ...step, path: step.path.map(at) };
    return step;
  });

/** Lays lines one after another, drawing back for every way that is not just the next bead. */
class Strokes {
  readonly steps: Step[] = [];
  constructor(
    private readonly conditions: Conditions,
    private at: Point,
  ) {}

  /** To a place where nothing stands, drawn back, to wait there. */
  aside(to: Point, over = SAFE_HEIGHT): void {
    this.steps.push({ do: 'draw' }, { do: 'travel', to, retract: true, over });
    this.at = to;
  }

  /** @param rises whether the head rises whatever the way: a new rung may lie at another height */
  lay(
    { path, speed, role = 'wall', plastic = 1 }: Line,
    place: (point: Point) => Point,
    over?: number,
    rises = false,
  ): void {
    const { conditions } = this;
    const placed = path.map(place);
    const [first] = placed as [Point, ...Point[]];
    const far = distance(this.at, first);
    if (far > WRITTEN_MM)
      this.steps.push({
        do: 'travel',
        to: first,
        retract: far > NEAR || (rises && over !== undefined),
        // Nothing that stands higher is ever dragged over: the head rises for every way that leaves its figure.
        ...(over === undefined || (far <= NEAR && !rises) ? {} : { over }),
      });
    this.steps.push({
      do: 'stroke',
      role,
      path: placed,
      area: plastic * areaOf(role, conditions),
      speed: speed ?? usualSpeed(conditions),
    });
    this.at = placed.at(-1)!;
  }
}

/** What every flat pattern has to keep to. */
export function patternChecks(
  { spec, box }: Pick<FlatPattern, 'spec' | 'box'>,
  bench: Bench,
): Warning[] {
  const { machine, nozzle } = bench;
  const height = spec.layerHeight;
  const width = Math.max(beadWidthOf(nozzle.diameter), height);
  const { around, prime } = placeOn(bench, spec, box, { width, height });
  return [
    ...layerFits(spec.layerHeight, nozzle.diameter),
    ...onBed(around, machine.bed),
    ...(prime ? [] : [noPrime]),
  ];
}

/** Size of flat signs, mm a grid unit, that a bead of some width can draw. */
export const signUnit = (bead: number): number => Math.max(0.9, 2.1 * bead);
/** From the line under a sign to its foot, beads. */
const UNDERLINE = 2;
export const signHeight = (bead: number): number => 4 * signUnit(bead) + (1 + UNDERLINE) * bead;
/** Least length of that line, mm: shorter, it would not press up what was drawn back. */
const LEAD = 6;
const underlineOf = (text: string, bead: number): number =>
  Math.max(LEAD, textWidth(text) * signUnit(bead));
export const signWidth = (text: string, bead: number): number => underlineOf(text, bead) + bead;

/**
 * A text drawn with single beads; its lower left corner at (x, y). A line under it comes first, from right to left:
 * what was drawn back has to be pressed up again before so short a stroke as one of a digit is fed.
 */
export function flatText(text: string, x: number, y: number, bead: number): Line[] {
  const unit = signUnit(bead);
  const [left, foot] = [x + bead / 2, y + bead / 2];
  const raised = foot + UNDERLINE * bead;
  return [
    {
      path: [
        { x: left + underlineOf(text, bead), y: foot },
        { x: left, y: foot },
      ],
    },
    ...strokesOf(text).map(([x0, y0, x1, y1]) => ({
      path: [
        { x: left + x0 * unit, y: raised + y0 * unit },
        { x: left + x1 * unit, y: raised + y1 * unit },
      ],
    })),
  ];
}

/** A closed path around a box. */
export const outlineOf = ({ minX, minY, maxX, maxY }: Box): Point[] => [
  { x: minX, y: minY },
  { x: maxX, y: minY },
  { x: maxX, y: maxY },
  { x: minX, y: maxY },
  { x: minX, y: minY },
];

/** A box filled with one rim and lines that turn at its ends without a break. */
export function filled(box: Box, bead: number, pitch: number, angle: number): Line[] {
  const region = rect(box.minX, box.minY, box.maxX, box.maxY);
  const rim = offset(region, -bead / 2);
  if (rim.length === 0) return [];
  const inside = offset(region, -(bead / 2 + 0.75 * pitch));
  const lines: Line[] = [{ path: outlineOf(boxOf(rim)) }];
  let run: Point[] = [];
  for (const [a, b] of hatch(inside, pitch, angle)) {
    if (run.length > 0 && distance(run.at(-1)!, a) > 3 * pitch) {
      lines.push({ path: run, role: 'fill' });
      run = [];
    }
    run.push(a, b);
  }
  if (run.length > 1) lines.push({ path: run, role: 'fill' });
  return lines;
}
