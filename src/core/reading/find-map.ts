/**
 * A map of pressure advance: from the best figure of each cell to a value for every speed and acceleration, and to the
 * one value that does least harm over all of them.
 */

import { BEST_ROWS, type Measured } from '../ladders/types';
import { clamp, mean, quantile, short, snap, tidy } from '../numbers';
import type { Plan } from '../plan/plan';
import { fail, ok, problem, type Result } from '../result';
import { settingInfo } from '../bench/settings';
import { beadArea } from '../deposit/bead';
import { beadWidthOf } from '../deposit/conditions';
import { wronglyChosen } from './best-rows';
import { snapSafely, tidyRange } from './find';
import type { Finding, NextLadder } from './finding';
import { defaultWeights, type Case, type Earlier } from './gather';
import { fitMap, type Known, type MapFit } from './map-fit';
import { criterionMeans } from './pool';

/** One row of a map: what holds at a melt flow, mm³/s, and an acceleration, mm/s². */
export type MapRow = {
  advance: number;
  flow: number;
  acceleration: number;
  /** mm/s that the flow came from. */
  speed: number;
  range: [number, number];
  /** The best figure as it was read, s; null where the cell was not read and is filled from the fit. */
  read: number | null;
  /** Lies so far from all others that it was left out. */
  outlier: boolean;
};

export type AdvanceMap = {
  rows: MapRow[];
  /** How far cells lie from the fit, as a share. */
  scatter: number;
  /** Plastic in the wrong place where a line starts or stops, mm³, mean over all cells: with one value, and with the map. */
  harm: { single: number; map: number };
  /** Whether the value falls with flow and with acceleration, as far as was seen. */
  falls: { flow: boolean; acceleration: boolean };
};

/** Fewer cells say nothing of how a value falls. */
const FEWEST_CELLS = 4;
/** How exactly an eye picks the best of figures in a row, steps. */
const PICKED = 0.55;
/** What scores alone tell less surely, steps. */
const SCORED = 0.75;
/** A figure whose score is less than this under the best one is as good, 0..4. */
const AS_GOOD = 0.5;
/** Distance from the fit, standard deviations, from which a cell is left out. */
const OUTLIER = 3;
/** Log evidence from which the value is said to fall. */
const EVIDENCE = 1.5;
/** How far no formula of two factors follows a real extruder, as a share. */
const MISFIT = 0.025;
/** Standard deviations on both sides that hold 8 of 10. */
const EIGHT_OF_TEN = 1.28;
/** Share of the value from which one more map, with finer steps, tells more. */
const COARSE = 0.06;

type Cell = { speed: number; acceleration: number; flow: number };
type Read = Cell & { advance: number | null; step: number; sure: number; end: Known['beyond'] };

export function findMap(given: Case): Result<Finding> {
  const { plan, measured = [], readings, earlier = [] } = given;
  const { weights = defaultWeights(given.kind) } = given;
  const wrong = measured.flatMap((one) => wronglyChosen(plan, one[BEST_ROWS] ?? []) ?? []);
  if (wrong.length > 0) return fail(...wrong);
  const prints: Earlier[] = [{ plan, readings, measured }, ...earlier];
  const all = prints.flatMap((one) => readIn(one, weights));
  // A cell of two prints is one, read twice.
  const cells = distinct(all);
  const known = cells.flatMap(({ of }) => of.flatMap(knownOf));
  const read = cells.filter(({ of }) => of.some(({ advance }) => advance !== null));
  if (read.length < FEWEST_CELLS)
    return fail(
      problem(
        'measure',
        `The best figure of ${read.length} of ${cells.length} cells is known; a map needs at least ${Math.min(FEWEST_CELLS, cells.length)}.`,
        'Tap the best figure of more cells.',
      ),
    );
  const fit = fitMap(known);
  return ok(told(given, cells, known, fit, prints));
}

/** Section of a bead of a print, mm². */
function sectionOf({ layerHeight, bench }: Plan): number {
  return beadArea(Math.max(beadWidthOf(bench.nozzle.diameter), layerHeight), layerHeight);
}

/** What each cell of a print says: by the figure that was tapped, else by its scores. */
function readIn({ plan, readings, measured = [] }: Earlier, weights: Case['weights']): Read[] {
  const [values, cells] = plan.axes;
  if (values?.setting !== 'advance' || cells?.setting !== null) return [];
  const section = sectionOf(plan);
  const strip = values.steps.map(({ set }) => set.advance!);
  const step = tidy((strip.at(-1)! - strip[0]!) / Math.max(1, strip.length - 1));
  const chosen = measured.flatMap((one: Measured) => one[BEST_ROWS] ?? []);
  return cells.steps.flatMap(({ set }, index): Read[] => {
    const cell: Cell = {
      speed: set.wallSpeed!,
      acceleration: set.acceleration!,
      flow: tidy(Math.round(10 * set.wallSpeed! * section) / 10),
    };
    const of = (rung: number) => plan.rungs[rung]!.at[1] === index;
    const taps = chosen.filter(of).map((rung) => plan.rungs[rung]!.at[0]!);
    if (taps.length > 0)
      return taps.map((at) => ({
        ...cell,
        advance: strip[at]!,
        step,
        sure: PICKED,
        end: at === 0 ? ('lower' as const) : at === strip.length - 1 ? ('higher' as const) : null,
      }));
    const best = byScores(plan, readings, weights, of);
    if (best === null) return [{ ...cell, advance: null, step, sure: SCORED, end: null }];
    const value = mean(best.map((at) => strip[at]!));
    const only = best.length === 1 ? best[0]! : -1;
    return [
      {
        ...cell,
        advance: value,
        step,
        sure: SCORED,
        end: only === 0 ? 'lower' : only === strip.length - 1 ? 'higher' : null,
      },
    ];
  });
}

