/** A photo of a print, straightened by four corners and measured rung by rung. */

import type { Box, Point } from '../bench/bed';
import type { Trace } from '../gcode/trace';
import { kindFor } from '../ladders/registry';
import { clamp } from '../numbers';
import type { Plan } from '../plan/plan';
import { problem, type Problem } from '../result';
import { findCorners } from './corners';
import {
  agreement,
  boxesAbove,
  boxOf,
  laidAbove,
  placesOf,
  profileOf,
  traceOf,
  type Place,
} from './expected';
import { closedOf } from './gaps';
import { turnsRound } from './homography';
import { fitLens, type LensFit } from './lens-fit';
import { canTake, MEASURE_NAMES, MEASURES, take, type MeasureName } from './measures';
import { lightnessOf, type Corners, type Pixels } from './pixels';
import { plasticOf } from './plastic';
import { qualityOf } from './quality';
import { cannotTell, type Side, type Sight, type Taken } from './sight';
import {
  AIR,
  columnOf,
  finestScale,
  placeAt,
  poseOf,
  rowOf,
  seenAt,
  straighten,
  type Flat,
  type Pose,
} from './straighten';
import { runsAlong, turnsOf } from './line-up';

export type Measured = Taken & {
  name: MeasureName;
  rung: number;
  unit: string;
  /** Of a pair of lines: the axis along which the two are apart. */
  axis?: 'x' | 'y';
  /** Where it was taken, as corners in the photo, pixels. */
  seen: Corners;
};

export type Looked = {
  problems: Problem[];
  /** Pixels of the photo for a millimetre of the print, at its finest; null where it could not be straightened. */
  pxPerMm: number | null;
  side: Side;
  corners: Corners | null;
  /** Whether the corners were found, not given. */
  found: boolean;
  lens: LensFit | null;
  pose: Pose | null;
  measures: Measured[];
  /** The straightened picture. */
  flat: Flat | null;
  moved: readonly Moved[];
};

/** A place that somebody moved: by how many pixels of the photo. */
export type Moved = { name: MeasureName; rung: number; axis?: 'x' | 'y' | undefined; by: Point };

export type Asked = {
  corners?: Corners;
  side?: Side;
  /** Without: all that the kind of ladder is looked at for. */
  measures?: readonly MeasureName[];
  /** Places that are not where the plan has them. */
  moved?: readonly Moved[];
};

/** How far corners are put off by a hand and an eye, pixels. */
const HAND = 0.3;
/** Resolution at which the lens and the ground are looked at first, pixels a millimetre. */
const COARSE = 14;

const SIDES: Record<Plan['view'], Side> = { front: 'front', top: 'top' };

/** Looks at a photo: straightens it, says what stands against it, and measures. */
export function lookAt(photo: Pixels, plan: Plan, asked: Asked = {}): Looked {
  const side = asked.side ?? SIDES[plan.view];
  const nothing: Looked = {
    problems: [],
    pxPerMm: null,
    side,
    corners: null,
    found: false,
    lens: null,
    pose: null,
    measures: [],
    flat: null,
    moved: asked.moved ?? [],
  };
  const names = asked.measures ?? usualFor(plan, side);
  const unseen = (problems: Problem[], why: string): Looked => ({
    ...nothing,
    problems,
    measures: untold(plan, side, names, why),
  });
  const trace = once(() => traceOf(plan));
  const found = asked.corners ? null : findCorners(photo, plan, side, trace());
  const corners = asked.corners ?? found;
  if (!corners)
    return unseen(
      [
        problem(
          'corners',
          'The outline of the print is not clear enough to find its corners.',
          'Say where they are: lower left, lower right, upper right, upper left.',
        ),
      ],
      'The corners of the print are not known.',
    );
  const turned = cornerFaults(corners, photo);
  if (turned.length > 0) return unseen(turned, 'The corners are wrong.');
  const box = side === 'top' ? meant(photo, plan, corners, trace()) : boxOf(plan, side);
  const first = poseOf(photo, corners, box);
  if (!first)
    return unseen(
      [
        problem(
          'corners',
          'Three of the corners lie on a line.',
          'Put them on the four corners of the print.',
        ),
      ],
      'The corners are wrong.',
    );
  const coarse = straighten(photo, first, Math.min(COARSE, finestScale(first)));
  const lens = fitLens(photo, first, coarse, plasticOf(coarse, box, first));
  const pose = (lens.k === 0 ? null : poseOf(photo, corners, box, lens.k)) ?? first;
  const flat = straighten(photo, pose);
  const grey = lightnessOf(flat);
  const told = plasticOf(flat, box, pose);
  const layered = side !== 'top' && names.includes('layer-pitch');
  const quality = qualityOf(pose, flat, grey, told, layered ? plan.layerHeight : null);
  const size = Math.min(box.maxX - box.minX, box.maxY - box.minY) * quality.up;
  const places = placesOf(plan, side);
  const sight: Sight = {
    plan,
    side,
    flat,
    grey,
    plastic: told?.plastic ?? null,
    box,
    up: quality.up,
    across: quality.across,
    levels: once(() => profileOf(plan, side)),
    turns: once(() =>
      turnsOf(
        sight,
        places.flatMap(({ own }) => own),
      ),
    ),
    trace,
    closed: once(() =>
      closedOf(
        sight,
        places.map(({ box: patch }) => patch),
      ),
    ),
    scaleError: Math.hypot((HAND * Math.SQRT2) / size, lens.sure),
  };
  const measures = names.flatMap((name) => measuresOf(name, sight, pose, places, nothing.moved));
  return {
    problems: quality.problems,
    pxPerMm: finestScale(pose),
    side,
    corners,
    found: found !== null,
    lens,
    pose,
    measures,
    flat,
    moved: nothing.moved,
  };
}

