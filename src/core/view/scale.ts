/** The one sequential colour scale for "low to high value": steps that any eye can tell apart by lightness. */

const STOPS = ['#00224e', '#2b446e', '#5d6172', '#8a8779', '#b9ac70', '#ead357'].map((hex) =>
  [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16)),
);

export type Rgb = [red: number, green: number, blue: number];

/** @param share 0 for the lowest value, 1 for the highest; a single value stands in the middle */
export function scaleColour(share: number): Rgb {
  const at = Math.min(Math.max(Number.isFinite(share) ? share : 0.5, 0), 1) * (STOPS.length - 1);
  const low = Math.min(STOPS.length - 2, Math.floor(at));
  const rest = at - low;
  return STOPS[low]!.map((value, i) =>
    Math.round(value + (STOPS[low + 1]![i]! - value) * rest),
  ) as Rgb;
}

export const css = ([r, g, b]: Rgb): string => `rgb(${r} ${g} ${b})`;

/** Where a value lies among others, 0..1. */
export function shareOf(value: number, values: readonly number[]): number {
  const low = Math.min(...values);
  const high = Math.max(...values);
  return high > low ? (value - low) / (high - low) : 0.5;
}

/** Ink or white, whichever reads better on a colour of the scale. */
export const inkOn = (share: number): string => (share > 0.5 ? '#22262c' : '#ffffff');
