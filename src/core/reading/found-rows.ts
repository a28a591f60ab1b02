/** The table that goes with a finding, as rows that are kept and pasted; empty where there is none. */

import { settingInfo, type Setting } from '../bench/settings';
import type { Finding } from './finding';
import { COLUMNS, type Column, type Row } from './rows';

/** Columns of settings, and how many of a setting's unit make one of the column's. */
const AS_COLUMN: Partial<Record<Setting, [Column, number]>> = {
  overhang: ['lean', 1],
  wallSpeed: ['speed', 1],
  fan: ['fan', 100],
  shaper: ['shaper', 1],
  shaperX: ['shaper', 1],
  acceleration: ['acceleration', 1],
};

/** What a setting is called where it is a column. */
export function inTable(setting: Setting): string {
  const [column] = AS_COLUMN[setting] ?? [];
  return column ? COLUMNS[column].title.toLowerCase() : settingInfo(setting).title;
}

export function rowsOfFinding({ map, limits }: Pick<Finding, 'map' | 'limits'>): Row[] {
  if (map)
    return map.rows.map(({ advance, flow, acceleration, speed }) => ({
      advance,
      flow,
      acceleration,
      speed,
    }));
  if (!limits) return [];
  const [of, over] = [AS_COLUMN[limits.of], AS_COLUMN[limits.over]];
  if (!of || !over) return [];
  return limits.rows.flatMap(({ at, value }) =>
    value === null ? [] : [{ [over[0]]: over[1] * at, [of[0]]: of[1] * value }],
  );
}
