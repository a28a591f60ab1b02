/** What a print should look like by its plan: its box, its places, and where plastic lies, made from the plan alone. */

import type { Box } from '../bench/bed';
import { beadWidthOf } from '../deposit/conditions';
import { outlineOf } from '../deposit/layer';
import { printBox } from '../gcode/print-box';
import { MOVE, type Trace } from '../gcode/trace';
import { makeLadder, specFor } from '../ladders/make';
import { kindOf } from '../ladders/registry';
import type { Plan } from '../plan/plan';
import { boxOf as regionBox } from '../shape/region';
import { frameAbove } from '../view/ladder-picture';
import { Pairs } from './fitting';
import type { Corners } from './pixels';
import type { Side, Spot } from './sight';

/** A rung's place as it is seen from a side, and the single boxes of a rung that has several. */
export type Place = Spot & { own: Box[] };

/**
 * The box of a print as it is seen from a side, mm: from the front its width and height with 0, 0 at the lower left;
 * from above its frame on the bed.
 */
export function boxOf(plan: Plan, side: Side): Box {
  if (side === 'top') return frameAbove(plan);
  const width = plan.view === 'front' || !plan.frame ? plan.width : widthOf(plan.frame);
  return { minX: 0, minY: 0, maxX: width, maxY: plan.height };
}
const widthOf = ({ minX, maxX }: Box): number => maxX - minX;

/** Places of all rungs. From the back, right is left. */
export function placesOf(plan: Plan, side: Side): Place[] {
  const box = boxOf(plan, side);
  return plan.rungs.map(({ index, z, boxes = [], looked }): Place => {
    if (side === 'top') {
      const own = boxes.length > 0 ? boxes : [box];
      return { rung: index, box: looked ?? own[0]!, own };
    }
    const cell = plan.view === 'front' && plan.frame ? boxes[0] : undefined;
    const left = plan.frame?.minX ?? 0;
    const [minX, maxX] = cell ? [cell.minX - left, cell.maxX - left] : [box.minX, box.maxX];
    const seen =
      side === 'back' ? { minX: box.maxX - maxX, maxX: box.maxX - minX } : { minX, maxX };
    const place = { ...seen, minY: z.from, maxY: z.to };
    return { rung: index, box: place, own: [place] };
  });
}

/** Where the corners of the print's box lie in a picture that was drawn of it, whose edges are known. */
export function drawnCorners(
  plan: Plan,
  { width, height }: { width: number; height: number },
): Corners {
  const aside = airBeside(plan);
  const inset = (width * aside) / (plan.width + 2 * aside);
  return [
    { x: inset, y: height },
    { x: width - inset, y: height },
    { x: width - inset, y: 0 },
    { x: inset, y: 0 },
  ];
}
const AIR_DRAWN = 1;

/** From above the picture ends where the frame does; from the front it has air beside the strokes' middles. */
const airBeside = (plan: Plan): number =>
  plan.view === 'top' ? 0 : AIR_DRAWN - beadWidthOf(plan.bench.nozzle.diameter) / 2;

/** What the drawing of a print shows, mm of the print as it is seen from a side. */
export function drawnBox(plan: Plan, side: Side): Box {
  const box = boxOf(plan, side);
  const aside = airBeside(plan);
  return { ...box, minX: box.minX - aside, maxX: box.maxX + aside };
}

/** Where plastic lies by the plan's own moves: 1 or 0 for every cell, row 0 the lowest. */
export type Laid = { box: Box; cell: number; columns: number; rows: number; laid: Uint8Array };

/** Made again from the plan; null for one that cannot be (of a sliced file, or of another time). */
export function traceOf(plan: Plan): Trace | null {
  const made = makeLadder(plan.kind, plan.spec, plan.bench);
  if (!made.ok || made.value.plan.rungs.length !== plan.rungs.length) return null;
  return made.value.trace;
}

/** Top of a layer and its two sides by the plan, mm of the print as it is seen from a side. */
export type Level = { z: number; left: number; right: number };

/** All layers of a print from the lowest, by its form alone; null where it has none that is seen from a side. */
export function profileOf(plan: Plan, side: Side): Level[] | null {
  if (side === 'top' || plan.view !== 'front' || plan.frame) return null;
  const kind = kindOf(plan.kind);
  const spec = kind.ok ? specFor(kind.value, plan.bench, plan.spec) : kind;
  if (!kind.ok || !spec.ok) return null;
  const draft = kind.value.draft?.(spec.value, plan.bench);
  if (!draft || draft.above || draft.rungs.length !== plan.rungs.length) return null;
  const over = plan.rungs[0]!.z.from / 2;
  const whole = regionBox(draft.layers.filter(({ z }) => z > over).flatMap(outlineOf));
  const width = boxOf(plan, side).maxX;
  return draft.layers
    .map((layer) => {
      const { minX, maxX } = regionBox(outlineOf(layer));
      const [left, right] = [minX - whole.minX, maxX - whole.minX];
      return side === 'back'
        ? { z: layer.z, left: width - right, right: width - left }
        : { z: layer.z, left, right };
    })
    .sort((one, other) => one.z - other.z);
}

