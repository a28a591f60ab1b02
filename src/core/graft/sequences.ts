/** Retractions of a sliced file: all that is drawn back between two strokes, and what is pushed again. */

import { MOVE, type Trace } from '../gcode/trace';

export type Sequence = {
  section: number;
  /** Filament drawn back and pushed again, mm. */
  drawn: number;
  pushed: number;
  /** Move that draws back last. */
  lastDrawn: number;
  /** Height before and after, and the highest between, mm. */
  low: number;
  high: number;
  top: number;
  /** Whether the head has been brought down again, where it was lifted by what was put in. */
  lowered?: boolean;
};

/** Sequences by their moves, from the first that draws back to the last that pushes; those without a restart are none. */
export function sequencesIn(
  { moves }: Trace,
  sectionOf: (z: number) => number,
): Map<number, Sequence> {
  const found = new Map<number, Sequence>();
  const { kind, e, z, count } = moves;
  let laid = -1;
  let open: (Sequence & { from: number; to: number }) | null = null;
  const close = () => {
    if (open && open.pushed > 0 && open.section !== -1) {
      const { from, to, ...sequence } = open;
      for (let i = from; i <= to; i++) found.set(i, sequence);
    }
    open = null;
  };
  for (let i = 1; i < count; i++) {
    if (kind[i] === MOVE.extrude) {
      close();
      laid = i;
      continue;
    }
    if (kind[i] === MOVE.home) {
      close();
      continue;
    }
    if (e[i]! < 0) {
      // What is drawn back after it was pushed is another one.
      if (open && open.pushed > 0) close();
      const inSection = laid !== -1 && sectionOf(z[laid]!) !== -1 ? sectionOf(z[i]!) : -1;
      open ??= {
        section: inSection,
        drawn: 0,
        pushed: 0,
        lastDrawn: i,
        low: z[i - 1]!,
        high: z[i]!,
        top: z[i]!,
        from: i,
        to: i,
      };
      open.drawn -= e[i]!;
      open.lastDrawn = i;
    }
    if (!open) continue;
    open.top = Math.max(open.top, z[i]!);
    open.high = z[i]!;
    if (e[i]! > 0) {
      open.pushed += e[i]!;
      open.to = i;
    }
  }
  close();
  return found;
}
