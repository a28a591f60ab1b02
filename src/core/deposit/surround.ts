/** What is laid around a form on its first layer: prime line, skirt, brim. */

import { boxOnBed, growBox, type Box, type Point } from '../bench/bed';
import type { Bed } from '../bench/machine';
import { boxOf, offset, type Region } from '../shape/region';
import { areaOf, type Conditions } from './conditions';
import type { Step } from './step';
import { startAt } from './walls';

/** Distances on the bed, mm. */
const SKIRT_GAP = 3;
const PRIME_GAP = 4;
const LONGEST_PRIME = 60;

export type Surround = { skirtLoops: number; brimWidth: number };

/** A prime line beside the form, on the first side that has room: front, rear, left, right. */
export function primeLine(around: Box, bed: Bed, width: number): [Point, Point] | null {
  const middle = { x: (around.minX + around.maxX) / 2, y: (around.minY + around.maxY) / 2 };
  const gap = PRIME_GAP + width;
  for (let half = LONGEST_PRIME / 2; half >= LONGEST_PRIME / 6; half -= 5) {
    const sides: [Point, Point][] = [
      horizontal(middle.x, around.minY - gap, half),
      horizontal(middle.x, around.maxY + gap, half),
      vertical(around.minX - gap, middle.y, half),
      vertical(around.maxX + gap, middle.y, half),
    ];
    const fits = sides.find(([a, b]) => boxOnBed(bed, growBox(boxOf([[a, b]]), width)));
    if (fits) return fits;
  }
  return null;
}

const horizontal = (x: number, y: number, half: number): [Point, Point] => [
  { x: x - half, y },
  { x: x + half, y },
];
const vertical = (x: number, y: number, half: number): [Point, Point] => [
  { x, y: y - half },
  { x, y: y + half },
];

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
  prime: [Point, Point],
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
