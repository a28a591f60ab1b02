/** The joint best of two settings that were printed together, and whether one depends on the other at all. */

import { climb } from '../ladders/climb';
import { BEST_ROWS, type Ends, type LadderKind, type Ranges } from '../ladders/types';
import { clamp, mean, quantile, short, tidy } from '../numbers';
import type { Axis, Plan } from '../plan/plan';
import { valuesOn } from '../plan/axes';
import { seeded } from '../random';
import { fail, ok, problem, type Result } from '../result';
import { settingInfo, type Setting, type SettingInfo } from '../bench/settings';
import { capital } from '../text';
import { guessesOf, wronglyChosen } from './best-rows';
import { jointEvidence } from './curve';
import { LEAST_EVIDENCE, snapSafely, tidyRange } from './find';
import type { Finding, NextLadder, Plane, Proposal } from './finding';
import { defaultWeights, type Case, type Earlier } from './gather';
import { addSurfaces, effectAlong, effectOf, weighPlane } from './plane';
import type { Seen } from './plane-solver';
import { asOne, looksOf, pool, weighed, type Look } from './pool';
import { beyond, nextOf, refine } from './refine';

/** Surfaces drawn; a large plane takes longer for each, and is told more surely. */
const [DRAWS, DRAWS_OF_LARGE, LARGE] = [300, 200, 100];
/** Fewer cells, three rows of three but one, say nothing of a plane. */
const FEWEST_CELLS = 8;
/** Share of draws in an end row or column above which the answer may lie outside. */
const EDGE_SHARE = 0.8;
/** Central share of the draws that is told as the 80 % range: drawn surfaces wander more than prints do. */
const IN_RANGE = 0.64;
/** Points of an axis between two cells, and in all. */
const POINTS_PER_STEP = 5;
const MOST_POINTS = 28;
/** Between two cells nothing was seen, however smooth drawn surfaces are: so much of a step a range is wider. */
const [BLIND, BLIND_AT_LIMIT] = [0.15, 0.36];
/** Rows and columns of the next grid. */
const [FEWEST, MOST] = [3, [5, 7]] as const;
/** As good as the best to the eye, in shares of the score range. */
export const AS_GOOD = 0.08;
/** A drawn surface is highest where it errs upward: so much higher than what it stands for, in shares of the range. */
const DRAWN_TOO_HIGH = 0.025;
/** Said where rows were compared and nothing was scored. */
const ONLY_COMPARED =
  'Only rows of a column were compared: score the chosen cells, and columns are told apart too.';
/** Chance from which a drift of the best is told. */
const SURE = 0.8;

/** One of the two settings, with its places 0..1. */
type Side = {
  setting: Setting;
  info: SettingInfo;
  /** Values that were printed, the least first. */
  values: number[];
  step: number;
  low: number;
  high: number;
  bounds: Ends;
  falls: boolean;
  /** Whether the least that is as good as the best is taken. */
  least: boolean;
  at: number[];
};

const placeOf = ({ low, high }: Side, value: number): number => (value - low) / (high - low);
const valueAt = ({ low, high }: Side, place: number): number => low + place * (high - low);

function sideOf(axis: Axis, looks: readonly number[], given: Case, least: boolean): Side {
  const setting = axis.setting!;
  const own = valuesOn(axis, given.plan);
  const steps = axis.steps.length - 1;
  const step = tidy((Math.max(...own) - Math.min(...own)) / Math.max(1, steps));
  const [low, high] = [Math.min(...looks), Math.max(...looks)];
  const points = Math.min(MOST_POINTS, Math.round(((high - low) / step) * POINTS_PER_STEP));
  return {
    setting,
    info: settingInfo(setting),
    values: [...new Set(own)].sort((a, b) => a - b),
    step,
    low,
    high,
    bounds: given.kind.bounds(given.bench)[setting] ?? { min: -Infinity, max: Infinity },
    falls: own[0]! > own.at(-1)!,
    least,
    at: Array.from({ length: points + 1 }, (_, i) => i / points),
  };
}

/** All surfaces of a plane: the weighed sum of its criteria. */
type Surfaces = {
  sums: Float64Array[];
  mean: Float64Array;
  effects: [whole: number, a: number, b: number];
};

