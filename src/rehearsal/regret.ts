/**
 * What a value costs: how much worse a hidden machine prints at it than at its best, as an eye without noise sees it.
 * A ladder with large steps finds "within one step" easily; this does not flatter it.
 */

import type { Criterion } from '../core/criteria';
import { clamp } from '../core/numbers';
import { BEST_SCORE } from '../core/reading/types';
import type { Seen } from '../understudy/looks';
import { quality } from '../understudy/eye';

export type Regret = {
  /** Weighed score that is lost, 0..4. */
  loss: number;
  /** How much larger each fault is, in its own unit: mm, or a share 0..1. */
  excess: Partial<Record<Criterion, number>>;
};

/** A smaller loss in the weighed score changes no score that is given in whole numbers. */
export const NOTICEABLE = 0.5;

/** What is seen of a machine along a setting, by rising value. */
export type Curve = {
  values: readonly number[];
  heights: readonly number[];
  seen: readonly Seen[];
};

/** A curve by rising value, whichever way its ladder climbs. */
export function curveOf(
  values: readonly number[],
  heights: readonly number[],
  seen: readonly Seen[],
): Curve {
  const order = values.map((_, i) => i).sort((a, b) => values[a]! - values[b]!);
  const by = <T>(list: readonly T[]): T[] => order.map((i) => list[i]!);
  return { values: by(values), heights: by(heights), seen: by(seen) };
}

/** Between two neighbours in a straight line; the end's own beyond an end. */
function between(
  values: readonly number[],
  at: number,
): [low: number, high: number, share: number] {
  const place = clamp(at, values[0]!, values.at(-1)!);
  const high = Math.max(
    1,
    values.findIndex((value) => value >= place),
  );
  const low = Math.min(high - 1, values.length - 1);
  const [a, b] = [values[low]!, values[high] ?? values[low]!];
  return [low, Math.min(high, values.length - 1), b > a ? (place - a) / (b - a) : 0];
}

function heightAt({ values, heights }: Curve, at: number): number {
  const [low, high, share] = between(values, at);
  return heights[low]! + share * (heights[high]! - heights[low]!);
}

function seenAt({ values, seen }: Curve, at: number): Seen {
  const [low, high, share] = between(values, at);
  const [a, b] = [seen[low]!, seen[high]!];
  return Object.fromEntries(
    (Object.keys(a) as Criterion[]).flatMap((name) =>
      b[name] === undefined ? [] : [[name, a[name]! + share * (b[name] - a[name]!)]],
    ),
  );
}

/**
 * What is lost at a value against another one.
 *
 * @param best  the best there is, or, where a setting has a limit, that limit: beyond it on the clean side nothing is lost
 */
export function regretOn(curve: Curve, value: number, best: number): Regret {
  const [here, there] = [seenAt(curve, value), seenAt(curve, best)];
  return {
    loss: Math.max(0, heightAt(curve, best) - heightAt(curve, value)),
    excess: Object.fromEntries(
      (Object.keys(there) as Criterion[]).flatMap((name) =>
        here[name] === undefined ? [] : [[name, here[name] - there[name]!]],
      ),
    ),
  };
}

/** What an error of a measured value does to every print from then on, by the key of its measure. */
const AMISS: Record<string, (value: number, truth: number) => [Criterion, number]> = {
  wall: (value, truth) => plastic(value / truth - 1),
  // A longer way of the filament a turn means that less is fed.
  left: (value, truth) => plastic(truth / value - 1),
  x: (value, truth) => ['line-up', Math.abs(value - truth)],
};

/** Too much plastic is felt, too little is seen through. @param share 0 is right */
const plastic = (share: number): [Criterion, number] =>
  share > 0 ? ['ridges', share] : ['gaps', Math.abs(share)];

export function regretMeasured(key: string, value: number, truth: number): Regret {
  const [name, size] = AMISS[key]!(value, truth);
  return { loss: BEST_SCORE - quality(name, size), excess: { [name]: size } };
}
