/** The settings that ladders climb, with how they are shown, rounded, and seen in a file. */

import { z } from 'zod';
import type { Change } from './gcode/trace';

export type SettingInfo = {
  title: string;
  unit: string;
  /** Finest step that the machine can take. */
  resolution: number;
  /** How long a change drifts before it holds, s; 0 for what acts at once. */
  settlesS: number;
  /** Decimals that are shown. */
  decimals: number;
  /** Named ends of the scale, for reasons in words. */
  below: string;
  above: string;
  /** What commands of a file change with it; missing for what is written into the moves themselves. */
  changes?: readonly Change[];
  /** How far it may move before what stands on it goes stale (domain.md §9): an amount, or a share of it. */
  tolerance: { amount: number; share: number };
};

const info = (
  title: string,
  unit: string,
  resolution: number,
  [below, above]: [string, string],
  rest: Partial<SettingInfo> = {},
): SettingInfo => ({
  title,
  unit,
  resolution,
  below,
  above,
  settlesS: 0,
  decimals: Math.max(0, Math.ceil(-Math.log10(resolution) - 1e-9)),
  tolerance: { amount: 0, share: 0.2 },
  ...rest,
});

export const SETTINGS = {
  zOffset: info('first-layer offset', 'mm', 0.01, ['lower', 'higher'], {
    tolerance: { amount: 0.05, share: 0 },
  }),
  steps: info('extruder steps', 'steps/mm', 0.1, ['fewer', 'more'], {
    tolerance: { amount: 0, share: 0.02 },
  }),
  rotation: info('rotation distance', 'mm', 0.01, ['shorter', 'longer'], {
    tolerance: { amount: 0, share: 0.02 },
  }),
  nozzle: info('nozzle temperature', '°C', 1, ['cooler', 'hotter'], {
    // First-order, the usual hot end: 15 to 30 s.
    settlesS: 25,
    changes: ['nozzle'],
    tolerance: { amount: 5, share: 0 },
  }),
  flow: info('flow', '×', 0.01, ['less', 'more'], { tolerance: { amount: 0.02, share: 0 } }),
  retraction: info('retraction distance', 'mm', 0.05, ['less', 'more'], {
    tolerance: { amount: 0.3, share: 0.2 },
  }),
  retractSpeed: info('retraction speed', 'mm/s', 1, ['slower', 'faster']),
  restartExtra: info('extra restart', 'mm', 0.01, ['less', 'more'], {
    tolerance: { amount: 0.05, share: 0.2 },
  }),
  restartSpeed: info('restart speed', 'mm/s', 1, ['slower', 'faster']),
  lift: info('lift', 'mm', 0.05, ['lower', 'higher'], { tolerance: { amount: 0.2, share: 0.2 } }),
  advance: info('pressure advance', 's', 0.001, ['less', 'more'], {
    changes: ['advance'],
    tolerance: { amount: 0, share: 0.15 },
  }),
  acceleration: info('acceleration', 'mm/s²', 50, ['gentler', 'harder'], { changes: ['print'] }),
  jerk: info('jerk', 'mm/s', 0.5, ['gentler', 'harder'], { changes: ['x', 'y'] }),
  deviation: info('junction deviation', 'mm', 0.001, ['gentler', 'harder'], {
    changes: ['deviation'],
  }),
  square: info('square-corner speed', 'mm/s', 0.5, ['gentler', 'harder'], { changes: ['square'] }),
  bridgeFlow: info('bridge flow', '×', 0.01, ['less', 'more']),
  bridgeSpeed: info('bridge speed', 'mm/s', 1, ['slower', 'faster']),
  bridgeFan: info('bridge fan', 'of full', 0.05, ['less', 'more']),
  overhang: info('steepest overhang', '°', 1, ['nearer to vertical', 'nearer to flat']),
  offsetX: info('second nozzle in x', 'mm', 0.01, ['left', 'right']),
  offsetY: info('second nozzle in y', 'mm', 0.01, ['front', 'rear']),
} satisfies Record<string, SettingInfo>;

export type Setting = keyof typeof SETTINGS;
export const SETTING_NAMES = Object.keys(SETTINGS) as [Setting, ...Setting[]];
export const settingInfo = (setting: Setting): SettingInfo => SETTINGS[setting];

export const SettingName = z.enum(SETTING_NAMES);

/** Values of some settings. */
export const Values = z.partialRecord(SettingName, z.number());
export type Values = z.infer<typeof Values>;
