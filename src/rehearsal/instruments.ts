/** What a careful person measures on a simulated print: caliper and vernier, each with its own small error. */

import { kindFor } from '../core/ladders/registry';
import type { Values } from '../core/bench/settings';
import type { Plan, Rung } from '../core/plan/plan';
import { BEST_ROWS, type Measured } from '../core/ladders/types';
import { valueOn } from '../core/plan/axes';
import { snap } from '../core/numbers';
import { normal, seeded, type Random } from '../core/random';
import { defaultWeights } from '../core/reading/gather';
import { bestOf } from '../understudy/eye';
import { fedPerAsked } from '../understudy/memory';
import type { Printed } from '../understudy/print';
import type { Truths } from '../understudy/truths';
import { placesOf } from './places';

type Look = { printed: Printed; plan: Plan; random: Random };

/** A caliper reads a thin wall to a hundredth, with this scatter, mm. */
const CALIPER = 0.008;
/** Nobody measures this near to an edge of a wall, mm. */
const AWAY = 3;
/** Share of a side at each end that is left out: the middle is measured, away from corners and seam. */
const MIDDLE = 0.3;
/** A mark is read against a ruler with this scatter, mm. */
const RULER = 0.4;
/** An eye tells whether two lines are one to about this, mm. */
const EYE = 0.02;

/** How each measure is taken, by its key, and what it would be if nothing erred. */
const INSTRUMENTS: Record<string, (look: Look) => number[]> = {
  wall: (look) => sides(look).map((wide) => snap(wide + CALIPER * normal(look.random), 0.01)),
  left: ({ printed, plan, random }) => [ruled(leftOf(printed, plan), random)],
  x: (look) => lined(look, 0),
  y: (look) => lined(look, 1),
  [BEST_ROWS]: bestFigures,
};

/** Measures what a kind asks for, as far as this person has an instrument for it. */
export function measure(
  keys: readonly string[],
  printed: Printed,
  plan: Plan,
  seed: number,
): Measured {
  const random = seeded(seed);
  return Object.fromEntries(
    keys.flatMap((key) => {
      const take = INSTRUMENTS[key];
      const taken = take?.({ printed, plan, random }) ?? [];
      return taken.length > 0 ? [[key, taken]] : [];
    }),
  );
}

/** What measuring would lead to without any error, by the measure's key. */
export const EXACT: Record<string, (printed: Printed, plan: Plan, truths: Truths) => number> = {
  wall: (printed, plan) => {
    const walls = sides({ printed, plan, random: seeded(1) });
    const asked = askedOf(printed, plan);
    return (Number(plan.spec.present) * asked) / (sum(walls) / walls.length);
  },
  left(printed, plan) {
    const kind = kindFor(plan);
    const worked = kind.ok ? kind.value.work?.({ left: [leftOf(printed, plan)] }, plan) : undefined;
    if (!worked?.ok) throw new Error(`${plan.kind} works nothing out of what is left of a mark`);
    return worked.value.values[0]!.value;
  },
  x: (_printed, _plan, truths) => -truths.second.x,
};

/** What is left of a mark when all has come, mm. */
const leftOf = ({ came }: Printed, { spec }: Plan): number => Number(spec.mark) - came;

/** What a ruler says of a length, mm: its scatter, and between its marks a tenth at best. */
const ruled = (mm: number, random: Random): number => snap(mm + RULER * normal(random), 0.1);

/** What a ruler says is left of a mark when filament was fed by hand, mm, for the `n`th time. */
export function ruledLeft(
  truths: Truths,
  had: Values,
  { length, mark }: { length: number; mark: number },
  n: number,
): number {
  const random = seeded(truths.seed + 7919 * n);
  return ruled(mark - length * truths.feeds * fedPerAsked(had), random);
}

/** Width that is asked for where it is measured, mm: a prime line is thicker. */
function askedOf({ samples: { z, asked, count } }: Printed, { rungs: [rung] }: Plan): number {
  const own = Array.from(asked.subarray(0, count)).filter((_, n) => z[n]! > rung!.z.from + AWAY);
  return sum(own) / own.length;
}
const sum = (values: ArrayLike<number>): number =>
  Array.from(values).reduce((total, one) => total + one, 0);

/** Mean width of the wall on each of the four sides of a square, away from corners, foot and seam. */
function sides({ printed: { samples }, plan: { rungs } }: Look): number[] {
  const { z } = rungs[0]!;
  const { x, y, count } = samples;
  const inside: number[] = [];
  for (let n = 0; n < count; n++)
    if (samples.z[n]! > z.from + AWAY && samples.z[n]! < z.to - 0.5) inside.push(n);
  const [minX, maxX] = [
    Math.min(...inside.map((n) => x[n]!)),
    Math.max(...inside.map((n) => x[n]!)),
  ];
  const [minY, maxY] = [
    Math.min(...inside.map((n) => y[n]!)),
    Math.max(...inside.map((n) => y[n]!)),
  ];
  const between = (value: number, low: number, high: number) =>
    value > low + MIDDLE * (high - low) && value < high - MIDDLE * (high - low);
  return [
    inside.filter((n) => y[n]! < minY + 1 && between(x[n]!, minX, maxX)),
    inside.filter((n) => x[n]! > maxX - 1 && between(y[n]!, minY, maxY)),
    inside.filter((n) => y[n]! > maxY - 1 && between(x[n]!, minX, maxX)),
    inside.filter((n) => x[n]! < minX + 1 && between(y[n]!, minY, maxY)),
  ].map((list) => sum(list.map((n) => samples.width[n]!)) / list.length);
}

/** The pair whose lines read as one; two neighbours when the eye cannot choose. */
function lined({ printed, plan, random }: Look, axis: 0 | 1): number[] {
  const seen = plan.rungs.map((rung) => ({
    value: valueOn(plan.axes[0]!, rung)!,
    off: Math.abs(apart(printed, rung, axis) + EYE * normal(random)),
  }));
  seen.sort((a, b) => a.off - b.off);
  const [best, next] = seen as [(typeof seen)[number], (typeof seen)[number]];
  const neighbours = Math.abs(best.value - next.value) < 1.5 * Number(plan.spec.step);
  return neighbours && next.off - best.off < EYE ? [best.value, next.value] : [best.value];
}

/** Distance between the lines of both nozzles in a rung, mm, as they really lie. */
function apart({ samples }: Printed, { boxes }: Rung, axis: 0 | 1): number {
  const box = boxes![1 - axis]!;
  const at = axis === 0 ? samples.x : samples.y;
  const of = (tool: number) => {
    const found: number[] = [];
    for (let n = 0; n < samples.count; n++)
      if (
        samples.tool[n] === tool &&
        samples.x[n]! >= box.minX &&
        samples.x[n]! <= box.maxX &&
        samples.y[n]! >= box.minY &&
        samples.y[n]! <= box.maxY
      )
        found.push(at[n]!);
    return sum(found) / found.length;
  };
  return of(1) - of(0);
}

/** Of a map, the figure of each cell that looks best, as numbers of rungs; nothing on other prints. */
function bestFigures({ printed, plan, random }: Look): number[] {
  const kind = kindFor(plan);
  if (!kind.ok || kind.value.rule.kind !== 'map') return [];
  const weights = defaultWeights(kind.value);
  const places = placesOf(plan);
  return plan.axes[1]!.steps.map((_, cell) => plan.rungs.filter(({ at }) => at[1] === cell))
    .map((figures) => {
      const of = figures.map(({ index }) => places[index]!);
      return figures[bestOf(printed, of, weights, random)]!.index;
    })
    .sort((a, b) => a - b);
}
