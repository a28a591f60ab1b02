/** A machine on the wire as pages are shown it. */

import type { Gains } from './bench/gains';
import { isOver, type JobState } from './job-states';
import type { Nudge } from './plan/nudged';
import { HOT } from './warmth';

/** A temperature and what it is to become, °C; NaN where only one of them was told. */
export type Heat = { now: number; target: number };
/** `others` are further nozzles, and the first one where another is at work. */
export type Temperatures = { nozzle?: Heat; bed?: Heat; others?: Heat[] };

export type Progress = {
  state: JobState;
  /** Line of the file that was given last, and the last one that the machine has surely taken. */
  line: number;
  sure: number;
  lines: number;
  /** Why it stands or ended, in words. */
  why: string | null;
  /** Seconds until heat is let go while it stands; null when it is not kept. */
  keepsHeatS: number | null;
  /** What nudges come to that stand in the machine now, mm upward. */
  nudged: number;
  /** It is over, and nobody has seen that heaters were told to be off. */
  hot: boolean;
};

/** A machine that may be hot after something ended: until its temperatures were seen to fall, or a person says so. */
export type Owed = {
  machine: number;
  /** As it was called then. */
  name: string;
  address: string;
  /** What ended while it was warm, as a clause: "the link was lost". */
  why: string;
  /** When that was, ISO. */
  since: string;
  /** Not heard yet; told to be off, and watched; told long ago, and does not get colder. */
  state: 'unheard' | 'told' | 'stuck';
};

/**
 * Seconds since the start of a print; nozzle, its target; bed, its target, °C; the line of the file that the machine
 * had surely taken by then, which prints of before do not say.
 */
export type HeatRow = [
  at: number,
  nozzle: number,
  target: number,
  bed: number,
  bedTarget: number,
  line?: number | undefined,
];

/** Which understudy stands behind an address. */
export type Simulated = { name: string; seed: number };

/** `heat` marks temperatures that come by themselves: of several in a row the last one is kept. */
export type TalkLine = { n: number; from: 'host' | 'machine'; text: string; heat?: true };

/** The machine tunes its own heater: what it had, and what it found when it is done. */
export type Tuning = {
  celsius: number;
  state: 'running' | 'found' | 'applied' | 'failed';
  before: Gains | null;
  found: Gains | null;
  why: string | null;
};

/** Filament is fed slowly, to be measured: how much, and how often it was. */
export type Feeding = {
  mm: number;
  state: 'running' | 'done' | 'failed';
  /** Counts what was fed, so that each is measured once. */
  n: number;
  why: string | null;
};

export type LinkState = {
  machine: number;
  revision: number;
  address: string | null;
  simulated: Simulated | null;
  /** What it says it is. */
  about: string;
  /** `off` where nobody asked for a link; `looking` also after it was lost. */
  link: 'off' | 'looking' | 'ready' | 'busy';
  /** Why there is no link, in words. */
  why: string | null;
  heat: Temperatures;
  /** Minutes that it may be hot and idle. */
  idleMin: number;
  /** Seconds until idle heaters go off; null when none is hot or something is going on. */
  coolsInS: number | null;
  job:
    | (Progress & {
        id: number;
        name: string;
        file: number | null;
        startedAt: string;
        /** What was nudged while it printed, the oldest first. */
        nudges: Nudge[];
      })
    | null;
  tuning: Tuning | null;
  feeding: Feeding | null;
  /** What is still to be seen of its cooling. */
  owed: Owed | null;
  talk: TalkLine[];
};

/** What a machine is doing, in a word or two. */
export function inOneWord(state: LinkState | null): {
  mark: 'off' | 'ready' | 'hot' | 'busy';
  says: string;
} {
  if (!state || state.link === 'off') return { mark: 'off', says: 'off' };
  const { job, link, heat, tuning, feeding } = state;
  if (job && !isOver(job.state)) {
    const share = job.lines > 0 ? Math.floor((100 * job.line) / job.lines) : 0;
    return { mark: 'busy', says: `${JOB_WORDS[job.state] ?? job.state} ${share} %` };
  }
  if (link === 'looking') return { mark: 'off', says: 'being looked for' };
  if (tuning?.state === 'running') return { mark: 'hot', says: 'tuning its heater' };
  if (feeding?.state === 'running') return { mark: 'hot', says: 'feeding' };
  const hottest = Math.max(
    ...[heat.nozzle, heat.bed, ...(heat.others ?? [])].map((one) => one?.now || 0),
  );
  if (hottest >= HOT) return { mark: 'hot', says: `hot, ${Math.round(hottest)} °C` };
  return link === 'busy' ? { mark: 'busy', says: 'busy' } : { mark: 'ready', says: 'ready' };
}

const JOB_WORDS: Partial<Record<JobState, string>> = {
  printing: 'printing',
  pausing: 'pausing at',
  paused: 'paused at',
  stopping: 'stopping at',
  lost: 'not reached, at',
};
