/** Rungs whose values are mixed over the bed, so that place and time do not speak for a value, in the order of the value. */

type Standing = { index: number; z: { from: number; to: number } };

const middle = ({ z }: Standing): number => (z.from + z.to) / 2;

/** Whether the print has its rungs in another order than their values. @param rungs by their value */
export function isMixed(rungs: readonly Standing[]): boolean {
  const steps = rungs.slice(1).map((rung, i) => middle(rung) - middle(rungs[i]!));
  return steps.some((step) => step > 0) && steps.some((step) => step < 0);
}

/**
 * Rows for what is said of each rung: where it stands, or where values are mixed one under the other, the first on top.
 *
 * @param rungs by their value
 * @param height of the print, mm
 */
export function rowsByValue<R extends Standing>(rungs: readonly R[], height: number): readonly R[] {
  if (!isMixed(rungs)) return rungs;
  const tall = height / rungs.length;
  return rungs.map((rung, i) => ({
    ...rung,
    z: { from: height - (i + 1) * tall, to: height - i * tall },
  }));
}
