/**
 * A limit that moves with another setting: for each step of the one, the most or the least of the other that is still
 * clean. Where it is known which way it moves, all cells are looked at together: a steeper lean never stands more speed
 * than a gentler one. Else every step is searched by itself, as on a ladder of its own.
 */

import { settingInfo, type Setting } from '../bench/settings';
import type { LimitsRule } from '../ladders/types';
import { mean, quantile, short, tidy } from '../numbers';
import { valueOn } from '../plan/axes';
import type { Axis, Plan } from '../plan/plan';
import { fail, ok, problem, type Result } from '../result';
import { capital } from '../text';
import { normal, seeded } from '../random';
import { crossingOf, findClean, onSafeSide } from './clean';
import { tidyRange } from './find';
import type { Finding, NextLadder } from './finding';
import { inTable } from './found-rows';
import { defaultWeights, type Case, type Earlier } from './gather';
import { isotonic } from './isotonic';
import { asOne, looksOf, pool } from './pool';
import { beyond } from './refine';

/** The limit at one step of the other setting. */
export type Limit = {
  at: number;
  /** Null where nothing is clean, or too little was scored. */
  value: number | null;
  range: [number, number] | null;
  /** Clean up to the end that was printed: the limit lies there or beyond. */
  open: boolean;
};
export type Limits = { of: Setting; over: Setting; end: 'least' | 'most'; rows: Limit[] };

/** Fewer cells say nothing of a plane. */
const FEWEST = 6;

type Said = { row: Limit; finding: Finding | null };

/** The rule with the setting that a print really climbs over: a shaper may be one of both axes, or of each. */
export const overOf = ({ axes }: Pick<Plan, 'axes'>, rule: LimitsRule): LimitsRule => ({
  ...rule,
  over: axes.find(({ setting }) => setting !== null && setting !== rule.of)?.setting ?? rule.over,
});

export function findLimits(given: Case, usual: LimitsRule): Result<Finding> {
  const { plan, kind } = given;
  const rule = overOf(plan, usual);
  const [of, over] = [rule.of, rule.over].map((setting) =>
    plan.axes.find((axis) => axis.setting === setting),
  );
  if (!of || !over) return fail(problem('plan', 'This print has other settings.', 'Read another.'));
  const said = rule.trend
    ? limitsIn(given, rule, of, over)
    : over.steps.map((_, step): Said => limitAt(given, rule, of, over, step));
  if (said.every(({ finding }) => finding === null))
    return fail(
      problem(
        'scores',
        'Too few cells have a score: a limit needs at least three along one row or column.',
        'Score more cells.',
      ),
    );
  const rows = said.map(({ row }) => row);
  const found = rows.filter((row): row is Limit & { value: number } => row.value !== null);
  const info = settingInfo(rule.of);
  const one = oneOf(found, rule);
  const findings = said.flatMap(({ finding }) => finding ?? []);
  const base = {
    done: false,
    evidence: tidy(findings.reduce((sum, { evidence }) => sum + evidence, 0)),
    curve: [],
    observations: findings.flatMap(({ observations }) => observations),
    limits: { of: rule.of, over: rule.over, end: rule.end, rows },
  };
  if (!one) {
    const ahead = findings.find(({ next }) => next !== null)?.next ?? null;
    return ok({
      ...base,
      verdict: ahead ? 'edge' : 'no-effect',
      values: [{ setting: rule.of, value: null, range: null }],
      reason: ahead
        ? `Nothing is clean anywhere on this print: the answer lies ${rule.end === 'most' ? info.below : info.above} still.`
        : `Nothing is clean anywhere on this print. ${kind.otherCause}`,
      next: ahead && gridOf(ahead, plan),
      notes: [],
    });
  }
  const open = rows.filter((row) => row.open);
  const further =
    open.length > rows.length / 2
      ? said.find(({ row, finding }) => row.open && finding?.next)?.finding?.next
      : undefined;
  return ok({
    ...base,
    verdict: 'value',
    values: [{ setting: rule.of, value: one.value, range: one.range }],
    reason: reasonOf(rows, rule, one),
    next: further ? gridOf(further, plan) : null,
    notes: notesOf(rows, rule),
  });
}

