/**
 * Which shaper, at which frequency, lets a machine go fastest before an echo of a corner or a corner that is cut can be
 * seen.
 */

import { quantile, short, tidy } from '../numbers';
import type { KnownPeak } from './kinds-of-peaks';
import type { Peak } from './peaks';
import { SHAPERS, type Shaper } from '../dialect/shapers';
import { residual, rounding, trainOf, type Train } from './trains';

/** What may be seen, mm: the echo of a corner, and how far a corner is cut. */
export type Limits = { echo: number; rounding: number };
export const LIMITS: Limits = { echo: 0.012, rounding: 0.12 };

/** Frequencies that a shaper is tried at, Hz. */
const [FIRST, LAST, STEP] = [15, 150, 0.5];
/** A shaper that gains less than this share over none is not needed. */
const WORTH = 1.1;
/** Under this acceleration, mm/s², no shaper makes a machine out of it. */
const MEND_UNDER = 800;

/**
 * What rings: natural frequencies, Hz, their damping, and how much of a push goes into each; shares add up to 1. The rest
 * of a spectrum is what the machine was shaken with, and does not go on after a corner.
 */
export type Ringing = { hz: number; damping: number; share: number }[];

export function ringingOf(peaks: readonly Peak[]): Ringing {
  const whole = peaks.reduce((sum, { gain }) => sum + gain, 0);
  return peaks.map(({ hz, damping, gain }) => ({ hz, damping, share: gain / whole }));
}

const strongest = (ringing: Ringing): Ringing[number] =>
  ringing.reduce((most, one) => (one.share > most.share ? one : most));

/** What remains of a corner at an acceleration, mm; without a shaper all of it does. */
export const echoOf = (ringing: Ringing, train: Train | null, acceleration: number): number =>
  ringing.reduce((sum, { hz, damping, share }) => {
    const left = train ? residual(train, hz, damping) : 1;
    return sum + share * (acceleration / (2 * Math.PI * hz) ** 2) * left;
  }, 0);

export type Option = {
  type: Shaper;
  hz: number;
  /** Ratio that it is made for. */
  damping: number;
  /** Largest acceleration at which neither is seen, mm/s². */
  acceleration: number;
  /** At that acceleration, or at the one that was asked for, mm. */
  echo: number;
  rounding: number;
  /** The same acceleration if what rings moves by a tenth, up or down: the smaller. */
  moved: number;
};

/**
 * The best frequency of each shaper; the one that allows the most comes first.
 *
 * @param ringings of one axis, or of several that have one shaper together: the worst of them decides
 */
export function optionsFor(
  ringings: readonly Ringing[],
  limits: Limits = LIMITS,
  asked: number | null = null,
  kinds: readonly Shaper[] = SHAPERS,
): Option[] {
  const damping = dampingOf(ringings);
  const worst = (train: Train, moved = 1): number =>
    Math.min(...ringings.map((one) => most(movedBy(one, moved), train, limits)));
  return kinds
    .map((type): Option => {
      let best = { hz: FIRST, acceleration: 0 };
      for (let hz = FIRST; hz <= LAST; hz += STEP) {
        const acceleration = worst(trainOf(type, hz, damping));
        if (acceleration > best.acceleration) best = { hz, acceleration };
      }
      const train = trainOf(type, best.hz, damping);
      const at = asked ?? best.acceleration;
      return {
        type,
        hz: tidy(best.hz),
        damping,
        acceleration: Math.floor(best.acceleration),
        echo: Math.max(...ringings.map((one) => echoOf(one, train, at))),
        rounding: rounding(train, at),
        moved: Math.floor(Math.min(...[0.9, 1.1].map((share) => worst(train, share)))),
      };
    })
    .sort((a, b) => b.acceleration - a.acceleration);
}

const movedBy = (ringing: Ringing, share: number): Ringing =>
  share === 1 ? ringing : ringing.map((one) => ({ ...one, hz: one.hz * share }));

/** A train is made for one damping: that of what rings most, of the first axis. */
const dampingOf = ([first]: readonly Ringing[]): number => strongest(first!).damping;

/** Largest acceleration, mm/s², at which a shaper, or none, lets neither be seen. */
export const allowedBy = (
  ringing: Ringing,
  shaper: { type: Shaper; hz: number; damping: number } | null,
  limits: Limits = LIMITS,
): number =>
  shaper
    ? most(ringing, trainOf(shaper.type, shaper.hz, shaper.damping), limits)
    : limits.echo / Math.max(echoOf(ringing, null, 1), 1e-12);

