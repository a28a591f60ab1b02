/** How long a machine is waited for, everywhere: one table. */

const SECOND_MS = 1000;
const MINUTE_MS = 60 * SECOND_MS;

export type Patience = {
  /** It may take minutes without a word. */
  long: boolean;
  /** Without any sign of life for so long the machine is given up, ms. */
  silentMs: number;
  /** A machine that speaks, but never of what it was asked, is given up after this, ms. */
  mostMs: number;
};

const QUICK: Patience = { long: false, silentMs: 30 * SECOND_MS, mostMs: 2 * MINUTE_MS };
/** A move waits for those before it: a buffer full of slow ones. */
const MOVE: Patience = { long: false, silentMs: 75 * SECOND_MS, mostMs: 10 * MINUTE_MS };
/** Homing, levelling, waiting for all moves or for a person, filament changes. */
const LONG: Patience = { long: true, silentMs: 75 * SECOND_MS, mostMs: 60 * MINUTE_MS };
/** Some say nothing at all while they heat. */
const HEAT: Patience = { long: true, silentMs: 19 * MINUTE_MS, mostMs: 120 * MINUTE_MS };

const HEATS = /^(?:M109|M190|M191|M116|M303)\b|^(?:TEMPERATURE_WAIT|PID_CALIBRATE)\b/i;
const TAKES_LONG = /^(?:G28|G29|G34|G4|M0|M1|M400|M600|M25|M48|M226|M425)\b|^[A-Z_]{3,}/i;
const MOVES = /^G[0-3]\b|^G1[01]\b/i;

/** Whether a command waits until something is warm. */
export const waitsForHeat = (command: string): boolean => HEATS.test(command);

export function patienceFor(command: string): Patience {
  if (waitsForHeat(command)) return HEAT;
  if (TAKES_LONG.test(command)) return LONG;
  return MOVES.test(command) ? MOVE : QUICK;
}

/** The greatest patience that any of several commands needs. @param hurry divides the times, for tests */
export function patienceForAll(commands: readonly string[], hurry = 1): Patience {
  let most = QUICK;
  for (const command of commands) {
    const one = patienceFor(command);
    if (one.silentMs > most.silentMs) most = one;
  }
  return hurry === 1
    ? most
    : { long: most.long, silentMs: most.silentMs / hurry, mostMs: most.mostMs / hurry };
}

/** How long each act on a machine may take before whoever asked is told that it was given up, ms. */
export const ACT_MS = {
  settings: 50 * SECOND_MS,
  apply: 50 * SECOND_MS,
  store: 50 * SECOND_MS,
  heat: 30 * SECOND_MS,
  talk: 50 * SECOND_MS,
  nudge: 30 * SECOND_MS,
  feed: 6 * MINUTE_MS,
  tune: 20 * MINUTE_MS,
  'apply-tuning': 50 * SECOND_MS,
  print: 50 * SECOND_MS,
  cool: 30 * SECOND_MS,
} as const;
export type TimedAct = keyof typeof ACT_MS;

/**
 * How long somebody is waited for, ms. What a silence takes, and a search after it, is less than two minutes together:
 * then `ash send` has given up.
 */
export const WAITS_MS = {
  /** A connection to come about. */
  opens: 8 * SECOND_MS,
  /** A machine to come up after its port was opened: some restart then. */
  comesUp: 12 * SECOND_MS,
  /** Each speed of a serial port to be tried. */
  speed: 3500,
  /** As long as it says anything, one that heats or homes may take until it answers. */
  comesUpBusy: 10 * MINUTE_MS,
  /** One that was lost to say what it has. */
  asked: 8 * SECOND_MS,
  /** Heaters to be told off over the connection that there is. */
  toldOff: 20 * SECOND_MS,
  /** Everything to end when the program ends. */
  ends: 8 * SECOND_MS,
} as const;