const GOES_ON = 'It starts one column before the end and goes on beyond it.';
const DRAWS = 400;
/** Share of draws beyond an end above which that is what is told. */
const BEYOND = 0.5;
/** Chance of being clean that the value must have, and share of draws left out at each end of its range. */
const [SURE, LOW] = [0.7, 0.1];
/** Rounds of drawing rows and columns one way. */
const ROUNDS = 12;

/**
 * All limits at once, where it is known which way they move: cells are drawn to a plane that only gets cleaner toward the
 * clean side of both settings, so that each cell speaks for its neighbours too.
 */
function limitsIn(
  given: Case,
  { of, over, end }: LimitsRule,
  ofAxis: Axis,
  overAxis: Axis,
): Said[] {
  const { earlier = [], seed = 1 } = given;
  const { weights = defaultWeights(given.kind) } = given;
  const order = end === 'least' ? 1 : -1;
  const values = ofAxis.steps.map(({ set }) => set[of]!).sort((a, b) => order * (a - b));
  const steps = overAxis.steps.map(({ set }) => set[over]!);
  // More of the other setting is harder: the last column is the hardest.
  const columns = [...steps].sort((a, b) => a - b);
  const looks = [given, ...earlier].flatMap(({ plan, ...said }) =>
    looksOf(
      plan.rungs.map(({ set }) =>
        values.indexOf(set[of]!) === -1 || columns.indexOf(set[over]!) === -1
          ? -1
          : columns.indexOf(set[over]!) * values.length + values.indexOf(set[of]!),
      ),
      said,
    ),
  );
  const opinions = pool(looks, weights);
  const cells = Array.from({ length: values.length * columns.length }, (_, cell) => {
    const own = opinions.flatMap(({ weight, values: at, y, noise }) => {
      const scores = y.flatMap((score, i) =>
        at[i] === cell ? [{ y: score, noise: noise[i]! }] : [],
      );
      return scores.length > 0 ? [{ weight, ...asOne(scores) }] : [];
    });
    const total = own.reduce((sum, { weight }) => sum + weight, 0);
    return {
      y: own.reduce((sum, one) => sum + (one.weight / total) * one.y, 0),
      noise: Math.sqrt(own.reduce((sum, one) => sum + ((one.weight / total) * one.noise) ** 2, 0)),
      weight: own.length > 0 ? 1 : 0,
    };
  });
  const none = steps.map((at): Said => ({
    row: { at, value: null, range: null, open: false },
    finding: null,
  }));
  if (cells.filter(({ weight }) => weight > 0).length < FEWEST) return none;
  const random = seeded(seed);
  const places = columns.map((): number[] => []);
  for (let n = 0; n < DRAWS; n++) {
    const drawn = onOneSide(
      cells.map(({ y, noise, weight }) => (weight > 0 ? y + noise * normal(random) : 0)),
      cells.map(({ weight }) => weight),
      values.length,
    );
    columns.forEach((_, column) => {
      const line = drawn.slice(column * values.length, (column + 1) * values.length);
      places[column]!.push(crossingOf(values, line, random()));
    });
  }
  const observations = opinions.flatMap(({ values: at, y }) =>
    y.flatMap((score, i) =>
      at[i]! < 0 ? [] : [{ value: values[at[i]! % values.length]!, score }],
    ),
  );
  const bounds = given.kind.bounds(given.bench)[of] ?? { min: -Infinity, max: Infinity };
  const step = Math.abs(values[1]! - values[0]!);
  /** Where a limit lies that was not printed: past the cleanest, or short of the least clean value. */
  const ahead = ({ value, open }: Limit): NextLadder | null => {
    if (value !== null && !open) return null;
    const last = value === null ? values.at(-1)! : values[0]!;
    const way = (value === null ? order : -order) as 1 | -1;
    const range = beyond(last, way, tidy(step), bounds);
    return range && { ranges: { [of]: range }, rungs: given.plan.rungs.length, why: GOES_ON };
  };
  return steps.map((at, i): Said => {
    const all = places[columns.indexOf(at)]!;
    const row = rowOf(at, all, values, { of, end });
    const next = ahead(row);
    const finding: Finding = {
      verdict: next ? 'edge' : 'value',
      values: [{ setting: of, value: row.value, range: row.range }],
      done: false,
      reason: '',
      evidence: 0,
      next,
      curve: [],
      observations: i === 0 ? observations : [],
      notes: [],
    };
    return { row, finding };
  });
}

