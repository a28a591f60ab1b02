/** One helper per numeric policy, so that rounding is decided in a single place. */

/**
 * Slack for "is this a whole number of steps", as a share of one step. A range typed in decimals
 * (0.1 / 0.02) misses whole numbers by a few 1e-16; a user's real remainder is never this small.
 */
export const STEP_SLACK = 1e-6;

/** Clamps `value` into [low, high]. */
export const clamp = (value: number, low: number, high: number): number =>
  Math.min(high, Math.max(low, value));

/** Nearest multiple of `resolution` (> 0), free of binary dust; halves go up. */
export function snap(value: number, resolution: number): number {
  return tidy(Math.round(value / resolution + STEP_SLACK / 2) * resolution);
}

/** Removes binary dust: 0.30000000000000004 → 0.3. Good for values up to a million or so. */
export function tidy(value: number): number {
  const rounded = Number(value.toFixed(9));
  return Object.is(rounded, -0) ? 0 : rounded;
}

/** Number as short text with at most `decimals` decimals, without trailing zeros or `-0`. */
export function short(value: number, decimals = 3): string {
  const text = value.toFixed(decimals);
  // Cut by hand: a writer calls this twice a line, and a regular expression took three times as long.
  let end = text.length;
  if (decimals > 0) {
    while (text.charCodeAt(end - 1) === 48) end--;
    if (text.charCodeAt(end - 1) === 46) end--;
  }
  const trimmed = text.slice(0, end);
  return trimmed === '-0' ? '0' : trimmed;
}

/** Mean of a non-empty list. */
export function mean(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / values.length;
}

/**
 * Quantile of a list by linear interpolation between order statistics.
 *
 * @param share 0..1
 * @throws RangeError on an empty list
 */
export function quantile(values: readonly number[], share: number): number {
  if (values.length === 0) throw new RangeError('quantile of an empty list');
  const sorted = [...values].sort((a, b) => a - b);
  const at = clamp(share, 0, 1) * (sorted.length - 1);
  const low = Math.floor(at);
  const high = Math.min(low + 1, sorted.length - 1);
  return sorted[low]! + (sorted[high]! - sorted[low]!) * (at - low);
}
