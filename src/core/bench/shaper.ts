/** Input shapers of a machine: for each axis of its own, one for both, or none; as values of its settings. */

import { SHAPERS, type Shaper } from '../dialect/shapers';
import type { Dialect } from '../dialect/dialect';
import { choicesIn, variablesOf } from '../dialect/template';
import type { Setting, Values } from './settings';

/** One axis: the kind of its shaper, the natural frequency that it is set to, Hz, and the damping, a ratio. */
export type Shaping = { type: Shaper; hz: number; damping: number };
export type AxisName = 'x' | 'y';
export const AXIS_NAMES: readonly AxisName[] = ['x', 'y'];

/** Settings that make up a shaper: of both axes, or of one. */
export const SHAPER_SETTINGS = {
  both: { hz: 'shaper', type: 'shaperType', damping: 'shaperDamping' },
  x: { hz: 'shaperX', type: 'shaperTypeX', damping: 'shaperDampingX' },
  y: { hz: 'shaperY', type: 'shaperTypeY', damping: 'shaperDampingY' },
} as const satisfies Record<string, Record<keyof Shaping, Setting>>;
type Part = keyof typeof SHAPER_SETTINGS;

/** What stands on a shaper stands on its frequency. */
export const SHAPER_FREQUENCIES = Object.values(SHAPER_SETTINGS).map(({ hz }) => hz);

/** Whether a machine has a shaper for each axis, knows one frequency for both, or cannot be told any. */
export function shaperWay({
  shaper,
  shaperX,
  shaperY,
}: Pick<Dialect, 'shaper' | 'shaperX' | 'shaperY'>): 'axes' | 'both' | 'none' {
  if (shaperX !== '' && shaperY !== '') return 'axes';
  return shaper === '' ? 'none' : 'both';
}

const partsOf = (dialect: Dialect): Part[] =>
  ({ axes: ['x', 'y'], both: ['both'], none: [] })[shaperWay(dialect)] as Part[];
const rowOf = (dialect: Dialect, part: Part): string =>
  ({ both: dialect.shaper, x: dialect.shaperX, y: dialect.shaperY })[part];
const partOf = (dialect: Dialect, axis: AxisName): Part =>
  shaperWay(dialect) === 'axes' ? axis : 'both';

/**
 * Kinds that a machine takes for an axis. One that asks for no kind knows two impulses; where no command is known, any
 * may be entered by hand.
 */
export function kindsTaken(dialect: Dialect, axis: AxisName): Shaper[] {
  if (shaperWay(dialect) === 'none') return [...SHAPERS];
  const part = partOf(dialect, axis);
  const taken = choicesIn(rowOf(dialect, part), part === 'both' ? 'type' : `type_${part}`);
  return taken ? taken.flatMap((value) => SHAPERS[value] ?? []) : ['ZV'];
}

/** Values that set a shaper of an axis; of both at once on a machine that knows one only. Null sets none. */
export function shaperValues(dialect: Dialect, axis: AxisName, shaping: Shaping | null): Values {
  const part = shaperWay(dialect) === 'both' ? 'both' : axis;
  const { hz, type, damping } = SHAPER_SETTINGS[part];
  if (!shaping) return { [hz]: 0 };
  // A machine that is asked for no kind, or no damping, has its own.
  const row = variablesOf(rowOf(dialect, part)).map((name) => name.replace(/_[xy]$/, ''));
  const said = (name: string) => row.length === 0 || row.includes(name);
  return {
    [hz]: shaping.hz,
    ...(said('type') ? { [type]: SHAPERS.indexOf(shaping.type) } : {}),
    ...(said('damping') ? { [damping]: shaping.damping } : {}),
  };
}

/** Values that switch every shaper off that the machine can be told of. */
export const noShaper = (dialect: Dialect): Values =>
  Object.fromEntries(partsOf(dialect).map((part) => [SHAPER_SETTINGS[part].hz, 0]));

/** What values say of the shaper of an axis; null where they say nothing, or none. */
export function shapingIn(dialect: Dialect, axis: AxisName, values: Values): Shaping | null {
  const part = shaperWay(dialect) === 'both' ? 'both' : axis;
  const { hz, type, damping } = SHAPER_SETTINGS[part];
  const frequency = values[hz] ?? 0;
  if (!(frequency > 0)) return null;
  return {
    type: SHAPERS[values[type] ?? NaN] ?? kindsTaken(dialect, axis)[0] ?? 'ZV',
    hz: frequency,
    damping: values[damping] ?? 0.1,
  };
}

/** All settings that a machine's shapers have, whether they are known or not. */
export const shaperSettings = (dialect: Dialect): Setting[] =>
  partsOf(dialect).flatMap((part) => Object.values(SHAPER_SETTINGS[part]));