/** @param least settings of which the least that is as good as the best is taken */
export function findPlane(given: Case, least: readonly Setting[]): Result<Finding> {
  const { plan, measured = [], earlier = [], seed = 1 } = given;
  const { weights = defaultWeights(given.kind) } = given;
  const [first, second] = plan.axes as [Axis, Axis];
  const cells = new Cells(first.setting!, second.setting!);
  const own = cells.looks(given);
  const looks = [...own, ...earlier.flatMap((one) => cells.looks(one))];
  const opinions = pool(looks, weights);
  const chosen = measured.map((one) => one[BEST_ROWS] ?? []);
  const wrong = chosen.flatMap((one) => wronglyChosen(plan, one) ?? []);
  if (wrong.length > 0) return fail(...wrong);
  const guesses = chosen.flatMap((one) => guessesOf(plan, one));
  const numbers = cells.numbersOf(plan);
  const scored = new Set([
    ...pool(own, weights).flatMap((one) => one.values),
    ...guesses.map(({ rung }) => numbers[rung]!),
  ]).size;
  if (scored < FEWEST_CELLS)
    return fail(
      problem(
        'scores',
        `${scored} of ${plan.rungs.length} cells have a score; a plane needs at least ${FEWEST_CELLS}.`,
        'Score more cells.',
      ),
    );
  const a = sideOf(
    first,
    cells.known.map((one) => one.a),
    given,
    least.includes(first.setting!),
  );
  const b = sideOf(
    second,
    cells.known.map((one) => one.b),
    given,
    least.includes(second.setting!),
  );
  const placed = (cell: number) => ({
    a: placeOf(a, cells.known[cell]!.a),
    b: placeOf(b, cells.known[cell]!.b),
  });
  const spoken = opinions.map(({ weight, values, y, noise }) => ({
    weight,
    seen: grouped(values.map((cell, i) => ({ cell, y: y[i]!, noise: noise[i]! }))).map((one) => ({
      ...placed(one.cell),
      ...one,
    })),
  }));
  const compared = grouped(
    guesses.map(({ rung, y, noise }) => ({ cell: numbers[rung]!, y, noise })),
  ).map((one) => ({ ...placed(one.cell), ...one }));
  // Beside scores, what was compared counts as much as all criteria together.
  const both = opinions.length > 0 && compared.length > 0 ? 0.5 : 1;
  const voices: Voice[] = [
    ...spoken.map((one) => ({ ...one, weight: one.weight * both })),
    ...(compared.length > 0 ? [{ weight: both, seen: compared }] : []),
  ];
  const surfaces = surfacesOf(voices, a, b, seed);
  const observations = own.flatMap((look) =>
    weighed(look, weights).map(({ value, y }) => ({ value: cells.known[value]!.a, score: y })),
  );
  const finding = told(given.kind, surfaces, a, b, observations);
  if (opinions.length === 0) finding.notes.push(ONLY_COMPARED);
  return ok(finding);
}

/** Cells by number, whichever ladder they were printed on. */
class Cells {
  readonly known: { a: number; b: number }[] = [];
  private readonly numbers = new Map<string, number>();

  constructor(
    private readonly a: Setting,
    private readonly b: Setting,
  ) {}

  looks({ plan, ...said }: Earlier): Look[] {
    const values = this.numbersOf(plan);
    return values.length === 0 ? [] : looksOf(values, said);
  }

  /** Number of the cell of each rung; none where the plan has other settings. */
  numbersOf(plan: Plan): number[] {
    const axes = [this.a, this.b].map((one) => plan.axes.find(({ setting }) => setting === one));
    if (!axes[0] || !axes[1]) return [];
    const [as, bs] = axes.map((axis) => valuesOn(axis!, plan)) as [number[], number[]];
    return as.map((value, i) => this.number(value, bs[i]!));
  }

  private number(a: number, b: number): number {
    const key = `${a} ${b}`;
    const known = this.numbers.get(key);
    if (known !== undefined) return known;
    this.numbers.set(key, this.known.length);
    return this.known.push({ a, b }) - 1;
  }
}

/** One criterion, or what was compared, over the plane. */
type Voice = { weight: number; seen: Seen };

