/** A finding from what eyes and pictures say of a print: each alone, both together, and where they disagree. */

import type { Bench } from '../bench/bench';
import { settingInfo, type Setting } from '../bench/settings';
import type { Criterion } from '../criteria';
import type { LadderKind } from '../ladders/types';
import { snap } from '../numbers';
import type { Plan } from '../plan/plan';
import { asOne, criterionMeans, type Told } from '../reading/pool';
import { findValue, type Said } from '../reading/find-value';
import type { Apart, Finding, Proposal, Voice } from '../reading/finding';
import { tidyRange } from '../reading/find';
import type { Earlier } from '../reading/gather';
import type { Scores } from '../reading/types';
import { ok, type Result } from '../result';
import { lineThrough } from './fitting';
import type { MeasureTold } from './kept';
import { scoresOf } from './scoring';
import { EIGHT_OF_TEN } from './sight';

/** What counts of one picture. */
export type Counted = readonly MeasureTold[];

export type SaidByBoth = Omit<Said, 'earlier' | 'loupe'> & {
  /** Of each picture of the print that counts as a reading. */
  counted?: readonly Counted[];
  earlier?: readonly (Earlier & { counted?: readonly Counted[] })[];
};

/**
 * The value that eyes and pictures point to together. Without pictures it is what eyes alone say.
 *
 * @returns problems when too little was scored and measured
 */
export function findTogether(
  kind: LadderKind,
  plan: Plan,
  bench: Bench,
  { counted = [], earlier = [], ...said }: SaidByBoth,
): Result<Finding> {
  const before = earlier.map(({ counted: of = [], ...one }): Earlier => ({
    ...one,
    loupe: told(kind, one.plan, of, one.readings),
  }));
  const find = (more: Partial<Said>) =>
    findValue(kind, plan, bench, { ...said, earlier: before, ...more });
  if (counted.every((one) => one.length === 0)) return find({});
  if (kind.rule.kind === 'measured')
    return linedUp(kind, plan, bench, { ...said, earlier: before }, counted);
  const loupe = told(kind, plan, counted, said.readings);
  const both = find({ loupe });
  if (!both.ok || loupe.length === 0) return both;
  const eye = find({});
  const own = told(kind, plan, counted, []);
  const measured = new Set(own.flatMap(({ scores }) => Object.keys(scores)));
  const rest = said.readings.map((scores): Scores =>
    Object.fromEntries(Object.entries(scores).filter(([name]) => !measured.has(name))),
  );
  const instead = find({ readings: rest, loupe: own });
  return ok({
    ...both.value,
    voices: {
      eye: voiceOf(eye),
      loupe: voiceOf(instead),
      of: [...measured] as Criterion[],
      apart: apartOf(said.readings, loupe, plan.rungs.length),
    },
  });
}

const told = (
  { criteria }: LadderKind,
  plan: Plan,
  counted: readonly Counted[],
  eyes: readonly Scores[],
): Told[] =>
  counted.flatMap(
    (one) =>
      scoresOf(
        one,
        plan.rungs.length,
        criteria.map(({ name }) => name),
        eyes,
      ) ?? [],
  );

const voiceOf = (found: Result<Finding>): Voice | null =>
  found.ok ? { verdict: found.value.verdict, values: found.value.values } : null;

/** Scores that are further apart than neighbours, and further than both are unsure of. */
const FAR = 1.5;
const SURELY = 2;

/** Cells of which eye and loupe say different things, the furthest first. */
function apartOf(readings: readonly Scores[], loupe: readonly Told[], rungs: number): Apart[] {
  const all = loupe.flatMap(({ scores, noise }) =>
    (Object.keys(scores) as Criterion[]).flatMap((criterion) => {
      const eyes = criterionMeans(readings, criterion, rungs);
      return scores[criterion]!.flatMap((score, rung): Apart[] => {
        const eye = eyes[rung];
        if (score === null || eye === null || eye === undefined) return [];
        const off = Math.abs(eye - score);
        if (off < FAR || off < SURELY * (noise[criterion]?.[rung] ?? 0)) return [];
        return [{ rung, criterion, eye, loupe: score }];
      });
    }),
  );
  return all.sort((a, b) => Math.abs(b.eye - b.loupe) - Math.abs(a.eye - a.loupe));
}

