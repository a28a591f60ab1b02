/** Whether a blind proof has been scored: from then on anything may say which part is which. */

import 'server-only';
import { FEWEST } from '@/core/reading/find-proof';
import { store } from './store';

/** Whether any reading has scores of both parts that a file prints, of as many criteria as the finding waits for. */
export function bothScored(fileId: number): boolean {
  const { prints, readings } = store();
  return prints.ofFile(fileId).some(({ id }) =>
    readings.ofPrint(id).some((reading) => {
      const scores = Object.values(readings.scores(reading.id, 2));
      return scores.filter(([a, b]) => a !== null && b !== null).length >= FEWEST;
    }),
  );
}