/** Several scores of a cell as one, surer than each. */
function grouped(all: readonly { cell: number; y: number; noise: number }[]) {
  const groups = new Map<number, { cell: number; y: number; noise: number }[]>();
  for (const one of all) groups.set(one.cell, [...(groups.get(one.cell) ?? []), one]);
  return [...groups].map(([cell, of]) => ({
    cell,
    ...asOne(of),
  }));
}

function surfacesOf(voices: readonly Voice[], a: Side, b: Side, seed: number): Surfaces {
  const size = a.at.length * b.at.length;
  const cells = Math.max(...voices.map(({ seen }) => seen.length));
  const draws = cells > LARGE ? DRAWS_OF_LARGE : DRAWS;
  const sums = Array.from({ length: draws }, () => new Float64Array(size));
  const whole = new Float64Array(size);
  const random = seeded(seed);
  const effects: [number[], number[], number[]] = [[], [], []];
  for (const { weight, seen } of voices) {
    const models = weighPlane(seen);
    effects[0].push(effectOf(models));
    effects[1].push(effectAlong(models, 'a'));
    effects[2].push(effectAlong(models, 'b'));
    addSurfaces(seen, models, { a: a.at, b: b.at }, weight, sums, whole, random);
  }
  const [all, alongA, alongB] = effects.map(jointEvidence) as [number, number, number];
  return { sums, mean: whole, effects: [all, alongA, alongB] };
}

/** Row and column of the best of a surface; of settings that cost something, the least that is as good. */
function bestOf(surface: Float64Array, a: Side, b: Side): [number, number] {
  const wide = b.at.length;
  let best = 0;
  surface.forEach((height, i) => {
    if (height > surface[best]!) best = i;
  });
  let [i, j] = [Math.floor(best / wide), best % wide];
  const enough = surface[best]! - AS_GOOD - DRAWN_TOO_HIGH;
  if (b.least) while (j > 0 && surface[i * wide + j - 1]! >= enough) j--;
  if (a.least) while (i > 0 && surface[(i - 1) * wide + j]! >= enough) i--;
  return [i, j];
}

/** The draw that lies nearest to all others: on the ridge, where a mean of each axis by itself need not be. */
function middleOf(places: readonly [number, number][], a: Side, b: Side): [number, number] {
  const scaled = places.map(([i, j]) => [a.at[i]!, b.at[j]!] as const);
  let [best, least] = [0, Infinity];
  scaled.forEach(([x, y], n) => {
    const far = scaled.reduce((sum, [p, q]) => sum + Math.hypot(p - x, q - y), 0);
    if (far < least) [best, least] = [n, far];
  });
  return places[best]!;
}

function told(
  kind: LadderKind,
  { sums, mean: surface, effects }: Surfaces,
  a: Side,
  b: Side,
  observations: Finding['observations'],
): Finding {
  const [all, ...along] = effects;
  const base = {
    evidence: tidy(all),
    curve: [] as Finding['curve'],
    observations,
    notes: [] as string[],
  };
  const none = (side: Side): Proposal => ({ setting: side.setting, value: null, range: null });
  if (all < LEAST_EVIDENCE)
    return {
      ...base,
      verdict: 'no-effect',
      values: [none(a), none(b)],
      done: false,
      reason: `Every cell looks the same to the eye. ${kind.otherCause}`,
      next: null,
    };
  const places = sums.map((one) => bestOf(one, a, b));
  const best = middleOf(places, a, b);
  const sides = [a, b].map((side, axis) => {
    const drawn = places.map((place) => valueAt(side, side.at[place[axis]!]!));
    const matters = along[axis]! >= LEAST_EVIDENCE;
    return { side, drawn, matters, edge: matters ? edgeOf(drawn, side) : null };
  });
  const values = sides.map(({ side, drawn, matters, edge }, axis): Proposal => {
    if (!matters) return none(side);
    const range = rangeOf(drawn, side);
    const ahead = edge && beyond(edge.end, edge.direction, side.step, side.bounds);
    const at = edge ? edge.end : valueAt(side, side.at[best[axis]!]!);
    const value = ahead ? null : snapSafely(at, side.info.resolution, 'lower');
    return { setting: side.setting, value, range: tidyRange(range, side.info.resolution) };
  }) as [Proposal, Proposal];
  const open = sides.some(({ matters }, axis) => matters && values[axis]!.value === null);
  const reach = sides.flatMap(({ side, edge, drawn, matters }) => {
    if (!matters) return [];
    const further = edge && beyond(edge.end, edge.direction, side.step, side.bounds);
    if (further) return [nextOf(side, further, '')];
    // What would be no finer is printed once more as it was.
    const finer = MOST.map((most) =>
      refine(rangeOf(drawn, side), side.info.resolution, side.bounds, FEWEST, most),
    ).find((range) => range && range.step < side.step);
    return finer ? [nextOf(side, finer, '')] : [];
  });
  const telling = sides.filter(({ matters }) => matters);
  const alone = telling.length === 1 ? telling[0]! : null;
  const done = values.every(
    ({ range, setting }) =>
      range === null || range[1] - range[0] < 2 * settingInfo(setting).resolution,
  );
  const plane = planeOf(surface, places, sums, best, a, b);
  return {
    ...base,
    curve: alongBest(surface, sums, best, a, b),
    verdict: open ? 'edge' : 'value',
    values,
    done: done && !open,
    reason: reasonOf(sides, values, plane),
    next:
      reach.length === 0 || (done && !open)
        ? null
        : {
            ranges: Object.assign({}, ...reach.map(({ ranges }) => ranges)) as Ranges,
            rungs: sides
              .filter(({ matters }) => matters || !alone)
              .reduce((product, { side }) => product * stepsOn(side, reach), 1),
            ...(alone ? { single: alone.side.setting } : { grid: true as const }),
            why: open
              ? 'It goes on beyond the end at which the best one stands.'
              : alone
                ? `Only ${alone.side.info.title} matters: a ladder of it alone tells more.`
                : 'A finer grid around the best.',
          },
    plane,
  };
}

