/** What commands of a file can change. */

/** Everything that a file can change, in the order of their codes. Temperatures °C, shares 0..1. */
export const CHANGES = [
  'nozzle', // target of the tool in `tool`
  'bed',
  'fan',
  'flow', // multiplier on extrusion
  'pace', // multiplier on speed
  'advance',
  'print', // printing acceleration
  'travel', // travel acceleration
  'x', // jerk
  'y',
  'deviation',
  'square',
  'dz',
  'frequency',
  'damping',
  'steps',
  'rotation',
  'tool',
  'wait-nozzle', // waits until this temperature is reached
  'wait-bed',
  'dwell', // s
  'home', // bit 1 x, 2 y, 4 z
  'motors-off',
  'stored', // settings written to the machine's memory
  'limit', // a kinematic limit of the machine was changed
  'pause', // waits until somebody presses a button
  'macro', // a named command of the machine's own: bit 1 heats, 2 homes, 4 primes, 8 not known
  'type', // kind of the input shaper, by its number in SHAPERS
  'frequency_x',
  'damping_x',
  'type_x',
  'frequency_y',
  'damping_y',
  'type_y',
] as const;
export type Change = (typeof CHANGES)[number];
