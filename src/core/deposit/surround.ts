/** What is laid around a form on its first layer: prime line, skirt, brim. */

import { boxOnBed, growBox, type Box, type Point } from '../bench/bed';
import type { Bench } from '../bench/bench';
import { inForce } from '../bench/in-force';
import { drawnAtEnd, type Bed } from '../bench/machine';
import { boxOf, offset, type Region } from '../shape/region';
import { beadWidth, filamentFor } from './bead';
import { areaOf, primeArea, type Conditions } from './conditions';
import type { Step } from './step';
import { startAt } from './walls';

/** Distances on the bed, mm. */
const SKIRT_GAP = 3;
const PRIME_GAP = 4;
/** Half of the length of a run, mm, the handiest first; longer ones leave room for a form that is almost as wide as the bed. */
const HALVES = [30, 25, 20, 15, 10, 45, 60, 75, 90];
/** Runs of a prime line lie this many of their own widths apart: side by side, not over each other. */
const RUN_PITCH = 1.1;
/** Filament that a print begins with, mm, and what may have been drawn back before it comes on top. */
const PRIME_FILAMENT = 10;

export type Surround = { skirtLoops: number; brimWidth: number };

/**
 * How long a prime line is, mm, and how far apart its runs lie: whatever the last print drew back, the nozzle is full.
 */
export function primeOf(bench: Bench, { width, height }: Pick<Conditions, 'width' | 'height'>) {
  const area = primeArea(width, height);
  const empty = inForce(bench).retraction + drawnAtEnd(bench.machine.endBlock);
  return {
    length: (PRIME_FILAMENT + empty) / filamentFor(1, area, bench.filament.diameter),
    pitch: RUN_PITCH * beadWidth(area, height),
  };
}
export type Prime = ReturnType<typeof primeOf>;

/**
 * A prime line beside the form, to and fro, on the first side that has room: front, rear, left, right. It begins
 * at its run farthest from the form.
 */
export function primeLine(around: Box, bed: Bed, { length, pitch }: Prime): Point[] | null {
  const middle = { x: (around.minX + around.maxX) / 2, y: (around.minY + around.maxY) / 2 };
  for (const half of HALVES) {
    const runs = Math.max(1, Math.ceil(length / (2 * half)));
    const far = PRIME_GAP + pitch * (runs - 0.5);
    const out = Array.from({ length: runs }, (_, i) => far - i * pitch);
    /** Runs across a side: where each lies, and how a place along it becomes a point. */
    const side = (at: (away: number, along: number) => Point): Point[] =>
      out.flatMap((away, i) =>
        (i % 2 === 0 ? [-half, half] : [half, -half]).map((along) => at(away, along)),
      );
    const sides = [
      side((away, along) => ({ x: middle.x + along, y: around.minY - away })),
      side((away, along) => ({ x: middle.x + along, y: around.maxY + away })),
      side((away, along) => ({ x: around.minX - away, y: middle.y + along })),
      side((away, along) => ({ x: around.maxX + away, y: middle.y + along })),
    ];
    const fits = sides.find((path) => boxOnBed(bed, growBox(boxOf([path]), pitch)));
    if (fits) return fits;
  }
  return null;
}

const brimLoops = (brimWidth: number, width: number): number => Math.round(brimWidth / width);

/** Loops of skirt or brim around a first layer, outermost first. */
export function surroundLoops(
  outline: Region,
  { skirtLoops, brimWidth }: Surround,
  width: number,
): { role: 'skirt' | 'brim'; loop: Point[] }[] {
  const seam = { x: -1, y: -1 };
  const brim = brimLoops(brimWidth, width);
  const ring = (role: 'skirt' | 'brim', by: number) =>
    offset(outline, by).map((loop) => {
      const turned = startAt(loop, seam);
      return { role, loop: [...turned, turned[0]!] };
    });
  const from = brim * width + SKIRT_GAP;
  return [
    ...Array.from({ length: skirtLoops }, (_, i) =>
      ring('skirt', from + (skirtLoops - i - 0.5) * width),
    ),
    ...Array.from({ length: brim }, (_, i) => ring('brim', (brim - i - 0.5) * width)),
  ].flat();
}

/** How far skirt and brim reach beyond the form, mm. */
export const surroundReach = ({ skirtLoops, brimWidth }: Surround, width: number): number =>
  brimLoops(brimWidth, width) * width + (skirtLoops > 0 ? SKIRT_GAP + skirtLoops * width : 0);

/** Steps that prime the nozzle and lay skirt and brim, all on the first layer. */
export function surroundSteps(
  prime: readonly Point[],
  loops: ReturnType<typeof surroundLoops>,
  conditions: Conditions,
): Step[] {
  let last = 'nothing';
  const lay = (role: 'prime' | 'skirt' | 'brim', path: Point[]): Step[] => [
    // From loop to loop it is less than a bead: nothing to draw back for.
    { do: 'travel', to: path[0]!, retract: role !== 'prime' && role !== last },
    { do: 'stroke', role, path, area: areaOf(role, conditions), speed: conditions.speeds[role] },
  ];
  return [
    ...lay('prime', [...prime]),
    ...loops.flatMap(({ role, loop }) => {
      const steps = lay(role, loop);
      last = role;
      return steps;
    }),
  ];
}