/** Settings that move a line along an axis. */
const MOVES: Record<'x' | 'y', Setting> = { x: 'offsetX', y: 'offsetY' };
/** Pairs of lines must follow their steps: by how much one more step moves a pair. */
const [LEAST_SLOPE, MOST_SLOPE] = [0.8, 1.2];
/** Fewest pairs of an axis, and what straightening leaves at the least, mm. */
const FEWEST_PAIRS = 4;
const FLOOR = 0.006;

type Zero = { value: number; half: number };

/** Where the lines of a vernier would lie on each other, by all pairs that were measured; half of its 80 % range. */
export function zeroOf(measures: Counted, plan: Plan, axis: 'x' | 'y'): Zero | null {
  const setting = MOVES[axis];
  const pairs = measures.flatMap((one) => {
    const at = plan.rungs[one.rung]?.set[setting] ?? plan.rungs[one.rung]?.set[MOVES.x];
    return one.name === 'line-up' && one.axis === axis && one.value !== null && at !== undefined
      ? [{ at, off: one.value }]
      : [];
  });
  const line = lineThrough(
    pairs.map(({ at }) => at),
    pairs.map(({ off }) => off),
  );
  if (!line || pairs.length < FEWEST_PAIRS) return null;
  if (line.slope < LEAST_SLOPE || line.slope > MOST_SLOPE) return null;
  const deviation = Math.hypot(line.off / Math.sqrt(pairs.length), FLOOR);
  return { value: -line.at / line.slope, half: EIGHT_OF_TEN * deviation };
}

/** Lines of two nozzles: the eye chooses a pair, the loupe measures all of them. */
function linedUp(
  kind: LadderKind,
  plan: Plan,
  bench: Bench,
  said: Said,
  counted: readonly Counted[],
): Result<Finding> {
  const eye = findValue(kind, plan, bench, said);
  const axes = (['x', 'y'] as const).filter((axis) => kind.finds.includes(MOVES[axis]));
  const zeros = axes.map((axis) => {
    const all = counted.flatMap((one) => zeroOf(one, plan, axis) ?? []);
    return { axis, zero: all.length > 0 ? weighedZero(all) : null };
  });
  if (zeros.every(({ zero }) => zero === null)) return eye;
  const both = zeros.map(({ axis, zero }) => {
    const seen = eye.ok ? eye.value.values.find(({ setting }) => setting === MOVES[axis]) : null;
    const own = seen ? zeroIn(seen) : null;
    return { axis, zero, own, all: [zero, own].filter((one) => one !== null) };
  });
  const measured = Object.fromEntries(
    both.map(({ axis, all }) => [axis, all.length > 0 ? [weighedZero(all).value] : []]),
  );
  const found = findValue(kind, plan, bench, { ...said, measured: [measured] });
  if (!found.ok) return eye.ok ? eye : found;
  const values = found.value.values.map((one): Proposal => {
    const axis = both.find(({ axis: of }) => MOVES[of] === one.setting);
    return axis ? proposal(one.setting, weighedZero(axis.all)) : one;
  }) as Finding['values'];
  const loupe = zeros.flatMap(({ axis, zero }) => (zero ? [proposal(MOVES[axis], zero)] : []));
  const { resolution } = settingInfo(values[0].setting);
  return ok({
    ...found.value,
    values,
    done: values.every(({ range }) => range !== null && range[1] - range[0] < 2 * resolution),
    voices: {
      eye: voiceOf(eye),
      loupe: { verdict: 'value', values: loupe as Finding['values'] },
      of: ['line-up'],
      apart: [],
    },
  });
}

const proposal = (setting: Setting, { value, half }: Zero): Proposal => {
  const { resolution } = settingInfo(setting);
  return {
    setting,
    value: snap(value, resolution),
    range: tidyRange([value - half, value + half], resolution / 10),
  };
};

const zeroIn = ({ value, range }: Proposal): Zero | null =>
  value === null || range === null ? null : { value, half: (range[1] - range[0]) / 2 };

/** Several measurements of the same, the surer ones counting for more. */
function weighedZero(all: readonly Zero[]): Zero {
  const { y, noise } = asOne(all.map(({ value, half }) => ({ y: value, noise: half })));
  return { value: y, half: noise };
}
