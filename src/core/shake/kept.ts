/**
 * What is kept of a shake: what was found in a record, or from the distance of echoes on a print, without the samples. All
 * that is proposed follows from it, for whatever may be seen.
 */

import { z } from 'zod';
import type { Shaping } from '../bench/shaper';
import type { Shaper } from '../dialect/shapers';
import { clamp, tidy } from '../numbers';
import { normal, seeded } from '../random';
import type { Analysis } from './analyse';
import { UNITS } from './record';
import { smoothed } from './peaks';
import {
  allowedBy,
  LIMITS,
  optionsFor,
  proposalOf,
  rangeNear,
  rangeOf,
  FEWEST_DRAWN,
  ringingOf,
  type Limits,
  type Option,
  type Proposal,
} from './propose';

const finite = z.number();
const Peak = z.object({
  hz: z.number().positive().max(400),
  damping: z.number().positive().max(1),
  share: z.number().min(0).max(1),
  width: z.number().min(0),
  gain: z.number().min(0),
  of: z.enum(['axis', 'panel', 'steady']),
});
const Mode = z.object({
  hz: z.number().positive(),
  damping: z.number().positive().max(1),
  share: z.number().min(0).max(1),
});

/** Steps of a kept spectrum, Hz, and where it ends. */
export const [KEPT_STEP, KEPT_TO] = [0.5, 150];
const MOST_POINTS = 400;
/** Over so many Hz it is smoothed: a sweep goes in steps that say nothing of a machine. */
const LOOKED_AT_HZ = 2;

export const KeptShake = z.object({
  from: z.enum(['record', 'echoes']),
  /** Samples a second, and how long, s. */
  rate: z.number().positive().nullable(),
  seconds: z.number().positive().nullable(),
  unit: z.enum(UNITS).nullable(),
  sensor: z.object({ weight: finite, up: z.string().max(4), along: z.string().max(4) }).nullable(),
  notes: z.array(z.string().max(300)).max(20),
  /** Powers at 0, 0.5, 1 … Hz, as shares of the highest. */
  spectrum: z.array(z.number().min(0)).max(MOST_POINTS).nullable(),
  response: z
    .object({ hz: z.array(finite).max(MOST_POINTS), ratio: z.array(finite).max(MOST_POINTS) })
    .nullable(),
  peaks: z.array(Peak).min(1).max(10),
  /** What rings in each of several resampled records. */
  drawn: z.array(z.array(Mode).min(1).max(10)).max(60),
});
export type KeptShake = z.infer<typeof KeptShake>;

/** What is kept of an analysis that refused nothing. */
export function keptOf({
  rate,
  seconds,
  unit,
  sensor,
  notes,
  spectrum,
  response,
  peaks,
  drawn,
}: Analysis): KeptShake {
  return {
    from: 'record',
    rate,
    seconds,
    unit,
    sensor,
    notes: notes.slice(0, 20),
    spectrum: spectrum && thinned(spectrum),
    response: response && {
      hz: response.hz.slice(0, MOST_POINTS),
      ratio: response.ratio.slice(0, MOST_POINTS).map((one) => Math.round(1e4 * one) / 1e4),
    },
    peaks: peaks.slice(0, 10),
    drawn,
  };
}

/** Smoothed and coarser, for looking at. */
function thinned(spectrum: NonNullable<Analysis['spectrum']>): number[] {
  const smooth = smoothed(spectrum, LOOKED_AT_HZ);
  const last = Math.min(KEPT_TO, (smooth.length - 1) * spectrum.step);
  const powers = Array.from({ length: Math.floor(last / KEPT_STEP) + 1 }, (_, k) => {
    const at = (k * KEPT_STEP) / spectrum.step;
    const [low, share] = [Math.floor(at), at - Math.floor(at)];
    const next = smooth[Math.min(smooth.length - 1, low + 1)]!;
    return smooth[low]! + share * (next - smooth[low]!);
  });
  const most = Math.max(...powers.slice(Math.ceil(5 / KEPT_STEP)), Number.MIN_VALUE);
  return powers.map((one) => Math.round((1e5 * Math.min(one, most)) / most) / 1e5);
}

/** Damping of usual frames, where nobody has measured it, and how far it may differ. */
const [USUAL_DAMPING, DAMPING_OFF] = [0.08, 0.03];
const DRAWS = 40;

