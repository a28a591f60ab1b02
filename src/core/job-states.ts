/** The states of a file on its way to a machine, every change between them, and what a person may wish in each. */

export type JobState =
  | 'printing'
  /** Somebody wants a pause: the machine comes to rest and moves aside. */
  | 'pausing'
  /** By a press, by the file itself (`M0`), or after the link was lost and found. */
  | 'paused'
  | 'stopping'
  /** The machine is not there, and is being looked for. */
  | 'lost'
  | 'finished'
  | 'stopped'
  | 'failed';

/** What each state may become; a change that is not here is not made. */
export const JOB_NEXT: Readonly<Record<JobState, readonly JobState[]>> = {
  printing: ['pausing', 'stopping', 'lost', 'finished', 'failed'],
  // Its last line may be done while somebody presses.
  pausing: ['paused', 'printing', 'stopping', 'lost', 'finished', 'failed'],
  paused: ['printing', 'stopping', 'lost', 'failed'],
  // Who is lost while it is stopped has failed: what may be hot is looked for, the print is not.
  stopping: ['stopped', 'finished', 'failed'],
  lost: ['paused', 'stopping', 'failed'],
  finished: [],
  stopped: [],
  failed: [],
};

export type Wish = 'pause' | 'go' | 'stop';

/** In which states a person may wish what. */
export const MAY_WISH: Readonly<Record<Wish, readonly JobState[]>> = {
  pause: ['printing', 'pausing', 'paused'],
  go: ['pausing', 'paused'],
  stop: ['printing', 'pausing', 'paused', 'lost'],
};

export const isOver = (state: JobState): boolean => JOB_NEXT[state].length === 0;
