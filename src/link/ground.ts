/** What a part of a held machine may do with the whole. */

import type { Simulated } from '../core/link-state';
import type { Problem, Result } from '../core/result';
import type { Machine } from './machine';
import type { TimedAct } from './patience';

type Take = <T>(act: TimedAct, run: (machine: Machine) => Promise<Result<T>>) => Promise<Result<T>>;

export type Ground = {
  id: number;
  machine: () => Machine | null;
  simulated: () => Simulated | null;
  /** Why nothing else may be begun now; null where something may. */
  busy: () => Problem | null;
  /** One after the other, and only on a machine that is there and does not print. */
  queue: Take;
  /** The same, and refused while the machine is at something that takes minutes. */
  idle: Take;
  /** Said before anything heats. */
  willBeWarm: () => void;
  /** Somebody is there. */
  touched: () => void;
  tell: () => void;
};
