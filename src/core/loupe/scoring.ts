/**
 * What numbers of a picture say of the criteria, as a reading of the loupe's own. A fault that grows is scored lower and
 * lower; from which size on people call it fair is a matter of the filament, the light and the eye. So the eye's own
 * scores of the same print say it, as far as they do, and what is left open is part of each score's noise.
 */

import type { Criterion } from '../criteria';
import { clamp, mean } from '../numbers';
import { SCORE_NOISE, type ByCriterion, type Told } from '../reading/pool';
import { BEST_SCORE, type Scores } from '../reading/types';
import type { MeasureTold } from './kept';
import { MEASURE_NAMES, type MeasureName } from './measures';
import { EIGHT_OF_TEN } from './sight';

/** How a measure is scored. */
type Scale = {
  by: MeasureName;
  of: Criterion;
  /** Size of the fault, above 0, the larger the worse; null where it is not known. */
  size: (one: MeasureTold) => number | null;
  /** Whether that is the measure's value, whose spread is known. */
  ofValue?: true;
  /** Size that is scored half, and how fast the score falls about it (of tenths of prints that were scored). */
  middle: number;
  power: number;
  /** What the size does not tell of how it looks, in scores. */
  misfit: number;
};

/** Faults smaller than this, in the measure's own unit, are none. */
const LEAST = 1e-3;
const atLeast = (value: number): number => Math.max(value, LEAST);

/** By what a criterion is scored. Measures that are not here are numbers to look at. */
const SCALES: readonly Scale[] = [
  {
    by: 'threads',
    of: 'stringing',
    size: ({ also }) => also?.cover ?? null,
    middle: 0.155,
    power: 2.8,
    misfit: 0.2,
  },
  // The less it shines, the worse.
  {
    by: 'gloss',
    of: 'gloss',
    size: ({ value }) => (value === null ? null : 1 / atLeast(value)),
    ofValue: true,
    middle: 65,
    power: 4,
    misfit: 0.65,
  },
  {
    by: 'width',
    of: 'evenness',
    size: ({ also }) => also?.evenness ?? null,
    middle: 0.072,
    power: 2.8,
    misfit: 0.26,
  },
  {
    by: 'sag',
    of: 'bridging',
    size: ({ value }) => value,
    ofValue: true,
    middle: 0.72,
    power: 2,
    misfit: 0.25,
  },
  {
    by: 'sag',
    of: 'overhang',
    size: ({ also }) => also?.droop ?? null,
    middle: 0.29,
    power: 2.8,
    misfit: 0.28,
  },
  {
    by: 'layer-pitch',
    of: 'surface',
    size: ({ also }) => also?.jitter ?? null,
    middle: 0.01,
    power: 2,
    misfit: 0.47,
  },
];

/**
 * Measures that count unless they are left out. Gloss and the jitter of layers go with what is seen, but not closely
 * enough to be believed unasked: where they are off, they are off on all rungs alike, which their noise does not tell.
 */
const USUALLY: ReadonlySet<MeasureName> = new Set(['threads', 'width', 'sag', 'line-up']);

/** Measures that are counted where nobody chose. */
export const countsUsually = (name: MeasureName, criteria: readonly Criterion[]): boolean =>
  USUALLY.has(name) && canCount(name, criteria);

/** Whether a measure can be counted as a reading of some criterion that is looked at. */
export const canCount = (name: MeasureName, criteria: readonly Criterion[]): boolean =>
  name === 'line-up' || SCALES.some(({ by, of }) => by === name && criteria.includes(of));

/** Measures of a picture of which something can be counted: a lean that is told counts where no bridge is. */
export const countable = (
  measures: readonly MeasureTold[],
  criteria: readonly Criterion[],
): MeasureName[] =>
  MEASURE_NAMES.filter((name) =>
    measures.some(
      (one) =>
        one.name === name &&
        (name === 'line-up'
          ? one.value !== null
          : SCALES.some(
              ({ by, of, size }) => by === name && criteria.includes(of) && size(one) !== null,
            )),
    ),
  );

/** Scatter of the middle about the usual one, and of the power, both in logarithms; places at which they are tried. */
const [MIDDLES, POWERS] = [0.2, 0.25];
const PLACES = [-2.4, -2, -1.6, -1.2, -0.8, -0.4, 0, 0.4, 0.8, 1.2, 1.6, 2, 2.4];
/** How many scores' worth of belief the usual misfit carries against what is seen of it. */
const MISFIT_WEIGHT = 30;