/** Makes something when it is first asked for. */
function once<T>(make: () => T): () => T {
  let made: { value: T } | null = null;
  return () => (made ??= { value: make() }).value;
}

/** What a kind of ladder is looked at for, from a side. */
export function usualFor(plan: Plan, side: Side): MeasureName[] {
  const kind = kindFor(plan);
  const looked = new Set<string>(kind.ok ? kind.value.criteria.map(({ name }) => name) : []);
  const settings = new Set(plan.rungs.flatMap(({ set }) => Object.keys(set)));
  return MEASURE_NAMES.filter((name) => {
    if (!canTake(name, side)) return false;
    if (name === 'layer-pitch' || name === 'edge') return plan.view === 'front';
    if (name === 'line-up') return settings.has('offsetX') || settings.has('offsetY');
    if (name === 'gaps') return looked.has('gaps') || looked.has('ridges');
    if (name === 'width') return looked.has('evenness') || looked.has('corners');
    return looked.has(MEASURES[name].of);
  });
}

function measuresOf(
  name: MeasureName,
  sight: Sight,
  pose: Pose,
  places: readonly Place[],
  moved: readonly Moved[],
): Measured[] {
  return places.flatMap((spot) => {
    const boxes = name === 'line-up' ? spot.own : [spot.box];
    return boxes.map((planned): Measured => {
      const axis =
        name === 'line-up' ? (runsAlong(planned) === 'x' ? ('y' as const) : ('x' as const)) : null;
      const by = moved.find(
        (move) =>
          move.name === name && move.rung === spot.rung && (!move.axis || move.axis === axis),
      );
      const one = by ? movedBox(pose, planned, by.by) : planned;
      const taken: Taken = !canTake(name, sight.side)
        ? cannotTell(one, elsewhere(name))
        : places.some((other) => other !== spot && isSame(other.box, spot.box))
          ? cannotTell(one, sight.side === 'top' ? UNPLACED : BEHIND)
          : take(name, sight, { ...spot, box: name === 'line-up' ? spot.box : one, own: one });
      return {
        ...taken,
        name,
        rung: spot.rung,
        unit: MEASURES[name].unit,
        ...(axis ? { axis } : {}),
        seen: cornersIn(pose, taken.at),
      };
    });
  });
}

const BEHIND = 'From this side its rungs stand one behind the other: take it from above.';
const UNPLACED = 'The plan does not say where each rung lies.';
const isSame = (one: Box, other: Box): boolean =>
  one.minX === other.minX &&
  one.maxX === other.maxX &&
  one.minY === other.minY &&
  one.maxY === other.maxY;

const elsewhere = (name: MeasureName): string =>
  canTake(name, 'top')
    ? 'It is measured from above.'
    : 'It is measured from the front or the back.';

