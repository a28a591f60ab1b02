/** Plans of earlier versions, brought up to this one. */

import { short } from '../numbers';
import { SETTINGS, type Setting, type Values } from '../bench/settings';

type Old = Record<string, unknown>;
type OldRung = Old & { set: Values; slope?: number };

/**
 * A plan of any version as one of version 2; what is no plan comes back as it is, for the schema to refuse.
 * Version 1 had no axes: all its rungs stood on one, and the first of a rung's values was the one that climbed.
 */
export function upgraded(data: unknown): unknown {
  if (!isPlain(data) || data.version !== 1 || !isRungs(data.rungs)) return data;
  const { rungs, spec } = data;
  const [setting] = Object.keys(rungs[0]!.set) as [Setting?];
  const climbs = setting !== undefined && (rungs.length > 1 || (isPlain(spec) && 'from' in spec));
  return {
    ...data,
    version: 2,
    view: data.view ?? 'front',
    held: data.held ?? {},
    axes: climbs ? [axisOver(setting, rungs, data.view === 'top' ? 'y' : 'z')] : [],
    rungs: rungs.map(({ slope, ...rung }, i) => ({
      ...rung,
      at: climbs ? [i] : [],
      ...(slope === undefined ? {} : { slope: { [setting!]: slope } }),
    })),
  };
}

function axisOver(setting: Setting, rungs: readonly OldRung[], along: 'y' | 'z') {
  const { title, unit } = SETTINGS[setting] ?? { title: setting, unit: '' };
  const steps = rungs.map(({ set }) => ({ label: short(set[setting] ?? 0), set }));
  return { setting, title, unit, along, steps };
}

const isPlain = (value: unknown): value is Old =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

const isRungs = (value: unknown): value is OldRung[] =>
  Array.isArray(value) &&
  value.length > 0 &&
  value.every((one) => isPlain(one) && isPlain(one.set));