/**
 * What is known of an axis from echoes on a print.
 *
 * @param hz  frequency that their distance tells, Hz; @param off how far it may differ, Hz (one standard deviation)
 */
export function fromEchoes(hz: number, off: number): KeptShake {
  const random = seeded(Math.round(1000 * hz));
  const drawn = Array.from({ length: DRAWS }, () => [
    {
      hz: tidy(Math.max(1, hz + off * normal(random))),
      damping: clamp(USUAL_DAMPING + DAMPING_OFF * normal(random), 0.02, 0.2),
      share: 1,
    },
  ]);
  return {
    from: 'echoes',
    rate: null,
    seconds: null,
    unit: null,
    sensor: null,
    notes: [
      'From the distance of echoes on a print: a second frequency would not be seen there, and damping is that of usual frames.',
    ],
    spectrum: null,
    response: null,
    peaks: [
      {
        hz: tidy(hz),
        damping: USUAL_DAMPING,
        share: 1,
        width: tidy(2 * USUAL_DAMPING * hz),
        gain: 1,
        of: 'axis',
      },
    ],
    drawn,
  };
}

export type Given = {
  limits?: Limits;
  /** Largest acceleration of the machine, mm/s². */
  machine?: number;
  kinds?: readonly Shaper[];
};

/**
 * Largest acceleration, mm/s², at which neither is seen, with the shapers that a print was made with.
 *
 * @param axes what is known of each axis, and the shaper that it had; null for none
 */
export function foreseen(
  axes: readonly { shake: KeptShake; shaping: Shaping | null }[],
  limits: Limits = LIMITS,
): number | null {
  const allowed = axes.flatMap(({ shake, shaping }) => {
    const ringing = ringingOf(shake.peaks.filter(({ of }) => of === 'axis'));
    return ringing.length > 0 ? [allowedBy(ringing, shaping, limits)] : [];
  });
  return allowed.length > 0 ? Math.floor(Math.min(...allowed)) : null;
}

/** What somebody takes of a proposal: the shaper, null for none, and the acceleration that goes with it, mm/s². */
export type Picked = { shaping: Shaping | null; acceleration: number };

/**
 * @param type    a kind other than the one that is proposed
 * @returns null where the machine is to be mended first, and no kind was chosen all the same
 */
export function pickedFrom(
  { shapers, proposal }: Proposed,
  type: Shaper | null,
  machine = Infinity,
): Picked | null {
  if (proposal.answer === 'mend' && !type) return null;
  const chosen = shapers.find((one) => one.type === (type ?? proposal.type));
  if (!chosen) return { shaping: null, acceleration: proposal.acceleration };
  const { hz, damping, acceleration } = chosen;
  return {
    shaping: { type: chosen.type, hz, damping },
    acceleration: Math.min(machine, acceleration),
  };
}

/** Between which 8 of 10 such records put the main peak, Hz; null where too little was drawn. */
export function peakRange({ peaks, drawn }: KeptShake): [number, number] | null {
  const main = peaks.find(({ of }) => of === 'axis');
  return main && drawn.length >= FEWEST_DRAWN ? rangeNear(drawn, main.hz, 'hz') : null;
}

/** What is proposed for one axis, or for both at once on a machine that knows one shaper only. */
export type Proposed = {
  shapers: Option[];
  proposal: Proposal;
  /** Acceleration of the proposal: between which 8 of 10 such records lie. */
  range: [number, number] | null;
};

/** @param shakes of one axis, or of both */
export function proposedFor(shakes: readonly KeptShake[], given: Given = {}): Proposed | null {
  const { limits = LIMITS, machine = Infinity, kinds } = given;
  const ringings = shakes.map(({ peaks }) => ringingOf(peaks.filter(({ of }) => of === 'axis')));
  if (ringings.length === 0 || ringings.some((one) => one.length === 0)) return null;
  const shapers = optionsFor(ringings, limits, null, kinds);
  const proposal = proposalOf(
    ringings,
    shakes.flatMap(({ peaks }) => peaks),
    shapers,
    limits,
    machine,
  );
  return {
    shapers,
    proposal,
    range: rangeOf(
      shakes.map(({ drawn }) => drawn),
      proposal,
      limits,
      machine,
    ),
  };
}