/** Places of the figures of a cell that are as good as its best by their scores; null where too few were scored. */
function byScores(
  plan: Plan,
  readings: Case['readings'],
  weights: Case['weights'],
  of: (rung: number) => boolean,
): number[] | null {
  const sums = new Map<number, { sum: number; weight: number }>();
  for (const [name, weight] of Object.entries(weights ?? {}) as [never, number][]) {
    if (!(weight > 0)) continue;
    criterionMeans(readings, name, plan.rungs.length).forEach((score, rung) => {
      if (score === null || !of(rung)) return;
      const known = sums.get(rung) ?? { sum: 0, weight: 0 };
      sums.set(rung, { sum: known.sum + weight * score, weight: known.weight + weight });
    });
  }
  if (sums.size < 3) return null;
  const scores = [...sums].map(([rung, { sum, weight }]) => ({
    at: plan.rungs[rung]!.at[0]!,
    score: sum / weight,
  }));
  const best = Math.max(...scores.map(({ score }) => score));
  const worst = Math.min(...scores.map(({ score }) => score));
  if (best - worst < 1) return null;
  return scores.filter(({ score }) => score >= best - AS_GOOD).map(({ at }) => at);
}

const knownOf = ({ flow, acceleration, advance, step, sure, end }: Read): Known[] => {
  if (advance === null) return [];
  // A value of 0 has no logarithm: half a step is what it may be.
  const value = Math.max(advance, step / 2);
  return [{ flow, acceleration, advance: value, unsure: (sure * step) / value, beyond: end }];
};

function distinct(all: readonly Read[]): { cell: Cell; of: Read[] }[] {
  const found = new Map<string, { cell: Cell; of: Read[] }>();
  for (const { speed, acceleration, flow, ...rest } of all) {
    const cell = { speed, acceleration, flow };
    const key = `${speed} ${acceleration}`;
    const known = found.get(key) ?? { cell, of: [] };
    known.of.push({ ...cell, ...rest });
    found.set(key, known);
  }
  return [...found.values()].sort(
    (a, b) => a.cell.speed - b.cell.speed || a.cell.acceleration - b.cell.acceleration,
  );
}

function told(
  { kind, plan, bench }: Case,
  cells: readonly { cell: Cell; of: Read[] }[],
  known: readonly Known[],
  fit: MapFit,
  prints: readonly Earlier[],
): Finding {
  const { resolution } = settingInfo('advance');
  let at = 0;
  const rows = cells.map(({ cell, of }): MapRow & { unsure: number } => {
    const { advance, unsure } = fit.at(cell.flow, cell.acceleration);
    const read = of.flatMap((one) => one.advance ?? []);
    const far = fit.far.slice(at, (at += read.length));
    const wide = EIGHT_OF_TEN * advance * Math.hypot(unsure, MISFIT);
    return {
      ...cell,
      advance: tidy(snap(advance, resolution)),
      range: tidyRange([Math.max(0, advance - wide), advance + wide], resolution / 10),
      read: read.length > 0 ? tidy(mean(read)) : null,
      outlier: far.length > 0 && far.every((one) => Math.abs(one) > OUTLIER),
      unsure,
    };
  });
  const single = leastHarm(rows);
  const value = snapSafely(single, resolution, 'lower');
  const spread = mean(rows.map(({ unsure }) => unsure)) * EIGHT_OF_TEN * single;
  const harm = {
    single: mean(rows.map(({ advance, flow }) => Math.abs(value - advance) * flow)),
    map: mean(rows.map(({ advance, flow, unsure }) => 0.8 * unsure * advance * flow)),
  };
  const falls = {
    flow: fit.falls.flow > EVIDENCE,
    acceleration: fit.falls.acceleration > EVIDENCE,
  };
  const map: AdvanceMap = {
    rows: rows.map(({ unsure: _, ...row }) => row),
    scatter: tidy(Number(fit.scatter.toFixed(3))),
    harm: { single: tidy(Number(harm.single.toFixed(3))), map: tidy(Number(harm.map.toFixed(3))) },
    falls,
  };
  const ends = endsOf(cells);
  const beyond = ends.length > cells.length / 2 ? ends : null;
  const bounds = kind.bounds(bench).advance ?? { min: 0, max: Infinity };
  const next = nextMap(plan, rows, beyond, bounds);
  return {
    verdict: beyond && next ? 'edge' : 'value',
    values: [
      {
        setting: 'advance',
        value: beyond && next ? null : value,
        range: tidyRange([Math.max(0, value - spread), value + spread], resolution / 10),
      },
    ],
    done: false,
    reason: beyond
      ? 'In most cells the best figure is the last of its strip: the answer may lie beyond it.'
      : reasonOf(map, value),
    evidence: tidy(Math.max(0, fit.falls.flow + fit.falls.acceleration)),
    next,
    curve: [],
    observations: known.map(({ flow, advance }) => ({ value: flow, score: advance })),
    notes: notesOf(map, cells, prints),
    map,
  };
}

