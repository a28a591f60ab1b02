/**
 * Numbers as plastic shows them: always whole. A point is the smallest thing on a print and the first to come off the
 * bed, and “.1” would then be read as “1”; so 0.045 s stands there as 45, in ms.
 */

import { settingInfo, type Setting } from '../bench/settings';
import { short, STEP_SLACK } from '../numbers';
import type { Axis } from './plan';

export type Marks = { unit: string; texts: string[] };

/** Units of whole numbers by the unit of the values: how many of them make one, the coarsest first. */
const FINER: Record<string, readonly (readonly [times: number, unit: string])[]> = {
  s: [[1000, 'ms']],
  '×': [[100, '%']],
  'of full': [[100, '%']],
};

/** Parts that every other unit has. */
const PARTS = [
  [10, 'tenths of'],
  [100, 'hundredths of'],
  [1000, 'thousandths of'],
] as const;
/** Nothing that a machine takes is finer than that. */
const FINEST = 1e6;

const isWhole = (value: number): boolean => Math.abs(value - Math.round(value)) <= STEP_SLACK;

/** Signs for the values of a setting, and the unit in which they are whole numbers. */
export function marksOf(setting: Setting, values: readonly number[]): Marks {
  const { unit } = settingInfo(setting);
  const finer = FINER[unit] ?? PARTS.map(([times, part]) => [times, `${part} ${unit}`] as const);
  const own = FINER[unit] ? [] : [[1, unit] as const];
  const [times, called] = [...own, ...finer].find(([by]) =>
    values.every((value) => isWhole(value * by)),
  ) ?? [FINEST, `millionths of ${unit}`];
  return { unit: called, texts: values.map((value) => String(Math.round(value * times))) };
}

/** What somebody has to know who reads the numbers on a print; null where they are the values themselves. */
export function marksSaid(axes: readonly Axis[]): string | null {
  const said = axes.flatMap(({ setting, marks, unit, steps }) => {
    const step = steps.findLast(({ mark }) => mark !== undefined);
    if (!marks || !step) return [];
    if (setting === null) return [`Signs of a cell are ${marks}: ${step.mark} is ${step.label}.`];
    return [`Numbers on the print are in ${marks}: ${step.mark} stands for ${step.label} ${unit}.`];
  });
  return said.length > 0 ? said.join(' ') : null;
}

/** The signs of an axis, where they are not what its steps are called. */
export function markedSteps(setting: Setting, values: readonly number[]) {
  const { unit, texts } = marksOf(setting, values);
  const labels = values.map((value) => short(value));
  if (texts.every((text, i) => text === labels[i]))
    return { steps: labels.map((label) => ({ label })) };
  return { marks: unit, steps: labels.map((label, i) => ({ label, mark: texts[i]! })) };
}
