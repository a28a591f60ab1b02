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

/** Share of light that a colour gives back, 0..1, as contrast is figured (WCAG 2.1, relative luminance). */
export function luminance(colour: Rgb): number {
  const [r, g, b] = colour.map((byte) => {
    const share = byte / 255;
    return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
  }) as Rgb;
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

/** How much two colours differ in light, 1 to 21; text needs 4.5. */
export function contrast(a: Rgb, b: Rgb): number {
  const [high, low] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number];
  return (high + 0.05) / (low + 0.05);
}

const [BLACK, WHITE]: Rgb[] = [
  [0, 0, 0],
  [255, 255, 255],
];

/** Black or white, whichever reads better on a colour of the scale. In its middle nothing paler than black would do. */
export function inkOn(share: number): string {
  const ground = scaleColour(share);
  return contrast(ground, BLACK!) >= contrast(ground, WHITE!) ? '#000000' : '#ffffff';
}