/** Between which two places across a rung's outline lies by the plan, mm. */
export function sidesOf(levels: readonly Level[], plan: Plan, { rung }: Spot): Span | null {
  const { z } = plan.rungs[rung]!;
  const own = levels.filter((one) => one.z > z.from + 1e-6 && one.z <= z.to + 1e-6);
  if (own.length === 0) return null;
  return {
    from: Math.min(...own.map(({ left }) => left)),
    to: Math.max(...own.map(({ right }) => right)),
  };
}
export type Span = { from: number; to: number };

const CELL = 0.25;

/** Seen from above. */
export function laidAbove({ moves }: Trace, plan: Plan): Laid {
  const half = beadWidthOf(plan.bench.nozzle.diameter) / 2;
  const all = printBox({ moves } as Trace) ?? frameAbove(plan);
  const frame = frameAbove(plan);
  const box = {
    minX: Math.min(all.minX, frame.minX) - 3,
    minY: Math.min(all.minY, frame.minY) - 3,
    maxX: Math.max(all.maxX, frame.maxX) + 3,
    maxY: Math.max(all.maxY, frame.maxY) + 3,
  };
  const columns = Math.ceil((box.maxX - box.minX) / CELL);
  const rows = Math.ceil((box.maxY - box.minY) / CELL);
  const laid = new Uint8Array(columns * rows);
  for (let i = 1; i < moves.count; i++) {
    if (moves.kind[i] !== MOVE.extrude) continue;
    const [x0, y0, x1, y1] = [moves.x[i - 1]!, moves.y[i - 1]!, moves.x[i]!, moves.y[i]!];
    const steps = Math.max(1, Math.ceil((2 * Math.hypot(x1 - x0, y1 - y0)) / CELL));
    for (let s = 0; s <= steps; s++) {
      const x = x0 + ((x1 - x0) * s) / steps;
      const y = y0 + ((y1 - y0) * s) / steps;
      for (let r = index(y - half, box.minY); r <= index(y + half, box.minY); r++)
        for (let c = index(x - half, box.minX); c <= index(x + half, box.minX); c++)
          if (r >= 0 && c >= 0 && r < rows && c < columns) laid[r * columns + c] = 1;
    }
  }
  return { box, cell: CELL, columns, rows, laid };
}
const index = (at: number, from: number): number => Math.round((at - from) / CELL - 0.5);

/** The boxes that may be meant by the corners of a print that is seen from above: what the plan frames, and all that is laid. */
export function boxesAbove(trace: Trace, plan: Plan): Box[] {
  const half = beadWidthOf(plan.bench.nozzle.diameter) / 2;
  const all = printBox(trace);
  const places = plan.rungs.flatMap(({ boxes = [] }) => boxes);
  const around = places.reduce<Box | null>(
    (box, one) =>
      box
        ? {
            minX: Math.min(box.minX, one.minX),
            minY: Math.min(box.minY, one.minY),
            maxX: Math.max(box.maxX, one.maxX),
            maxY: Math.max(box.maxY, one.maxY),
          }
        : one,
    null,
  );
  return [
    frameAbove(plan),
    ...(all
      ? [
          {
            minX: all.minX - half,
            minY: all.minY - half,
            maxX: all.maxX + half,
            maxY: all.maxY + half,
          },
          all,
        ]
      : []),
    ...(around ? [around] : []),
  ];
}

/** How well plastic lies where it should, −1..1: correlation over the cells around the rungs. */
export function agreement(
  laid: Laid,
  plastic: (x: number, y: number) => number,
  over: Box,
): number {
  const pairs = new Pairs();
  for (let r = 0; r < laid.rows; r++) {
    const y = laid.box.minY + (r + 0.5) * laid.cell;
    if (y < over.minY || y > over.maxY) continue;
    for (let c = 0; c < laid.columns; c++) {
      const x = laid.box.minX + (c + 0.5) * laid.cell;
      if (x < over.minX || x > over.maxX) continue;
      pairs.add(laid.laid[r * laid.columns + c]!, Math.max(0, Math.min(1, plastic(x, y))));
    }
  }
  return pairs.correlation();
}
