/** Acts on a machine, one after the other. Each comes to one end, at the latest when its time is over. */

import { fail, problem, type Result } from '../core/result';
import { ACT_MS, type TimedAct } from './patience';

const tooLate = (act: TimedAct) =>
  fail(
    problem(
      'machine',
      `The machine has not done it within ${Math.round(ACT_MS[act] / 1000)} s. It may still do it.`,
      'Look at the machine, then read its settings again; or stop everything.',
    ),
  );

/** What an act comes to, or that it was given up. @param ms where another time than the table's holds */
export async function inTime<T>(
  act: TimedAct,
  begun: Promise<Result<T>>,
  ms: number = ACT_MS[act],
): Promise<Result<T>> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<Result<T>>((resolve) => {
    timer = setTimeout(() => resolve(tooLate(act)), ms);
  });
  try {
    return await Promise.race([begun, late]);
  } finally {
    clearTimeout(timer);
  }
}

export class Turns {
  private last: Promise<unknown> = Promise.resolve();

  /** The next begins when this has really ended, even where whoever asked was told before that it was given up. */
  take<T>(act: TimedAct, run: () => Promise<Result<T>>): Promise<Result<T>> {
    const begun = this.last.then(run);
    this.last = begun.catch(() => undefined);
    return inTime(act, begun);
  }
}