function rowOf(
  at: number,
  places: readonly number[],
  values: readonly number[],
  { of, end }: Pick<LimitsRule, 'of' | 'end'>,
): Limit {
  const share = (place: number) => places.filter((one) => one === place).length / places.length;
  const [first, last] = [values[0]!, values.at(-1)!];
  if (share(Infinity) > BEYOND) return { at, value: null, range: null, open: false };
  if (share(-Infinity) > BEYOND) return { at, value: first, range: [first, first], open: true };
  const within = places.map((place) =>
    place === -Infinity ? first : place === Infinity ? last : place,
  );
  const order = end === 'least' ? 1 : -1;
  const { resolution } = settingInfo(of);
  const place = quantile(within, order > 0 ? SURE : 1 - SURE);
  return {
    at,
    value: onSafeSide(place, resolution, order),
    range: tidyRange([quantile(within, LOW), quantile(within, 1 - LOW)], resolution),
    open: false,
  };
}

/**
 * The nearest plane that rises toward the clean side along each column, and falls from column to column: rows and columns
 * are drawn in turn, each with what the other took from it (R. Dykstra, T. Robertson, Ann. Statist. 10, 1982).
 */
function onOneSide(y: readonly number[], weights: readonly number[], tall: number): number[] {
  const wide = y.length / tall;
  // A cell that nobody scored says nothing, and has a weight that hardly counts.
  const heavy = weights.map((weight) => Math.max(weight, 1e-6));
  let plane = [...y];
  let [byColumn, byRow] = [y.map(() => 0), y.map(() => 0)];
  const along = (from: number[], line: (n: number) => number[], lines: number, falls: boolean) => {
    const next = [...from];
    for (let n = 0; n < lines; n++) {
      const at = falls ? line(n).reverse() : line(n);
      const fitted = isotonic(
        at.map((i) => from[i]!),
        at.map((i) => heavy[i]!),
      );
      at.forEach((i, k) => (next[i] = fitted[k]!));
    }
    return next;
  };
  const column = (n: number) => Array.from({ length: tall }, (_, i) => n * tall + i);
  const row = (n: number) => Array.from({ length: wide }, (_, i) => i * tall + n);
  for (let round = 0; round < ROUNDS; round++) {
    const given = plane.map((one, i) => one - byColumn[i]!);
    const columns = along(given, column, wide, false);
    byColumn = columns.map((one, i) => one - given[i]!);
    const left = columns.map((one, i) => one - byRow[i]!);
    plane = along(left, row, tall, true);
    byRow = plane.map((one, i) => one - left[i]!);
  }
  return plane;
}

