/** How often something repeats along a line: periodograms at any frequency, and their highest place. */

/**
 * Takes what changes slowly out of a line: the mean of what lies within half a window on both sides.
 *
 * @param window samples
 */
export function withoutTrend(line: Float64Array, window: number): Float64Array {
  const half = Math.max(1, Math.round(window / 2));
  const sums = new Float64Array(line.length + 1);
  for (let i = 0; i < line.length; i++) sums[i + 1] = sums[i]! + line[i]!;
  return line.map((value, i) => {
    // The window shrinks evenly toward the ends, so that a slope stays none.
    const reach = Math.min(half, i, line.length - 1 - i);
    if (reach === 0) return 0;
    return value - (sums[i + reach + 1]! - sums[i - reach]!) / (2 * reach + 1);
  });
}

export const hann = (i: number, count: number): number =>
  0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / count);

/** A line faded out toward both ends, so that what lies beyond them does no harm. */
export const windowed = (line: Float64Array): Float64Array =>
  line.map((value, i) => value * hann(i, line.length));

/** Power of a windowed line at one frequency, cycles a sample (G. Goertzel, Am. Math. Monthly 65, 1958). */
export function powerAt(line: Float64Array, frequency: number): number {
  const turn = 2 * Math.cos(2 * Math.PI * frequency);
  let [before, last] = [0, 0];
  for (let i = 0; i < line.length; i++) {
    const next = line[i]! + turn * last - before;
    before = last;
    last = next;
  }
  return last * last + before * before - turn * last * before;
}

/** Place of the highest of three even samples around the middle one, −½..½. */
export function vertex(before: number, at: number, after: number): number {
  const bend = before - 2 * at + after;
  if (!(bend < 0)) return 0;
  return Math.max(-0.5, Math.min(0.5, (0.5 * (before - after)) / bend));
}