const most = (ringing: Ringing, train: Train, limits: Limits): number =>
  Math.min(
    limits.echo / Math.max(echoOf(ringing, train, 1), 1e-12),
    limits.rounding / rounding(train, 1),
  );

export type Proposal = {
  answer: 'shaper' | 'none' | 'mend';
  /** The shaper and its frequency; null where none is needed, or none helps. */
  type: Shaper | null;
  hz: number | null;
  damping: number | null;
  acceleration: number;
  /** Without a shaper, mm/s². */
  plain: number;
  why: string;
};

/** What to do: take a shaper, take none, or see to the machine first. */
export function proposalOf(
  ringings: readonly Ringing[],
  known: readonly KnownPeak[],
  options: readonly Option[],
  limits: Limits = LIMITS,
  machine = Infinity,
): Proposal {
  const plain = Math.floor(Math.min(...ringings.map((one) => allowedBy(one, null, limits))));
  const [best] = options as [Option, ...Option[]];
  const peaks = known.filter((peak) => peak.of === 'axis');
  const none = { type: null, hz: null, damping: null, plain };
  const loose = peaks[1] && peaks[0] && looseOf(peaks[0], peaks[1]);
  if (plain >= machine)
    return {
      ...none,
      answer: 'none',
      acceleration: machine,
      why: `Even the machine’s largest acceleration, ${machine} mm/s², makes no echo that is seen.`,
    };
  if (plain * WORTH >= best.acceleration)
    return {
      ...none,
      answer: 'none',
      acceleration: plain,
      why: `Without a shaper ${plain} mm/s² show no echo; with one corners would be cut before much more.`,
    };
  if (best.acceleration < MEND_UNDER)
    return {
      ...none,
      answer: 'mend',
      acceleration: best.acceleration,
      why: loose
        ? `Two things ring far apart, at ${short(peaks[0]!.hz, 0)} and ${short(peaks[1]!.hz, 0)} Hz: no shaper calms both. Look for something loose, or a frame that moves.`
        : `The best shaper allows ${best.acceleration} mm/s² only. Tighten belts and screws, and shake again.`,
    };
  return {
    answer: 'shaper',
    type: best.type,
    hz: best.hz,
    damping: best.damping,
    acceleration: Math.min(machine, best.acceleration),
    plain,
    why: `It allows ${best.acceleration} mm/s²; without a shaper it is ${plain}.`,
  };
}

/** A second peak that is strong and far from the first. */
export const looseOf = (first: Peak, second: Peak): boolean =>
  second.share > 0.15 && Math.abs(Math.log(second.hz / first.hz)) > Math.log(1.4);

/** Fewer draws tell no range. */
export const FEWEST_DRAWN = 8;

/** Between which 8 of 10 draws have what rings nearest to a frequency, Hz. */
export function rangeNear(
  drawn: readonly Ringing[],
  near: number,
  key: 'hz' | 'damping',
): [number, number] {
  const sorted = drawn
    .map((ringing) =>
      ringing.reduce((best, one) =>
        Math.abs(one.hz - near) < Math.abs(best.hz - near) ? one : best,
      ),
    )
    .map((one) => one[key])
    .sort((a, b) => a - b);
  return [tidy(quantile(sorted, 0.1)), tidy(quantile(sorted, 0.9))];
}

/**
 * Between which 8 of 10 records of such machines would put the acceleration of a proposal, mm/s².
 *
 * @param drawn what rings in resampled records, of each axis
 */
export function rangeOf(
  drawn: readonly (readonly Ringing[])[],
  { type, hz, damping }: Proposal,
  limits: Limits,
  machine = Infinity,
): [number, number] | null {
  const count = Math.min(...drawn.map((one) => one.length));
  if (!(count >= FEWEST_DRAWN)) return null;
  const shaper = type && hz !== null && damping !== null ? { type, hz, damping } : null;
  const allowed = Array.from({ length: count }, (_, i) =>
    Math.min(machine, ...drawn.map((one) => allowedBy(one[i]!, shaper, limits))),
  ).sort((a, b) => a - b);
  return [Math.floor(quantile(allowed, 0.1)), Math.ceil(quantile(allowed, 0.9))];
}
