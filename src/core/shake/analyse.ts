/** From the text of a record to a shaper: read, checked, and what rings found. */

import { short, tidy } from '../numbers';
import { problem, type Problem } from '../result';
import { seeded } from '../random';
import type { Shaper } from '../dialect/shapers';
import { knownPeaks, type KnownPeak } from './kinds-of-peaks';
import type { ShakeMarks } from './marks';
import { BAND, peaksAt, standingIn } from './peaks';
import {
  LIMITS,
  looseOf,
  optionsFor,
  proposalOf,
  rangeNear,
  rangeOf,
  ringingOf,
  type Limits,
  type Option,
  type Proposal,
  type Ringing,
} from './propose';
import { GRAVITY, readRecord, type Given, type ShakeRecord, type Unit } from './record';
import { alignedTo, responseOf, samplesOf, type Response } from './response';
import { faultsOf, gravityOf } from './sensor';
import {
  alike,
  along,
  meanPower,
  shakenOf,
  stretches,
  stretchOf,
  type Direction,
  type Shaken,
  type Spectrum,
  type Stretches,
} from './spectrum';

export type Asked = Given & {
  /** Axis of the machine that was shaken. */
  axis?: 'x' | 'y';
  /** Echo and rounding are told at this acceleration instead of each shaper's largest, mm/s². */
  acceleration?: number;
  limits?: Limits;
  /** Largest acceleration of the machine, mm/s². */
  machine?: number;
  /** Kinds of shaper that the machine takes. */
  kinds?: readonly Shaper[];
  /** What the file that shook it did when. */
  marks?: ShakeMarks;
};

/** How the sensor sits and what it is like, as it tells by itself. */
export type Sensor = {
  /** Gravity at rest, g. */
  weight: number;
  /** Column of the sensor that stands most upright, with the sign of gravity there, and the one that moved most. */
  up: string;
  along: string;
};

export type Analysis = {
  /** What stands against the record; then nothing else is told of it. */
  refused: Problem[];
  unit: Unit | null;
  rate: number | null;
  seconds: number | null;
  /** The axis that was shaken; where nobody said which, the column of the sensor that moved most. */
  axis: 'x' | 'y' | 'z' | null;
  sensor: Sensor | null;
  notes: string[];
  spectrum: Spectrum | null;
  /** Along the direction that was shaken; missing without marks that the record keeps to. */
  response: Response | null;
  peaks: KnownPeak[];
  shapers: Option[];
  proposal: Proposal | null;
  /** What rings in each of several resampled records. */
  drawn: Ringing[];
  /** Of the main peak and of the proposal's acceleration: between which 8 of 10 such records lie. */
  range: {
    hz: [number, number];
    damping: [number, number];
    acceleration: [number, number] | null;
  } | null;
};

const NOTHING: Omit<Analysis, 'refused'> = {
  unit: null,
  rate: null,
  seconds: null,
  axis: null,
  sensor: null,
  notes: [],
  spectrum: null,
  response: null,
  peaks: [],
  shapers: [],
  proposal: null,
  drawn: [],
  range: null,
};
/** A record that moves upright by this many times its level motion was shaken along the wrong axis. */
const UPRIGHT = 1.5;
/** One that moves across by this share of what it moves along was shaken in two directions, one after the other. */
const BOTH = 0.6;
/** Samples for each period of the highest frequency that is told. */
const PER_PERIOD = 2.5;
/** Draws of resampled stretches, and how much a stretch may count more or less than usual. */
const [DRAWS, LOOSE] = [24, 0.12];

export function analyse(text: string, asked: Asked = {}): Analysis {
  const read = readRecord(text, asked);
  if (!read.ok) return { ...NOTHING, refused: read.problems };
  return analyseRecord(read.value, asked);
}

/** Analyses a record that is read already. */
export function analyseRecord(record: ShakeRecord, asked: Asked = {}): Analysis {
  const known = {
    ...NOTHING,
    unit: record.unit,
    rate: record.rate,
    seconds: tidy(record.x.length / record.rate),
    notes: [...record.notes],
  };
  const faults = faultsOf(record);
  if (faults.length > 0) return { ...known, refused: faults };
  const shaken = shakenOf(record);
  if (shaken.spread.upright > UPRIGHT * shaken.spread.along)
    return { ...known, refused: [wrongWay()] };
  const { marks } = asked;
  const aligned = marks ? alignedTo(record, marks) : null;
  if (marks && !aligned)
    known.notes.push(
      'The record does not keep to the times of the shake file, so what was put in when is not known.',
    );
  const highest = Math.min(BAND[1], marks?.sweeps[0]?.steps.at(-1)?.[1] ?? BAND[1]);
  if (record.rate < PER_PERIOD * highest)
    known.notes.push(
      `At ${short(record.rate, 0)} samples a second nothing is told above ${short(record.rate / PER_PERIOD, 0)} Hz.`,
    );
  const band: [number, number] = [BAND[0], Math.min(BAND[1], record.rate / PER_PERIOD)];
  const ends = endsOf(record, marks, aligned);
  const size = stretchOf(ends[1] - ends[0], record.rate);
  if (!size.ok) return { ...known, refused: size.problems };
  const of = (direction: Direction) =>
    stretches(along(record, direction), record.rate, size.value, ...ends);
  const [ahead, aside, upward] = [of(shaken.along), of(shaken.across), of(shaken.up)];
  const both = shaken.spread.across > BOTH * shaken.spread.along;
  const level = both ? added(ahead, aside) : ahead;
  const spectrum = meanPower(level);
  const standing = standingIn(spectrum, band);
  const spectra = { along: spectrum, across: meanPower(aside), upright: meanPower(upward) };
  const peaks = knownPeaks(peaksAt(spectrum, standing, band), spectra, record, shaken);
  const ringing = ringingOf(peaks.filter((peak) => peak.of === 'axis'));
  if (ringing.length === 0) return { ...known, spectrum, peaks, refused: [quiet()] };
  const { limits = LIMITS, acceleration = null, machine, kinds } = asked;
  const shapers = optionsFor([ringing], limits, acceleration, kinds);
  const proposal = proposalOf([ringing], peaks, shapers, limits, machine);
  const drawn = drawnFrom(level, standing, band, peaks);
  return {
    ...known,
    refused: [],
    axis: asked.axis ?? (both ? null : columnOf(shaken.along).name),
    sensor: sensorOf(record, shaken),
    notes: [...known.notes, ...saidOf(peaks, both)],
    spectrum,
    response: responseIn(record, shaken, marks, aligned),
    peaks,
    shapers,
    proposal,
    drawn,
    range: {
      hz: rangeNear(drawn, peaks[0]!.hz, 'hz'),
      damping: rangeNear(drawn, peaks[0]!.hz, 'damping'),
      acceleration: rangeOf([drawn], proposal, limits, machine),
    },
  };
}