/** The value that puts least plastic in the wrong place over all cells: by squares of what each start and stop misses. */
function leastHarm(rows: readonly MapRow[]): number {
  const weight = rows.reduce((sum, { flow }) => sum + flow ** 2, 0);
  return rows.reduce((sum, { flow, advance }) => sum + flow ** 2 * advance, 0) / weight;
}

/** Cells whose best figure is an end of its strip, by the end that most of them share. */
function endsOf(cells: readonly { of: Read[] }[]): Known['beyond'][] {
  const ends = cells.flatMap(({ of }) => {
    const read = of.filter(({ advance }) => advance !== null);
    const end = read[0]?.end ?? null;
    return end !== null && read.every((one) => one.end === end) ? [end] : [];
  });
  const [low, high] = [
    ends.filter((one) => one === 'lower'),
    ends.filter((one) => one === 'higher'),
  ];
  return low.length > high.length ? low : high;
}

/** One more map: beyond the end at which the best figures stand, or with finer steps over what was found. */
function nextMap(
  plan: Plan,
  rows: readonly MapRow[],
  beyond: Known['beyond'][] | null,
  { min, max }: { min: number; max: number },
): NextLadder | null {
  const { resolution } = settingInfo('advance');
  const strip = plan.axes[0]!.steps.map(({ set }) => set.advance!);
  const [low, high] = [strip[0]!, strip.at(-1)!];
  const step = tidy((high - low) / Math.max(1, strip.length - 1));
  const nextOf = (from: number, to: number, by: number, why: string): NextLadder => ({
    ranges: { advance: { from, to, step: by } },
    rungs: plan.rungs.length,
    why,
  });
  if (beyond) {
    const shift = beyond[0] === 'higher' ? high - low - step : -(high - low - step);
    const from = clamp(low + shift, min, Math.max(min, max - (high - low)));
    if (Math.abs(from - low) < step) return null;
    return nextOf(tidy(from), tidy(from + high - low), step, 'It goes on beyond the end.');
  }
  const values = rows.map(({ advance }) => advance);
  const middle = quantile(values, 0.5);
  const [least, most] = [Math.min(...values), Math.max(...values)];
  const finer = Math.max(
    resolution,
    tidy(snap((most - least + step) / (strip.length - 1), resolution)),
  );
  if (finer > 0.75 * step || step / middle < COARSE) return null;
  const from = Math.max(min, tidy(snap(least - step / 2, resolution)));
  return nextOf(
    from,
    tidy(from + finer * (strip.length - 1)),
    finer,
    'Finer steps over the values that were found.',
  );
}

function reasonOf({ rows, harm, falls, scatter }: AdvanceMap, value: number): string {
  if (!falls.flow && !falls.acceleration)
    return `One value does: it is ${short(value)} s at any speed and acceleration that was printed, as far as an eye tells.`;
  const [slow, fast] = [rows[0]!, rows.at(-1)!];
  const what =
    falls.flow && falls.acceleration
      ? 'flow and acceleration'
      : falls.flow
        ? 'flow'
        : 'acceleration';
  return (
    `It falls with ${what}: ${short(slow.advance)} s at ${short(slow.flow)} mm³/s and ${short(slow.acceleration)} mm/s², ` +
    `${short(fast.advance)} s at ${short(fast.flow)} and ${short(fast.acceleration)}. ` +
    `With the one value, ${short(harm.single, 3)} mm³ lie in the wrong place at each start and stop; with the map ` +
    `${short(harm.map, 3)}, as surely as it is known. Cells scatter by ${short(100 * scatter, 0)} % about it.`
  );
}

function notesOf(
  { rows }: AdvanceMap,
  cells: readonly { cell: Cell; of: Read[] }[],
  prints: readonly Earlier[],
): string[] {
  const named = ({ flow, acceleration }: Cell) =>
    `${short(flow)} mm³/s at ${short(acceleration)} mm/s²`;
  const out = rows.filter(({ outlier }) => outlier);
  const filled = rows.filter(({ read }) => read === null);
  const used = prints.filter(({ plan }) => plan.axes[1]?.setting === null).length;
  return [
    ...out.map(
      (row) =>
        `${named(row)} lies far from all others, ${short(row.read!)} s, and hardly counts: look at it again.`,
    ),
    ...(filled.length > 0
      ? [`${filled.length} of ${cells.length} cells were not read; their values are the fit’s.`]
      : []),
    ...(used > 1 ? [`${used} prints make this map.`] : []),
  ];
}
