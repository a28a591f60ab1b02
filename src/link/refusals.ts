/** Why something is not done on a machine. */

import { problem } from '../core/result';

/** What helps after an emergency stop. */
export const HALTED = 'Switch the machine off and on, then connect it again.';

export const notPrinting = problem('job', 'Nothing is printing.', 'Load the page again.');
export const notThere = problem(
  'machine',
  'There is no link to this machine.',
  'Connect it first.',
);
export const printing = problem(
  'machine',
  'A print is under way on this machine.',
  'Wait for its end, or stop it.',
);
export const busyNow = problem(
  'machine',
  'The machine is at something that takes its time.',
  'Wait until it is done, or stop everything.',
);
export const notNow = problem(
  'machine',
  'Something else was asked for meanwhile.',
  'Connect it again.',
);
export const underWay = problem(
  'machine',
  'Something is printing, or a machine is at something that takes its time.',
  'Wait for its end, or stop it, then try again.',
);
export const replacing = problem(
  'machine',
  'Other data is being loaded.',
  'Wait until that is done, then try again.',
);
