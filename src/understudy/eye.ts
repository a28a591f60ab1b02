/** An eye that scores what it sees, with the noise of a person. */

import type { Criterion } from '../core/criteria';
import { normal, seeded, type Random } from '../core/random';
import type { Score, Scores } from '../core/reading/types';
import type { Printed } from './print';
import { look, type Place, type Seen } from './looks';

/**
 * Size at which a fault is just noticed, and at which a rung fails. Lengths mm, shares 0..1. What a careful
 * hobbyist says of a print held at arm's length.
 */
export const NOTICED: Record<Criterion, [noticed: number, fails: number]> = {
  stringing: [0.004, 0.04],
  overhang: [0.07, 0.32],
  bridging: [0.3, 1.7],
  surface: [0.017, 0.05],
  gloss: [0.12, 0.75],
  'layer adhesion': [0.12, 0.75],
  corners: [0.04, 0.25],
  evenness: [0.03, 0.2],
  seam: [0.06, 0.4],
  gaps: [0.03, 0.2],
  ridges: [0.04, 0.25],
  ringing: [0.012, 0.07],
  'line-up': [0.03, 0.3],
};

/** Faults that are a share of something; all others are lengths, mm. */
export const SHARES: ReadonlySet<Criterion> = new Set([
  'gloss',
  'layer adhesion',
  'gaps',
  'ridges',
]);

/** Scores of a fault that is just noticed and of one that fails; between them the score falls smoothly. */
const [AT_NOTICED, AT_FAILS] = [3.5, 0.5];

/** Quality of a fault of some size, 0..4, without any noise: falls with the logarithm of the size. */
export function quality(name: Criterion, size: number): number {
  const [noticed, fails] = NOTICED[name];
  const middle = Math.sqrt(noticed * fails);
  const power = Math.log(AT_NOTICED / AT_FAILS) / Math.log(Math.sqrt(fails / noticed));
  return 4 / (1 + (Math.max(size, 0) / middle) ** power);
}

/** Scatter of one judgement, and of a person's severity on one criterion, in scores. */
const JUDGEMENT = 0.45;
const SEVERITY = 0.25;
/** Share of rungs of which this person cannot tell. */
const CANNOT_TELL = 0.03;

/** Scores of a person who looks at each place in turn; the same seed is the same person on the same day. */
export function scored(
  printed: Printed,
  places: readonly Place[],
  names: readonly Criterion[],
  seed: number,
): { scores: Scores; seen: Seen[] } {
  const seen = places.map((place) => look(printed, place));
  const scores: Scores = {};
  names.forEach((name, i) => {
    const random = seeded(Math.imul(seed + 1, 0x85ebca6b) + i * 0x27d4eb2f);
    const severity = SEVERITY * normal(random);
    scores[name] = seen.map((one): Score | null => {
      const [noise, doubt] = [JUDGEMENT * normal(random), random()];
      const size = one[name];
      if (size === undefined || doubt < CANNOT_TELL) return null;
      const score = Math.round(quality(name, size) + severity + noise);
      return Math.max(0, Math.min(4, score)) as Score;
    });
  });
  return { scores, seen };
}

/** The same without a person: weighed quality of each place, 0..4. What truth is measured by. */
export function trueQuality(
  printed: Printed,
  places: readonly Place[],
  weights: Partial<Record<Criterion, number>>,
): number[] {
  return places.map((place) => {
    const seen = look(printed, place);
    let [sum, total] = [0, 0];
    for (const [name, weight] of Object.entries(weights) as [Criterion, number][]) {
      const size = seen[name];
      if (size === undefined || !(weight > 0)) continue;
      sum += weight * quality(name, size);
      total += weight;
    }
    return total > 0 ? sum / total : 0;
  });
}

/** Which of several places looks best to a person who has them side by side. */
export function bestOf(
  printed: Printed,
  places: readonly Place[],
  weights: Partial<Record<Criterion, number>>,
  random: Random,
): number {
  const looks = trueQuality(printed, places, weights).map(
    (score) => score + JUDGEMENT * normal(random),
  );
  return looks.indexOf(Math.max(...looks));
}
