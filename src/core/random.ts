/** Chance with a seed: the same seed gives the same draws on every machine. */

// Taken out of `Math` once: draws by the hundred thousand are the hot loop of every finding.
const { imul, log, sqrt, cos, PI } = Math;

/** Uniform draws in [0, 1). */
export type Random = () => number;

/** 32-bit generator `mulberry32`: small state, passes the usual small tests, enough for bootstraps. */
export function seeded(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

/** One standard normal draw (G. Box, M. Muller, Ann. Math. Stat. 29, 1958). */
export function normal(random: Random): number {
  const radius = sqrt(-2 * log(1 - random()));
  return radius * cos(2 * PI * random());
}
