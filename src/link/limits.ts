/** How much and how long a wire bears. */

/** Lines that are kept for sending again. */
export const KEPT = 4000;
/** A line that no machine may execute: its number is far ahead, and the answer names the line that is expected. */
export const AHEAD = 500_000;
export const PATIENCE_MS = 200;
/** How often what is late is looked for, ms; more often where little patience is asked for. */
export const TICK_MS = 20;
/** A command that may take minutes is asked about only after such a silence, ms. */
export const LONG_SILENCE_MS = 10_000;
/** Who talks without a break and leaves an answer out is asked after this at the latest, ms; six times that for what takes long. */
export const LATEST_ASKED_MS = 10_000;
/** A line that has begun to come is waited for so long, ms. */
export const COMING_MS = 300;
/** Longest that is sent at once ahead of an answer, bytes: usual machines hold 128. */
export const MOST_BYTES = 120;
/** Most lines ahead of an answer, whatever a machine offers. */
export const MOST_AHEAD = 16;
/** Lines that are kept of what was said to one command. */
export const MOST_SAID = 5000;
/** So often in a row a line may come damaged; more is no accident of the cable. */
export const MOST_AGAIN = 60;
/** So often a machine may contradict itself before it is believed. */
export const MOST_AGAINST = 3;
/** Longest line from the machine, characters. */
export const LONGEST_HEARD = 8192;
/** How often a machine that counts no lines is looked after, ms. */
export const PLAIN_TICK_MS = 100;
