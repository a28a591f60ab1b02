/** Where a value lies along a print: between the middles of the rungs that have the values next to it. */

import { valueOn } from '../plan/axes';
import type { Axis, Rung } from '../plan/plan';

type Stop = { value: number; place: number };

/**
 * @returns the place along the print, mm, of any value; beyond the ends as far as the last step goes. Null where the
 *   values are mixed over the print, so that nothing lies between two of them
 */
export function along(
  rungs: readonly Pick<Rung, 'set' | 'z'>[],
  axis: Axis,
): ((value: number) => number) | null {
  const stops = rungs
    .map((rung): Stop => ({ value: valueOn(axis, rung)!, place: (rung.z.from + rung.z.to) / 2 }))
    .sort((a, b) => a.value - b.value);
  const rises = stops.slice(1).map(({ place }, i) => place - stops[i]!.place);
  if (rises.some((one) => one * rises[0]! <= 0)) return null;
  return through(stops);
}

/** The place of any value between the two stops next to it; beyond the ends as far as the last two stand apart. */
export function through(given: readonly Stop[]): (value: number) => number {
  const stops = given.toSorted((a, b) => a.value - b.value);
  if (stops.length < 2) return () => stops[0]?.place ?? 0;
  return (value) => {
    const above = stops.findIndex((stop) => stop.value >= value);
    const high = Math.max(1, above === -1 ? stops.length - 1 : above);
    const [a, b] = [stops[high - 1]!, stops[high]!];
    return a.place + ((value - a.value) / (b.value - a.value)) * (b.place - a.place);
  };
}
