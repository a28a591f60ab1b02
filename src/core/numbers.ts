/** One helper per numeric policy, so that rounding is decided in a single place. */

/**
 * Slack for "is this a whole number of steps", as a share of one step. A range typed in decimals
 * (0.1 / 0.02) misses whole numbers by a few 1e-16; a user's real remainder is never this small.
 */
export const STEP_SLACK = 1e-6;

/**
 * Slack for comparing numbers that somebody typed, in their own unit: sums of decimals miss each other by a few
 * 1e-16, and no setting of a machine is a millionth fine.
 */
export const TYPED_SLACK = 1e-6;

/** Places and lengths are written into files with three decimals, mm: nearer than that they are the same. */
export const WRITTEN_MM = 1e-3;

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

/** Powers of ten, and the largest scaled number whose rounding to a whole is still exact. */
const TENS = [1, 10, 100, 1e3, 1e4, 1e5, 1e6];
const LARGEST_SCALED = 2 ** 31;
/** `toFixed` looks at the exact binary value; scaled sums this near to a half are left to it. */
const HALF_SLACK = 1e-6;

/**
 * Number as short text with at most `decimals` decimals, without trailing zeros or `-0`.
 *
 * Whole-number arithmetic where it is exact: a writer calls this twice a line, and `toFixed` made writing a
 * ladder 9 times as slow as joining its lines instead of 4 (npm run bench, writing).
 */
export function short(value: number, decimals = 3): string {
  const ten = TENS[decimals];
  const scaled = ten === undefined ? NaN : Math.abs(value) * ten;
  const down = Math.floor(scaled);
  if (!(scaled < LARGEST_SCALED) || Math.abs(scaled - down - 0.5) < HALF_SLACK)
    return shortPlain(value, decimals);
  const whole = scaled - down > 0.5 ? down + 1 : down;
  if (whole === 0) return '0';
  const units = Math.floor(whole / ten!);
  let rest = whole - units * ten!;
  let digits = decimals;
  let text = `${units}`;
  if (rest > 0) {
    while (rest % 10 === 0) {
      rest /= 10;
      digits--;
    }
    const fraction = `${rest}`;
    text += `.${ZEROS[digits - fraction.length]}${fraction}`;
  }
  return value < 0 ? `-${text}` : text;
}

const ZEROS = ['', '0', '00', '000', '0000', '00000'];

/** The same by plain means, for any number of decimals. */
export function shortPlain(value: number, decimals: number): string {
  const text = value.toFixed(decimals);
  const trimmed = text.includes('.') ? text.replace(/\.?0+$/, '') : text;
  return trimmed === '-0' ? '0' : trimmed;
}

/** A number with its sign, as an amount that is added. */
export const signed = (value: number): string => `${value > 0 ? '+' : ''}${short(value)}`;

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
export function quantile(values: ArrayLike<number>, share: number): number {
  if (values.length === 0) throw new RangeError('quantile of an empty list');
  // Numbers in a row sort by themselves, much faster than by a comparison.
  const sorted = Float64Array.from(values).sort();
  const at = clamp(share, 0, 1) * (sorted.length - 1);
  const low = Math.floor(at);
  const high = Math.min(low + 1, sorted.length - 1);
  return sorted[low]! + (sorted[high]! - sorted[low]!) * (at - low);
}
