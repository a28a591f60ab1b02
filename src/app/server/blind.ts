/** Whether a blind proof has been scored: from then on anything may say which part is which. */

import 'server-only';
import { store } from './store';

/** Whether any reading has scores of both parts that a file prints. */
export function bothScored(fileId: number): boolean {
  const { prints, readings } = store();
  return prints.ofFile(fileId).some(({ id }) =>
    readings.ofPrint(id).some((reading) => {
      const rungs = new Set(readings.answered(reading.id).map(({ rung }) => rung));
      return rungs.has(0) && rungs.has(1);
    }),
  );
}