/** A box that somebody pulled elsewhere on the photo; it stays on what was straightened. */
function movedBox(pose: Pose, planned: Box, by: Point): Box {
  const middle = {
    x: (planned.minX + planned.maxX) / 2,
    y: (planned.minY + planned.maxY) / 2,
  };
  const seen = seenAt(pose, middle);
  const to = placeAt(pose, { x: seen.x + by.x, y: seen.y + by.y });
  const { box } = pose;
  const within = (by: number, low: number, high: number) =>
    clamp(by, Math.min(0, low), Math.max(0, high));
  const dx = within(to.x - middle.x, box.minX - AIR - planned.minX, box.maxX + AIR - planned.maxX);
  const dy = within(to.y - middle.y, box.minY - AIR - planned.minY, box.maxY + AIR - planned.maxY);
  return {
    minX: planned.minX + dx,
    maxX: planned.maxX + dx,
    minY: planned.minY + dy,
    maxY: planned.maxY + dy,
  };
}

const cornersIn = (pose: Pose, { minX, minY, maxX, maxY }: Box): Corners =>
  [
    { x: minX, y: minY },
    { x: maxX, y: minY },
    { x: maxX, y: maxY },
    { x: minX, y: maxY },
  ].map((place) => seenAt(pose, place)) as Corners;

function untold(plan: Plan, side: Side, names: readonly MeasureName[], why: string): Measured[] {
  const nowhere: Point = { x: 0, y: 0 };
  return names.flatMap((name) =>
    placesOf(plan, side).map(({ rung, box }): Measured => ({
      name,
      rung,
      value: NaN,
      spread: NaN,
      told: false,
      why,
      unit: MEASURES[name].unit,
      at: box,
      seen: [nowhere, nowhere, nowhere, nowhere],
    })),
  );
}

/** Corners may lie a little outside: a print that fills the picture is cut off by a hair. */
const OUTSIDE = 0.1;
const LEAST_SIDE = 40;

function cornerFaults(corners: Corners, { width, height }: Pixels): Problem[] {
  const far = corners.findIndex(
    ({ x, y }) =>
      !(x > -OUTSIDE * width && x < (1 + OUTSIDE) * width) ||
      !(y > -OUTSIDE * height && y < (1 + OUTSIDE) * height),
  );
  if (far >= 0)
    return [
      problem(
        'corners',
        `Corner ${far + 1} lies outside the picture of ${width} × ${height} pixels.`,
        'Give pixels of the picture, from its upper left.',
      ),
    ];
  const how = turnsRound(corners);
  if (how !== 'convex')
    return [
      problem(
        'corners',
        how === 'mirrored'
          ? 'The corners run round the other way: the picture would be mirrored.'
          : 'The corners do not make a form with four sides.',
        'Give them in order: lower left, lower right, upper right, upper left.',
      ),
    ];
  const short = corners.some((a, i) => {
    const b = corners[(i + 1) % 4]!;
    return Math.hypot(a.x - b.x, a.y - b.y) < LEAST_SIDE;
  });
  return short ? [problem('corners', 'The print is only a few pixels wide.', 'Go nearer.')] : [];
}

/** The box whose corners were meant, of a print that is seen from above: that under which plastic lies as it should. */
function meant(photo: Pixels, plan: Plan, corners: Corners, trace: Trace | null): Box {
  const usual = boxOf(plan, 'top');
  if (!trace) return usual;
  const laid = laidAbove(trace, plan);
  let best = { box: usual, score: -Infinity };
  for (const box of boxesAbove(trace, plan)) {
    const pose = poseOf(photo, corners, box);
    if (!pose) continue;
    const flat = straighten(photo, pose, 5);
    const told = plasticOf(flat, box, pose);
    if (!told) continue;
    const at = (x: number, y: number) => {
      const column = Math.floor(columnOf(flat, x));
      const row = Math.floor(rowOf(flat, y));
      if (column < 0 || row < 0 || column >= flat.width || row >= flat.height) return 0;
      return told.plastic[row * flat.width + column]!;
    };
    const score = agreement(laid, at, usual);
    // The plan's own frame is meant where another is no better.
    if (score > best.score + (best.score > -Infinity ? 0.02 : 0)) best = { box, score };
  }
  return best.box;
}
