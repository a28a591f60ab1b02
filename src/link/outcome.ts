/** How a wire ends, and what becomes of a line that was given to it. */

export type End = {
  why: 'lost' | 'halted' | 'restarted' | 'silent' | 'too-old' | 'spoilt' | 'closed';
  /** In plain words. */
  text: string;
};

/** What became of a line: taken, with what the machine said meanwhile, or the wire has ended. */
export type Outcome = { ok: true; said: string[] } | { ok: false; end: End };
