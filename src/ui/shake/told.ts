/** Numbers of the shake page as they are said. */

export const grouped = (value: number): string =>
  value.toLocaleString('en-GB', { maximumFractionDigits: 0 });

/** Accelerations are told in steps that a machine is set in, mm/s², on the safe side. */
const TOLD = 50;
export const safely = (value: number): string => grouped(Math.floor(value / TOLD + 1e-9) * TOLD);