/** Steps of a setting on the next grid: as many as it had where it stays as it is. */
function stepsOn({ setting, values }: Side, reach: readonly NextLadder[]): number {
  const range = reach.find(({ ranges }) => ranges[setting])?.ranges[setting];
  return range ? climb(range).length : values.length;
}

/** Where the best lies in 8 of 10 cases. */
function rangeOf(drawn: readonly number[], { least, step, low, high }: Side): [number, number] {
  const [from, to] = [quantile(drawn, 0.5 - IN_RANGE / 2), quantile(drawn, 0.5 + IN_RANGE / 2)];
  const blind = step * (least ? BLIND_AT_LIMIT : BLIND);
  return [Math.max(low, from - blind), Math.min(high, to + blind)];
}

type Edge = { end: number; direction: 1 | -1 };
function edgeOf(drawn: readonly number[], { low, high, step, least }: Side): Edge | null {
  const share = (inCell: (value: number) => boolean) => drawn.filter(inCell).length / drawn.length;
  // The least of all is no sign that still less would be better: it is as good as the best.
  if (!least && share((value) => value < low + step / 2) > EDGE_SHARE)
    return { end: low, direction: -1 };
  if (share((value) => value > high - step / 2) > EDGE_SHARE) return { end: high, direction: 1 };
  return null;
}

/** The curve along the first setting, at the best of the second. */
function alongBest(
  surface: Float64Array,
  sums: readonly Float64Array[],
  [, column]: [number, number],
  a: Side,
  b: Side,
): Finding['curve'] {
  const wide = b.at.length;
  return a.at.map((place, i) => {
    const middle = surface[i * wide + column]!;
    const squares = mean(sums.map((one) => (one[i * wide + column]! - middle) ** 2));
    const deviation = Math.sqrt(squares);
    return {
      value: tidy(valueAt(a, place)),
      mean: middle,
      low: middle - deviation,
      high: middle + deviation,
    };
  });
}