/** A ladder of one step of the other setting. */
function limitAt(given: Case, rule: LimitsRule, of: Axis, over: Axis, step: number): Said {
  const at = valueOn(over, { set: over.steps[step]!.set })!;
  const { earlier = [] } = given;
  const only = (one: Earlier): Earlier | null => sliceOf(one, rule, at);
  const own = only(given);
  const none: Said = { row: { at, value: null, range: null, open: false }, finding: null };
  if (!own) return none;
  const found = findClean(
    {
      ...given,
      plan: own.plan,
      readings: own.readings,
      loupe: own.loupe ?? [],
      earlier: earlier.flatMap((one) => only(one) ?? []),
      axis: own.plan.axes[0]!,
    },
    rule.end,
  );
  if (!found.ok) return none;
  const finding = found.value;
  const [{ value, range }] = finding.values;
  const values = of.steps.map((one) => one.set[rule.of]!);
  const end = rule.end === 'most' ? Math.max(...values) : Math.min(...values);
  // Clean on every rung: at least that much is, whether the bench allows more or not.
  const open = range !== null && (finding.verdict === 'edge' || (finding.done && value === end));
  return {
    row: { at, value: open ? end : value, range: open ? [end, end] : range, open },
    finding,
  };
}

/** The rungs of a print at one value of the other setting, with their scores; null where it has none. */
function sliceOf(
  { plan, readings, loupe = [] }: Earlier,
  rule: LimitsRule,
  at: number,
): Earlier | null {
  const [of, over] = [rule.of, rule.over].map((setting) =>
    plan.axes.findIndex((axis) => axis.setting === setting),
  ) as [number, number];
  if (of === -1 || over === -1) return null;
  const rungs = plan.rungs.filter(({ set }) => set[rule.over] === at);
  if (rungs.length === 0) return null;
  const cut = <T extends object>(lists: T): T =>
    Object.fromEntries(
      Object.entries(lists as Record<string, readonly (number | null)[]>).map(([name, list]) => [
        name,
        rungs.map(({ index }) => list[index] ?? null),
      ]),
    ) as T;
  return {
    plan: {
      ...plan,
      axes: [plan.axes[of]!],
      rungs: rungs.map((rung, index) => ({ ...rung, index, at: [rung.at[of]!] })),
    },
    readings: readings.map(cut),
    loupe: loupe.map(({ scores, noise }) => ({ scores: cut(scores), noise: cut(noise) })),
  };
}

type Known = Limit & { value: number };

function oneOf(found: readonly Known[], { end, takes }: LimitsRule): Known | null {
  if (takes === 'last') return found.at(-1) ?? null;
  return found.reduce<Known | null>(
    (safest, one) =>
      safest && (end === 'most' ? safest.value <= one.value : safest.value >= one.value)
        ? safest
        : one,
    null,
  );
}

/** The other setting stays as it was printed. */
const gridOf = (next: NextLadder, { rungs }: Plan): NextLadder => ({
  ...next,
  rungs: rungs.length,
  grid: true,
});

function reasonOf(rows: readonly Limit[], { of, over, end }: LimitsRule, one: Known): string {
  const [info, other] = [settingInfo(of), settingInfo(over)];
  const at = (row: Limit) => `${short(row.at)} ${other.unit}`.trim();
  const said = rows.flatMap((row) =>
    row.value === null
      ? []
      : [
          `${at(row)}: ${row.open ? (end === 'most' ? 'at least ' : 'at most ') : ''}${short(row.value)}`,
        ],
  );
  const spread = mean(rows.map(({ value }) => (value === one.value ? 0 : 1)));
  return (
    `The ${end} ${info.title} that is clean, ${info.unit}, by ${inTable(over)}: ${said.join('; ')}.` +
    (spread === 0 ? ` ${capital(inTable(over))} makes no difference that is seen.` : '')
  );
}

function notesOf(rows: readonly Limit[], { of, over }: LimitsRule): string[] {
  const { unit } = settingInfo(over);
  const none = rows.filter(({ value }) => value === null);
  return none.length === 0
    ? []
    : [
        `At ${none.map(({ at }) => `${short(at)} ${unit}`.trim()).join(', ')} nothing is clean at any ${settingInfo(of).title} that was printed, or too little was scored.`,
      ];
}
