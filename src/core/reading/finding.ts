/** What readings say of a ladder. */

import type { Criterion } from '../criteria';
import type { Range } from '../ladders/climb';
import type { Ranges } from '../ladders/types';
import { short } from '../numbers';
import { settingInfo, type Setting } from '../bench/settings';
import type { AdvanceMap } from './find-map';
import type { Limits } from './find-limits';
import type { Proof } from './find-proof';

export type Verdict = 'value' | 'no-effect' | 'edge';

/** What is said of one setting. */
export type Proposal = {
  setting: Setting;
  /** Proposed value, snapped to what the machine can take; null unless the verdict is `value`. */
  value: number | null;
  /** Where the best lies in 8 of 10 such findings; null when there is no effect. */
  range: [number, number] | null;
};

export type Finding = {
  verdict: Verdict;
  /** Of every setting that the print tells; the verdict is that of the first. */
  values: [Proposal, ...Proposal[]];
  /** The range is as narrow as the machine's own steps: another ladder would not help. */
  done: boolean;
  /** One sentence for a person. */
  reason: string;
  /** Log evidence of a curve over a constant. */
  evidence: number;
  next: NextLadder | null;
  /** The curve along the first axis: pooled score 0..1 with one standard deviation. */
  curve: { value: number; mean: number; low: number; high: number }[];
  /** What was scored; `loupe` where it came out of a picture. */
  observations: { value: number; score: number; loupe?: true }[];
  /** Other things that were noticed on the way. */
  notes: string[];
  /** Of two settings that were printed together. */
  plane?: Plane;
  /** Of a map: a value for every cell. */
  map?: AdvanceMap;
  /** Of a limit that moves with another setting. */
  limits?: Limits;
  /** Of two sets of values that were compared. */
  proof?: Proof;
  /** Where pictures were measured too. */
  voices?: Voices;
};

/** What eyes and the loupe say of a print. */
export type Voices = {
  /** Eyes alone; null where they say too little. */
  eye: Voice | null;
  /** The loupe for what it can tell, eyes for the rest; null where that is too little. */
  loupe: Voice | null;
  /** What the loupe tells. */
  of: Criterion[];
  /** Rungs of which they say different things, the furthest apart first. */
  apart: Apart[];
};
export type Voice = Pick<Finding, 'verdict' | 'values'>;
/** Scores 0..4 of one rung. */
export type Apart = { rung: number; criterion: Criterion; eye: number; loupe: number };

/** What is known of a plane of two settings; `a` is the first axis, a row of `mean` one of its places. */
export type Plane = {
  a: number[];
  b: number[];
  /** Pooled score, 0..1. */
  mean: number[][];
  best: [a: number, b: number];
  /** Places that hold the joint best in 8 of 10 such findings. */
  region: [a: number, b: number][];
  /** Whether more of the other setting wants more or less of this one; null where it makes no difference. */
  depends: { a: 'rises' | 'falls' | null; b: 'rises' | 'falls' | null };
  /** The best of one setting at each printed value of the other. */
  slices: { a: Slice[]; b: Slice[] };
};
export type Slice = { at: number; best: number; range: [number, number] };

/** The ladder that would make a value surer; `rungs` in all. */
export type NextLadder = {
  ranges: Ranges;
  rungs: number;
  why: string;
  /** Of a grid: what is not in `ranges` stays as it was printed. */
  grid?: true;
  /** Of a grid on which one setting alone matters: a ladder of that setting is next. */
  single?: Setting;
};

/** What the next ladder climbs: `200 to 210 °C by 2, 6 rungs`. */
export function nextInWords({ ranges, rungs, grid }: NextLadder): string {
  const all = (Object.entries(ranges) as [Setting, Range][]).map(
    ([setting, { from, to, step }]) =>
      `${short(from)} to ${short(to)} ${settingInfo(setting).unit} by ${short(step)}`,
  );
  const still = grid && all.length < 2 ? ', the other as it was' : '';
  return `${all.join(' × ')}${still}, ${rungs} ${grid ? 'cells' : 'rungs'}`;
}

/** The range of the next ladder that the first of a finding's settings climbs. */
export const nextRange = ({ values: [{ setting }], next }: Finding): Range | null =>
  next?.ranges[setting] ?? null;
