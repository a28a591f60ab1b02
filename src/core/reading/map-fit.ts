/**
 * Pressure advance as a smooth function of melt flow and acceleration that falls with both:
 *
 *     K(q, a) = k / (1 + q/h) · (a/ā)^−g        h > 0, g ≥ 0
 *
 * The first factor is what shear thinning makes of a melt's resistance, the second what it gains when pressure has no
 * time to creep. On logarithms it is linear in ln k and g, so that only h is searched for. Cells that lie far from all
 * others count less (P. J. Huber, Ann. Math. Stat. 35, 1964), and a cell whose best figure is the first or last of its
 * strip says only on which side the value lies.
 */

import { mean, quantile } from '../numbers';

export type Known = {
  /** mm³/s, mm/s², s */
  flow: number;
  acceleration: number;
  advance: number;
  /** One standard deviation, as a share of the value. */
  unsure: number;
  /** Beyond which end of its strip the value may lie. */
  beyond: 'lower' | 'higher' | null;
};

export type Fitted = { advance: number; /** As a share. */ unsure: number };
export type MapFit = {
  at(flow: number, acceleration: number): Fitted;
  /** How far cells lie from the fit, one standard deviation as a share. */
  scatter: number;
  /** Distance of each cell from the fit, in its standard deviations. */
  far: number[];
  /** Evidence, log, that the value falls with flow, and with acceleration. */
  falls: { flow: number; acceleration: number };
};

/** Flows at which the value has fallen by half, mm³/s, that are tried; the last is so large that it does not fall. */
const HALVES = [...Array.from({ length: 48 }, (_, i) => 3 * 1.11 ** i), Infinity];
/** Distance, standard deviations, from which a cell counts less. */
const HUBER = 1.3;
const ROUNDS = 12;
/** Exponents as large as this are not met; the width is that of what is expected. */
const USUAL_EXPONENT = 0.15;

type Line = { k: number; g: number; loss: number; covariance: [number, number, number] };

/** @param known at least three cells */
export function fitMap(known: readonly Known[]): MapFit {
  const middle = Math.exp(mean(known.map(({ acceleration }) => Math.log(acceleration))));
  const first = fitWith(known, middle, 1);
  // People and machines scatter more, or less, than is expected of them.
  const free = known.filter(({ beyond }) => beyond === null);
  const off = free.map((one) => Math.abs(first.distance(one)));
  const spread = off.length > 3 ? Math.max(0.5, quantile(off, 0.5) / 0.674) : 1;
  const last = fitWith(known, middle, spread);
  const scatter =
    spread *
    quantile(
      known.map(({ unsure }) => unsure),
      0.5,
    );
  return {
    at: last.at,
    scatter,
    far: known.map((one) => last.distance(one) / spread),
    falls: last.falls,
  };
}

function fitWith(known: readonly Known[], middle: number, spread: number) {
  const lines = HALVES.map((half) => ({ half, ...lineFor(known, half, middle, spread, true) }));
  const least = Math.min(...lines.map(({ loss }) => loss));
  const shares = lines.map(({ loss }) => Math.exp(least - loss));
  const total = shares.reduce((sum, one) => sum + one, 0);
  const flat = lines.at(-1)!.loss;
  const still = Math.min(...HALVES.map((half) => lineFor(known, half, middle, spread, false).loss));
  const at = (flow: number, acceleration: number): Fitted => {
    const x = -Math.log(acceleration / middle);
    const all = lines.map(({ half, k, g, covariance: [kk, kg, gg] }) => ({
      y: k - Math.log(1 + flow / half) + g * x,
      variance: kk + 2 * kg * x + gg * x * x,
    }));
    const y = all.reduce((sum, one, i) => sum + (shares[i]! / total) * one.y, 0);
    const variance = all.reduce(
      (sum, one, i) => sum + (shares[i]! / total) * (one.variance + (one.y - y) ** 2),
      0,
    );
    return { advance: Math.exp(y), unsure: Math.sqrt(variance) };
  };
  const distance = ({ flow, acceleration, advance, unsure }: Known): number =>
    (Math.log(advance) - Math.log(at(flow, acceleration).advance)) / unsure;
  return { at, distance, falls: { flow: flat - least, acceleration: still - least } };
}

/** ln k and g for one flow by which the value falls by half, by rounds of weighed least squares. */
function lineFor(
  known: readonly Known[],
  half: number,
  middle: number,
  spread: number,
  leans: boolean,
): Line {
  const points = known.map(({ flow, acceleration, advance, unsure, beyond }) => ({
    x: -Math.log(acceleration / middle),
    y: Math.log(advance) + Math.log(1 + flow / half),
    sd: unsure * spread,
    beyond,
  }));
  let [k, g] = [mean(points.map(({ y }) => y)), 0];
  let line: Line = { k, g, loss: Infinity, covariance: [1, 0, 1] };
  for (let round = 0; round < ROUNDS; round++) {
    let [s, sx, sy, sxx, sxy, loss] = [0, 0, 0, 0, 0, 0];
    for (const { x, y, sd, beyond } of points) {
      const off = (y - k - g * x) / sd;
      // The end of a strip says nothing more once the fit lies beyond it.
      const silent = (beyond === 'higher' && off < 0) || (beyond === 'lower' && off > 0);
      const far = Math.abs(off);
      const weight = (silent ? 0.02 : far <= HUBER ? 1 : HUBER / far) / sd ** 2;
      if (!silent) loss += far <= HUBER ? off ** 2 / 2 : HUBER * (far - HUBER / 2);
      s += weight;
      sx += weight * x;
      sy += weight * y;
      sxx += weight * x * x;
      sxy += weight * x * y;
    }
    const prior = leans ? 1 / USUAL_EXPONENT ** 2 : 1e9;
    loss += leans ? (g / USUAL_EXPONENT) ** 2 / 2 : 0;
    const gg = sxx + prior;
    const determinant = s * gg - sx * sx;
    line = { k, g, loss, covariance: [gg / determinant, -sx / determinant, s / determinant] };
    g = Math.max(0, (s * sxy - sx * sy) / determinant);
    k = (sy - g * sx) / s;
  }
  return line;
}
