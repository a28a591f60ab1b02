/** Pushing filament without a way: some firmware refuses more than 50 mm of it in one move. */

import { tidy } from '../numbers';

/** Longest push in one move, mm. */
const LONGEST = 40;

/** A length in equal parts that every machine takes, mm; they follow each other without a stop. */
export function pushes(mm: number): number[] {
  const count = Math.max(1, Math.ceil(mm / LONGEST));
  const part = Math.round((mm / count) * 1000) / 1000;
  // What rounding leaves goes into the last one.
  return Array.from({ length: count }, (_, i) =>
    i < count - 1 ? part : tidy(mm - part * (count - 1)),
  );
}