/** The part of a record in which the machine was shaken: all of it, where that is not known. */
function endsOf(
  { x }: ShakeRecord,
  marks: ShakeMarks | undefined,
  aligned: ReturnType<typeof alignedTo>,
): [number, number] {
  if (!marks || !aligned) return [0, x.length];
  const [from] = samplesOf(aligned, marks.sweeps[0]!);
  const [, to] = samplesOf(aligned, marks.sweeps.at(-1)!);
  return [Math.max(0, from), Math.min(x.length, to)];
}

const added = (a: Stretches, b: Stretches): Stretches => ({
  step: a.step,
  powers: a.powers.map((power, i) => power.map((one, k) => one + b.powers[i]![k]!)),
});

function responseIn(
  record: ShakeRecord,
  shaken: Shaken,
  marks: ShakeMarks | undefined,
  aligned: ReturnType<typeof alignedTo>,
): Response | null {
  // Two directions, one after the other, have each a response of their own.
  if (!marks || !aligned || marks.sweeps.length > 1) return null;
  return responseOf(along(record, shaken.along), aligned, marks.sweeps[0]!, marks.acceleration);
}

/** What rings when stretches count more or less, as if others had been recorded (D. Rubin, Ann. Stat. 9, 1981). */
function drawnFrom(
  level: Stretches,
  standing: ReturnType<typeof standingIn>,
  band: [number, number],
  peaks: readonly KnownPeak[],
): Analysis['drawn'] {
  const random = seeded(0x5eed);
  const others = peaks.filter((peak) => peak.of !== 'axis');
  return Array.from({ length: DRAWS }, () => {
    const weights = level.powers.map(() => 1 + LOOSE * (-Math.log(1 - random()) - 1));
    const drawn = peaksAt(meanPower(level, weights), standing, band, peaks);
    return ringingOf(
      drawn.filter((one) => others.every((other) => Math.abs(other.hz - one.hz) > 2)),
    );
  }).filter((one) => one.length > 0);
}

/** @param both whether it was shaken in two directions: then two things that ring are no wonder */
function saidOf(peaks: readonly KnownPeak[], both: boolean): string[] {
  const [first, second] = peaks.filter(({ of }) => of === 'axis');
  const loose = both
    ? ['It was shaken in two directions: what rings is told of both together.']
    : first && second && looseOf(first, second)
      ? [
          `A second peak at ${short(second.hz, 0)} Hz is far from the first: look for something loose, or a frame that moves.`,
        ]
      : [];
  const others = peaks.flatMap(({ of, hz }) => {
    if (of === 'steady')
      return [
        `${short(hz, 0)} Hz is there while nothing moves as well: a fan, or a motor that hums.`,
      ];
    if (of === 'panel')
      return [
        `${short(hz, 0)} Hz is sharp and does not go along with the axis: a panel, a cable or a fan mount that rattles.`,
      ];
    return [];
  });
  return [...loose, ...others];
}

const COLUMNS = [
  ['x', [1, 0, 0]],
  ['y', [0, 1, 0]],
  ['z', [0, 0, 1]],
] as const;

function columnOf(direction: Direction): { name: 'x' | 'y' | 'z'; sign: number } {
  const [name, axis] = COLUMNS.reduce((best, one) =>
    alike(direction, [...one[1]]) > alike(direction, [...best[1]]) ? one : best,
  );
  return { name, sign: Math.sign(direction[(axis as readonly number[]).indexOf(1)]!) };
}

function sensorOf(record: ShakeRecord, shaken: Shaken): Sensor {
  const up = columnOf(shaken.up);
  return {
    weight: tidy(Math.hypot(...gravityOf(record)) / GRAVITY),
    up: `${up.sign < 0 ? '−' : ''}${up.name}`,
    along: columnOf(shaken.along).name,
  };
}

const wrongWay = (): Problem =>
  problem(
    'axis',
    'It moved up and down more than level: either gravity stands on the wrong axis, or z was shaken.',
    'Look how the columns are named, and shake x or y.',
  );
const quiet = (): Problem =>
  problem(
    'record',
    'Nothing rings: no frequency stands out.',
    'Look whether the sensor sits on what moves, and whether the shake file ran while it recorded.',
  );

/** A record that is only asked whether the sensor is right. */
export function checkSensor(text: string, given: Given = {}): Problem[] {
  const read = readRecord(text, given);
  return read.ok ? faultsOf(read.value, 'still') : read.problems;
}
