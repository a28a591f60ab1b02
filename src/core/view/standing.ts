/** Where a ladder and its rungs will stand on a screen, before any picture of it is drawn: its place is kept. */

import type { Bench } from '../bench/bench';
import { makeLadder } from '../ladders/make';
import { marksSaid } from '../plan/marks';
import type { PlannedRung } from '../plan/plan';
import { draftView } from './draft';
import { AIR, onSharedAxis, type OnSharedAxis } from './shared-axis';

/** `width`, mm, leaves out the air that a picture has on both sides. */
export type Standing = OnSharedAxis<PlannedRung> & {
  /** What the numbers on the print stand for; null where they are the values, or where that is not known yet. */
  marks: string | null;
};

/** A draft is drawn so coarsely where only its size is wanted. */
const COARSE = 4;

/** @returns null for a ladder that cannot be made */
export function standingOf(
  kind: string,
  spec: Record<string, number>,
  bench: Bench,
): Standing | null {
  const draft = draftView(kind, spec, bench, COARSE);
  if (draft) {
    if (!draft.ok) return null;
    const { ok: _, picture, ...stands } = draft;
    return { ...stands, width: picture.width / picture.pxPerMm - 2 * AIR, marks: null };
  }
  const made = makeLadder(kind, spec, bench);
  if (!made.ok) return null;
  const { plan } = made.value;
  return { ...onSharedAxis(plan), marks: marksSaid(plan.axes) };
}