/**
 * Scores of one picture.
 *
 * @param measures of those that count, as they were kept
 * @param eyes     what people scored of the same print, by which sizes are scored as they are seen; may be empty
 * @returns null where nothing of it can be scored
 */
export function scoresOf(
  measures: readonly MeasureTold[],
  rungs: number,
  criteria: readonly Criterion[],
  eyes: readonly Scores[],
): Told | null {
  const scores: ByCriterion = {};
  const noise: ByCriterion = {};
  for (const scale of SCALES) {
    if (!criteria.includes(scale.of)) continue;
    const told = measures.filter(({ name }) => name === scale.by);
    const sizes = Array.from({ length: rungs }, (_, rung): Sized | null => {
      const one = told.find((each) => each.rung === rung);
      const size = one ? scale.size(one) : null;
      if (!one || size === null) return null;
      return { size: atLeast(size), error: scale.ofValue ? spreadOf(one) : 0 };
    });
    if (sizes.every((one) => one === null)) continue;
    const scored = scoredBy(scale, sizes, eyes);
    scores[scale.of] = scored.map((one) => one && one.score);
    noise[scale.of] = scored.map((one) => one && one.noise);
  }
  return Object.keys(scores).length > 0 ? { scores, noise } : null;
}

const spreadOf = ({ value, spread }: MeasureTold): number =>
  value === null ? 0 : (spread ?? 0) / atLeast(Math.abs(value));

/** Size of a rung's fault, and how far it may be off, as a share. */
type Sized = { size: number; error: number };
type Scored = { score: number; noise: number };

function scoredBy(
  scale: Scale,
  sizes: readonly (Sized | null)[],
  eyes: readonly Scores[],
): (Scored | null)[] {
  const seen = sizes.flatMap((one, rung) => {
    const given = eyes.flatMap((scores) => scores[scale.of]?.[rung] ?? []);
    return one && given.length > 0 ? [{ rung, score: mean(given), count: given.length }] : [];
  });
  const tried = PLACES.flatMap((m) =>
    PLACES.map((p) => {
      const fall = {
        middle: scale.middle * Math.exp(MIDDLES * m),
        power: scale.power * Math.exp(POWERS * p),
      };
      const by = sizes.map((one) => one && fallen(one.size, fall));
      const misfit = seen.reduce(
        (sum, { rung, score, count }) =>
          sum + (score - by[rung]!) ** 2 / (SCORE_NOISE ** 2 / count + scale.misfit ** 2),
        0,
      );
      return { by, fall, log: -0.5 * (misfit + m * m + p * p) };
    }),
  );
  const best = tried.reduce((a, b) => (b.log > a.log ? b : a));
  const weights = tried.map(({ log }) => Math.exp(log - best.log));
  const total = weights.reduce((sum, one) => sum + one, 0);
  const off = misfitOf(scale, best.by, seen);
  return sizes.map((one, rung) => {
    if (!one) return null;
    const score = tried.reduce((sum, { by }, i) => sum + weights[i]! * by[rung]!, 0) / total;
    const steep =
      fallen(one.size * (1 - clamp(one.error, 0, 0.9)), best.fall) -
      fallen(one.size * (1 + one.error), best.fall);
    return { score, noise: Math.sqrt((steep / 2 / EIGHT_OF_TEN) ** 2 + off ** 2) };
  });
}

/** Score 0..4 of a fault of some size: it falls with the logarithm of the size. */
const fallen = (size: number, { middle, power }: { middle: number; power: number }): number =>
  BEST_SCORE / (1 + (size / middle) ** power);

/** What sizes do not tell of how a print looks, by how far the eye's scores are off what they should be; in scores. */
function misfitOf(
  { misfit }: Scale,
  by: readonly (number | null)[],
  seen: readonly { rung: number; score: number; count: number }[],
): number {
  const excess = seen.reduce(
    (sum, { rung, score, count }) => sum + (score - by[rung]!) ** 2 - SCORE_NOISE ** 2 / count,
    0,
  );
  const square = (excess + MISFIT_WEIGHT * misfit ** 2) / (seen.length + MISFIT_WEIGHT);
  return Math.sqrt(Math.max(square, misfit ** 2));
}
