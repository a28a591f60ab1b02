/** From the text of a record to a shaper: read, checked, and what rings found. */

import { problem, type Problem } from '../result';
import { peaksOf, type Peak } from './peaks';
import {
  LIMITS,
  optionsFor,
  proposalOf,
  ringingOf,
  type Limits,
  type Option,
  type Proposal,
} from './propose';
import { readRecord, type Given, type Unit } from './record';
import { faultsOf } from './sensor';
import { alike, along, shakenOf, stretchOf, welch, type Spectrum } from './spectrum';

export type Asked = Given & {
  /** Axis of the machine that was shaken. */
  axis?: 'x' | 'y';
  /** Echo and rounding are told at this acceleration instead of each shaper's largest, mm/s². */
  acceleration?: number;
  limits?: Limits;
  /** Largest acceleration of the machine, mm/s². */
  machine?: number;
};

export type Analysis = {
  /** What stands against the record; then nothing else is told of it. */
  refused: Problem[];
  unit: Unit | null;
  rate: number | null;
  /** The axis that was shaken; where nobody said which, the column of the sensor that moved most. */
  axis: 'x' | 'y' | 'z' | null;
  notes: string[];
  spectrum: Spectrum | null;
  peaks: Peak[];
  shapers: Option[];
  proposal: Proposal | null;
};

const NOTHING: Omit<Analysis, 'refused'> = {
  unit: null,
  rate: null,
  axis: null,
  notes: [],
  spectrum: null,
  peaks: [],
  shapers: [],
  proposal: null,
};
/** A record that moves upright by this many times its level motion was shaken along the wrong axis. */
const UPRIGHT = 1.5;

export function analyse(text: string, asked: Asked = {}): Analysis {
  const read = readRecord(text, asked);
  if (!read.ok) return { ...NOTHING, refused: read.problems };
  const record = read.value;
  const known = { ...NOTHING, unit: record.unit, rate: record.rate, notes: record.notes };
  const faults = faultsOf(record);
  if (faults.length > 0) return { ...known, refused: faults };
  const shaken = shakenOf(record);
  if (shaken.spread.upright > UPRIGHT * shaken.spread.along)
    return { ...known, refused: [wrongWay()] };
  const size = stretchOf(record.x.length, record.rate);
  if (!size.ok) return { ...known, refused: size.problems };
  const spectrum = welch(along(record, shaken.along), record.rate, size.value);
  const peaks = peaksOf(spectrum);
  if (peaks.length === 0) return { ...known, spectrum, refused: [quiet()] };
  const ringing = ringingOf(peaks);
  const { limits = LIMITS, acceleration = null, machine } = asked;
  const shapers = optionsFor(ringing, limits, acceleration);
  return {
    ...known,
    refused: [],
    axis: asked.axis ?? columnOf(shaken.along),
    spectrum,
    peaks,
    shapers,
    proposal: proposalOf(ringing, peaks, shapers, limits, machine),
  };
}

const columnOf = (direction: [number, number, number]): 'x' | 'y' | 'z' =>
  (
    [
      ['x', [1, 0, 0]],
      ['y', [0, 1, 0]],
      ['z', [0, 0, 1]],
    ] as const
  ).reduce((best, one) =>
    alike(direction, [...one[1]]) > alike(direction, [...best[1]]) ? one : best,
  )[0];

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
