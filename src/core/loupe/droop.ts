/** How far the edge of a lean droops: how far down what was planned would have to move to look as it does. */

import { clamp, mean, quantile } from '../numbers';
import type { Level } from './expected';
import { outlineOf } from './outline';
import { robustDeviation } from './fitting';
import type { Sight, Spot } from './sight';

/** A side leans where it goes out by more than this share of its height, over at least so many layers. */
const LEANS = 0.3;
const LAYERS = 3;
/** Droops that are tried, mm. */
const MOST = 1.2;
const STEP = 0.02;
/** Rows that follow their plan less closely than this, mm, say that something else is seen. */
const ODD = 0.5;

/** Fewest rows of the picture by which something is said, and the furthest that an edge is off by its corners, mm. */
const FEWEST = 8;
const ASIDE = 0.4;

/** Where an edge is seen: its height, and how far out it is, mm. */
type Row = { z: number; x: number };
export type Droop = { droop: number; deviation: number };

/** @returns null where no side of the rung leans, or none is seen clearly */
export function droopOf(sight: Sight, plastic: Float32Array, { box, rung }: Spot): Droop | null {
  const { plan } = sight;
  const levels = sight.levels();
  if (!levels) return null;
  const z = plan.rungs[rung]!.z;
  const found = (['left', 'right'] as const).flatMap((edge) => {
    const lean = leaning(levels, z, edge);
    if (!lean) return [];
    const at = levels[Math.floor((lean.from + lean.to) / 2)]!;
    const across =
      edge === 'left' ? { minX: at.left, maxX: box.maxX } : { minX: box.minX, maxX: at.right };
    const rows = outlineOf(sight, plastic, { ...box, ...across }, edge).map((row) => ({
      z: row.z,
      x: edge === 'left' ? -(at.left - row.off) : at.right + row.off,
    }));
    const [low, high] = [levels[lean.from]!.z, levels[lean.to]!.z];
    const leans = rows.filter((row) => row.z > low && row.z <= high);
    // What droops hangs below its lean: only what stands above it is where it should be.
    const rest = rows.filter((row) => row.z > high);
    return leans.length < FEWEST ? [] : [fitted(leans, rest, levels, edge)];
  });
  // What droops more than is tried is a strand that hangs loose, or something else.
  const good = found.filter(({ off, droop }) => off < ODD && droop < MOST);
  if (good.length === 0) return null;
  return {
    droop: mean(good.map(({ droop }) => droop)),
    deviation: Math.hypot(mean(good.map(({ off }) => off)) / 3, 0.3 / sight.up),
  };
}

/** How far out a side is by its plan at a height, between layers by straight lines; more is further out. */
const outAt = (level: Level, edge: 'left' | 'right'): number =>
  edge === 'left' ? -level.left : level.right;

function planAt(levels: readonly Level[], edge: 'left' | 'right', z: number): number {
  const above = levels.findIndex((one) => one.z >= z);
  if (above <= 0) return outAt(levels.at(above === 0 ? 0 : -1)!, edge);
  const [a, b] = [levels[above - 1]!, levels[above]!];
  return outAt(a, edge) + ((z - a.z) / (b.z - a.z)) * (outAt(b, edge) - outAt(a, edge));
}

/** The longest stretch of layers within a rung over which a side goes out. */
function leaning(
  levels: readonly Level[],
  z: { from: number; to: number },
  edge: 'left' | 'right',
): { from: number; to: number } | null {
  let best: { from: number; to: number } | null = null;
  let from = -1;
  for (let i = 1; i <= levels.length; i++) {
    const level = levels[i];
    const before = levels[i - 1]!;
    const out =
      level !== undefined &&
      before.z > z.from - 1e-6 &&
      level.z <= z.to + 1e-6 &&
      outAt(level, edge) - outAt(before, edge) > LEANS * (level.z - before.z);
    if (out && from === -1) from = i - 1;
    if (out || from === -1) continue;
    if (!best || i - 1 - from > best.to - best.from) best = { from, to: i - 1 };
    from = -1;
  }
  return best && best.to - best.from >= LAYERS ? best : null;
}

/** Share of the rows that droop less: one odd row is not what catches the eye. */
const NEARLY_MOST = 0.85;

function fitted(
  leans: readonly Row[],
  rest: readonly Row[],
  levels: readonly Level[],
  edge: 'left' | 'right',
): { droop: number; off: number } {
  // The edge of a layer is seen at half its height.
  const half = (levels[1]!.z - levels[0]!.z) / 2;
  // What does not lean lies where it should: how far it seems off tells how far the corners are.
  const offs = rest.map(({ z, x }) => x - planAt(levels, edge, z + half));
  const aside = offs.length < FEWEST ? 0 : clamp(quantile(offs, 0.5), -ASIDE, ASIDE);
  const droops = leans.map(({ z, x }) => {
    let droop = -half;
    while (droop < MOST && planAt(levels, edge, z + half + droop) < x - aside) droop += STEP;
    return droop;
  });
  return { droop: quantile(droops, NEARLY_MOST), off: robustDeviation(droops) };
}
