/** How long a machine may be silent over a command. */

export type Patience = {
  /** It may take minutes without a word. */
  long: boolean;
  /** After this silence the machine is given up, ms. */
  limitMs: number;
};

const SECOND_MS = 1000;
const QUICK: Patience = { long: false, limitMs: 20 * SECOND_MS };
/** A move waits for those before it: a buffer full of slow ones. */
const MOVE: Patience = { long: false, limitMs: 90 * SECOND_MS };
const LONG: Patience = { long: true, limitMs: 15 * 60 * SECOND_MS };

/** Heating, homing, levelling, waiting for all moves or for a person, tuning of heaters, filament changes. */
const TAKES_LONG =
  /^(?:G28|G29|G34|G4|M0|M1|M109|M190|M116|M400|M303|M600|M25|M48|M226|M425)\b|^[A-Z_]{3,}/i;
const MOVES = /^G[0-3]\b|^G1[01]\b/i;

export function patienceFor(command: string): Patience {
  if (TAKES_LONG.test(command)) return LONG;
  return MOVES.test(command) ? MOVE : QUICK;
}