function planeOf(
  surface: Float64Array,
  places: readonly [number, number][],
  sums: readonly Float64Array[],
  best: [number, number],
  a: Side,
  b: Side,
): Plane {
  const wide = b.at.length;
  const slices = (side: 'a' | 'b') => {
    const [of, over] = side === 'a' ? [a, b] : [b, a];
    return over.values.map((value) => {
      const k = Math.round(placeOf(over, value) * (over.at.length - 1));
      const drawn = sums.map((one) => valueAt(of, of.at[ridge(one, side, k, a, b)]!));
      return { at: value, best: tidy(quantile(drawn, 0.5)), range: rangeOf(drawn, of).map(tidy) };
    });
  };
  return {
    a: a.at.map((place) => tidy(valueAt(a, place))),
    b: b.at.map((place) => tidy(valueAt(b, place))),
    mean: a.at.map((_, i) =>
      Array.from(surface.subarray(i * wide, (i + 1) * wide), (one) =>
        Number(clamp(one, 0, 1).toFixed(3)),
      ),
    ),
    best: [tidy(valueAt(a, a.at[best[0]]!)), tidy(valueAt(b, b.at[best[1]]!))],
    region: regionOf(places, best, a, b),
    depends: { a: driftOf(sums, 'a', a, b), b: driftOf(sums, 'b', a, b) },
    slices: { a: slices('a') as Plane['slices']['a'], b: slices('b') as Plane['slices']['b'] },
  };
}

/** Where a surface is highest along one setting, at one place of the other. */
function ridge(surface: Float64Array, side: 'a' | 'b', k: number, a: Side, b: Side): number {
  const wide = b.at.length;
  const of = side === 'a' ? a : b;
  const at = (n: number) => surface[side === 'a' ? n * wide + k : k * wide + n]!;
  let best = 0;
  for (let n = 1; n < of.at.length; n++) if (at(n) > at(best)) best = n;
  const enough = at(best) - AS_GOOD;
  if (of.least) while (best > 0 && at(best - 1) >= enough) best--;
  return best;
}

/** Whether more of the other setting wants more or less of this one. */
function driftOf(
  sums: readonly Float64Array[],
  side: 'a' | 'b',
  a: Side,
  b: Side,
): Plane['depends']['a'] {
  const [of, over] = side === 'a' ? [a, b] : [b, a];
  const last = over.at.length - 1;
  const drift = sums.map((one) => {
    const [low, high] = [0.15, 0.85].map((share) =>
      ridge(one, side, Math.round(share * last), a, b),
    );
    return valueAt(of, of.at[high!]!) - valueAt(of, of.at[low!]!);
  });
  const share = (wanted: (d: number) => boolean) => drift.filter(wanted).length / drift.length;
  if (share((d) => d > of.step / 2) >= SURE) return 'rises';
  if (share((d) => d < -of.step / 2) >= SURE) return 'falls';
  return null;
}

/** Places that hold the best in 8 of 10 cases: those nearest to the middle of the draws. */
function regionOf(
  places: readonly [number, number][],
  best: [number, number],
  a: Side,
  b: Side,
): [number, number][] {
  const spread = (axis: 0 | 1, side: Side) =>
    Math.max(
      1e-3,
      Math.sqrt(mean(places.map((place) => (side.at[place[axis]]! - side.at[best[axis]]!) ** 2))),
    );
  const [wa, wb] = [spread(0, a), spread(1, b)];
  const far = ([i, j]: [number, number]) =>
    Math.hypot((a.at[i]! - a.at[best[0]]!) / wa, (b.at[j]! - b.at[best[1]]!) / wb);
  const within = quantile(places.map(far), IN_RANGE);
  const kept = new Map(
    places.filter((place) => far(place) <= within).map((place) => [place.join(), place]),
  );
  return [...kept.values()].map(([i, j]) => [
    tidy(valueAt(a, a.at[i]!)),
    tidy(valueAt(b, b.at[j]!)),
  ]);
}

type Told = { side: Side; matters: boolean; edge: Edge | null };

function reasonOf(sides: readonly Told[], values: readonly Proposal[], plane: Plane): string {
  const [a, b] = sides as [Told, Told];
  const said = sides.flatMap(({ side, matters, edge }, axis) => {
    const { title, unit, above, below } = side.info;
    const other = (axis === 0 ? b : a).side.info;
    if (!matters) return [`${capital(title)} makes no difference that is seen: leave it as it is.`];
    if (edge && values[axis]!.value === null)
      return [
        `The best stand at the last ${title}, ${short(edge.end)} ${unit}: the answer may be ${edge.direction > 0 ? above : below} still.`,
      ];
    const drift = plane.depends[axis === 0 ? 'a' : 'b'];
    return drift
      ? [
          `${capital(title)} depends on ${other.title}: ${other.above} there wants ${drift === 'rises' ? above : below}.`,
        ]
      : [`${capital(title)} is the same for any ${other.title} that was printed.`];
  });
  return said.join(' ');
}
