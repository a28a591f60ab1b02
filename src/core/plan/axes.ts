/** What climbs on a print, and where a rung stands on it. */

import { saidValue, settingInfo, type Setting, type Values } from '../bench/settings';
import { markedSteps } from './marks';
import type { Axis, PlannedRung, Rung } from './plan';

/** What climbs, and the rungs on it, written or not. */
type Climbing = { axes: readonly Axis[]; rungs: readonly PlannedRung[] };
type Axes = Pick<Climbing, 'axes'>;

/** A place on every axis with the values that meet there. */
export type Cell = { at: number[]; set: Values };

/** An axis on which one setting climbs. `also` gives what else a step sets. */
export function axisOf(
  setting: Setting,
  values: readonly number[],
  along: Axis['along'],
  also: (value: number) => Values = () => ({}),
): Axis {
  const { title, unit } = settingInfo(setting);
  const { marks, steps } = markedSteps(setting, values);
  return {
    setting,
    title,
    unit,
    ...(marks ? { marks } : {}),
    along,
    steps: steps.map((step, i) => ({
      ...step,
      set: { [setting]: values[i]!, ...also(values[i]!) },
    })),
  };
}

/** Every place that the axes have, the first axis slowest; one place without values where there is no axis. */
export function cellsOf(axes: readonly Axis[]): Cell[] {
  let cells: Cell[] = [{ at: [], set: {} }];
  for (const { steps } of axes)
    cells = cells.flatMap(({ at, set }) =>
      steps.map((step, i) => ({ at: [...at, i], set: { ...set, ...step.set } })),
    );
  return cells;
}

/** The value that a rung has on an axis; null on an axis of named sets. The only way to a rung's value. */
export const valueOn = (axis: Axis, { set }: Pick<Rung, 'set'>): number | null =>
  axis.setting === null ? null : (set[axis.setting] ?? null);

/** The values of all rungs on an axis, in the order of the rungs; on an axis of named sets the number of the step. */
export const valuesOn = (axis: Axis, { axes, rungs }: Climbing): number[] =>
  rungs.map((rung) => valueOn(axis, rung) ?? rung.at[axes.indexOf(axis)]!);

/** What a print climbs first and foremost; null where something is measured. */
export const leadAxis = ({ axes }: Axes): Axis | null => axes[0] ?? null;

/** The values of all rungs on the first axis; one for each rung where nothing climbs. */
export function leadValues(plan: Climbing): number[] {
  const lead = leadAxis(plan);
  return lead ? valuesOn(lead, plan) : plan.rungs.map(({ index }) => index);
}

/** What a print climbs first at a height within one of its rungs; the number of the rung where nothing climbs. */
export function leadAt(
  plan: Axes,
  rung: Pick<Rung, 'index' | 'set' | 'at' | 'slope' | 'z'>,
  height: number,
): number {
  const lead = leadAxis(plan);
  if (!lead) return rung.index;
  const value = valueOn(lead, rung) ?? rung.at[0]!;
  const perMm = lead.setting ? (rung.slope?.[lead.setting] ?? 0) : 0;
  return perMm === 0 ? value : value + perMm * (height - (rung.z.from + rung.z.to) / 2);
}

/** A rung as people call it: `205 °C`, `205 °C · 4 mm`, `before`. Without an axis, the values that it has. */
export function rungName(axes: readonly Axis[], { at, set }: Pick<Rung, 'at' | 'set'>): string {
  const said = axes.map(({ steps, unit }, i) => `${steps[at[i]!]!.label} ${unit}`.trim());
  return said.length > 0 ? said.join(' · ') : valuesInWords(set);
}

/** A rung as people call it, without units. */
export const rungLabel = (
  axes: readonly Axis[],
  { at, index }: Pick<Rung, 'at' | 'index'>,
): string => axes.map(({ steps }, i) => steps[at[i]!]!.label).join(' · ') || `${index + 1}`;

/** What stands in plastic beside a rung, where that is not what it is called. */
export function rungMark(axes: readonly Axis[], { at }: Pick<Rung, 'at'>): string | null {
  const marks = axes.flatMap(({ steps }, i) => steps[at[i]!]!.mark ?? []);
  return marks.length > 0 ? marks.join(' · ') : null;
}

/** Values with their titles and units, in one line. */
export const valuesInWords = (set: Values): string =>
  (Object.entries(set) as [Setting, number][])
    .map(([setting, value]) => {
      const { title } = settingInfo(setting);
      return `${title} ${saidValue(setting, value)}`;
    })
    .join(', ');

/** Whether `all` has every value of `some`. */
export const sameValues = (all: Values, some: Values): boolean =>
  (Object.entries(some) as [Setting, number][]).every(([setting, value]) => all[setting] === value);
