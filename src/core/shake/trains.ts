/**
 * Input shapers as trains of impulses, and what each does to an axis that rings: what of the ringing is left, and how
 * much it rounds corners (N. Singer, W. Seering, J. Dyn. Sys. Meas. Control 112, 1990: ZV, ZVD; W. Singhose, W. Seering,
 * N. Singer, J. Mech. Design 116, 1994, and W. Singhose, L. Porter, T. Tuttle, N. Singer, J. Dyn. Sys. Meas. Control
 * 119, 1997: EI with one, two and three humps).
 */

import type { Shaper } from '../dialect/shapers';

/** Impulses: shares that add up to 1, and when each comes, s, the first at 0. */
export type Train = { shares: number[]; times: number[] };

/** Ringing that is let through at the design frequency, or on the humps beside it, as a share. */
const TOLERATED = 0.05;
/** Impulses of the shortened form are this part of a period apart; usual ones half of one. */
const SHORTENED = 3 / 8;

/**
 * Impulses of an axis without damping, and the part of a period between two of them. With three impulses `a, 1 − 2a, a`
 * the ringing adds up to nothing where `2a·cos(2πp) + 1 − 2a = 0`, p being that part.
 */
function undamped(shaper: Shaper): { shares: number[]; apart: number } {
  const v = TOLERATED;
  switch (shaper) {
    case 'ZV':
      return { shares: [1, 1], apart: 0.5 };
    case 'ZVD':
      return { shares: [1, 2, 1], apart: 0.5 };
    case 'MZV': {
      const outer = 1 / (2 * (1 - Math.cos(2 * Math.PI * SHORTENED)));
      return { shares: [outer, 1 - 2 * outer, outer], apart: SHORTENED };
    }
    case 'EI':
      return { shares: [(1 + v) / 4, (1 - v) / 2, (1 + v) / 4], apart: 0.5 };
    case '2HEI': {
      const x = Math.cbrt(v ** 2 * (Math.sqrt(1 - v ** 2) + 1));
      const outer = (3 * x ** 2 + 2 * x + 3 * v ** 2) / (16 * x);
      return { shares: [outer, 0.5 - outer, 0.5 - outer, outer], apart: 0.5 };
    }
    case '3HEI': {
      const outer = (1 + 3 * v + 2 * Math.sqrt(2 * (v ** 2 + v))) / 16;
      const next = (1 - v) / 4;
      return { shares: [outer, next, 1 - 2 * (outer + next), next, outer], apart: 0.5 };
    }
  }
}

/**
 * The train of a shaper. Damping makes ringing die away until the next impulse comes: each is smaller by as much.
 *
 * @param hertz   natural frequency that it is set to, Hz
 * @param damping ratio, 0..1 and under 1
 */
export function trainOf(shaper: Shaper, hertz: number, damping: number): Train {
  const { shares, apart } = undamped(shaper);
  const period = 1 / (hertz * Math.sqrt(1 - damping ** 2));
  const times = shares.map((_, k) => k * apart * period);
  const damped = shares.map((one, k) => one * Math.exp(-damping * 2 * Math.PI * hertz * times[k]!));
  const whole = damped.reduce((sum, one) => sum + one, 0);
  return { shares: damped.map((one) => one / whole), times };
}

/** How long a train lasts, s. */
export const lengthOf = ({ times }: Train): number => times.at(-1)!;

/**
 * What is left of the ringing of an axis once a train is over, as a share of what one whole impulse at its beginning
 * would have made it ring; 1 without a shaper.
 *
 * @param hertz   natural frequency of the axis, Hz; @param damping its ratio
 */
export function residual({ shares, times }: Train, hertz: number, damping: number): number {
  const omega = 2 * Math.PI * hertz;
  const damped = omega * Math.sqrt(1 - damping ** 2);
  const end = times.at(-1)!;
  let [cosines, sines] = [0, 0];
  for (let k = 0; k < shares.length; k++) {
    const grown = shares[k]! * Math.exp(damping * omega * (times[k]! - end));
    cosines += grown * Math.cos(damped * times[k]!);
    sines += grown * Math.sin(damped * times[k]!);
  }
  return Math.hypot(cosines, sines);
}

/**
 * How far a corner that is taken at an acceleration is cut, mm: a way that bends as `a·t²/2` comes out of a train
 * delayed by its middle, and short by half its spread in time.
 *
 * @param acceleration mm/s²
 */
export function rounding({ shares, times }: Train, acceleration: number): number {
  let [first, second] = [0, 0];
  for (let k = 0; k < shares.length; k++) {
    first += shares[k]! * times[k]!;
    second += shares[k]! * times[k]! ** 2;
  }
  return (acceleration / 2) * (second - first ** 2);
}
