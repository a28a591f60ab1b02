/**
 * What was nudged while a print was under way: the nozzle was moved nearer to the bed, or further off, by hand. A rung
 * that was printed after it stood at another height than its file says.
 */

import { short, tidy } from '../numbers';
import type { Plan, Rung } from './plan';

export type Nudge = {
  /** Line of the file that was given last before it. */
  line: number;
  /** By how much, and what all nudges come to with it, mm; upward is positive. */
  mm: number;
  total: number;
  /** Where the head was told to be, mm on the bed; null where the file had not said it yet. */
  x: number | null;
  y: number | null;
  at: string;
};

/** How low all nudges may come to, mm, from a line of the file on. */
export type Floor = { line: number; least: number };

/** The lowest that nudges may come to while a line prints; null where nothing says so. */
export const floorAt = (floors: readonly Floor[], line: number): number | null =>
  (floors.findLast((one) => one.line <= line) ?? floors[0])?.least ?? null;

/** Lines of the file that print a rung: the last is taken to be as long as the one before it. */
function spans(rungs: readonly Rung[]): Map<number, { from: number; to: number }> {
  const inOrder = [...rungs].sort((a, b) => a.line - b.line);
  const longest = Math.max(1, ...inOrder.slice(1).map((rung, i) => rung.line - inOrder[i]!.line));
  return new Map(
    inOrder.map(({ index, line }, i) => {
      const next = inOrder[i + 1]?.line;
      return [index, { from: line, to: next ?? line + longest }];
    }),
  );
}

/** How much higher than its file says each rung was printed, mm: the mean over its lines, by the index of the rung. */
export function nudgedBy(rungs: readonly Rung[], nudges: readonly Nudge[]): Map<number, number> {
  const higher = new Map<number, number>();
  for (const [index, { from, to }] of spans(rungs)) {
    const share = (line: number) => Math.min(1, Math.max(0, (to - line - 1) / (to - from)));
    higher.set(
      index,
      nudges.reduce((sum, { line, mm }) => sum + mm * share(line), 0),
    );
  }
  return higher;
}

/**
 * A first-layer ladder as it was really printed: its rungs at the heights that they had, under the names that say so.
 * What stands in plastic stays beside them. Any other print, and one that nobody nudged, is itself.
 */
export function asNudged(plan: Plan, nudges: readonly Nudge[]): Plan {
  const [axis, ...others] = plan.axes;
  if (!axis || axis.setting !== 'zOffset' || others.length > 0 || nudges.length === 0) return plan;
  const higher = nudgedBy(plan.rungs, nudges);
  const really = (index: number, asked: number): number =>
    tidy(Math.round((asked + higher.get(index)!) * 1000) / 1000);
  const rungs = plan.rungs.map((rung) => ({
    ...rung,
    set: { ...rung.set, zOffset: really(rung.index, rung.set.zOffset!) },
  }));
  const steps = axis.steps.map((step, i) => {
    const rung = rungs.find(({ at }) => at[0] === i);
    if (!rung || rung.set.zOffset === step.set.zOffset) return step;
    const value = rung.set.zOffset;
    return {
      ...step,
      label: short(value),
      mark: step.mark ?? step.label,
      set: { ...step.set, zOffset: value },
    };
  });
  // What the numbers in plastic stand for holds no longer.
  const { marks: _marks, ...rest } = axis;
  return { ...plan, axes: [{ ...rest, steps }], rungs };
}

/** The height that was in force when a print ended, or the last that it came to, mm; null where nothing was nudged. */
export function lastHeight(
  plan: Pick<Plan, 'rungs'>,
  nudges: readonly Nudge[],
  line: number,
): number | null {
  const total = nudges.at(-1)?.total;
  if (total === undefined) return null;
  const inOrder = [...plan.rungs].sort((a, b) => a.line - b.line);
  const rung = inOrder.findLast((one) => one.line <= line) ?? inOrder[0]!;
  return tidy((rung.set.zOffset ?? 0) + total);
}

/** A copy of a file with the nudges in it, as a machine has executed it. `command` gives the line for one. */
export function withNudges(
  text: string,
  nudges: readonly Nudge[],
  command: (mm: number) => string | null,
): string {
  if (nudges.length === 0) return text;
  const lines = text.split('\n');
  for (const { line, mm } of [...nudges].reverse()) {
    const told = command(mm);
    if (told !== null) lines.splice(line, 0, told);
  }
  return lines.join('\n');
}
