/** The settings that ladders climb, with how they are shown and rounded. */

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
};

export const SETTINGS = {
  nozzle: {
    title: 'nozzle temperature',
    unit: '°C',
    resolution: 1,
    // First-order, the usual hot end: 15 to 30 s.
    settlesS: 25,
    decimals: 0,
    below: 'cooler',
    above: 'hotter',
  },
} as const satisfies Record<string, SettingInfo>;

export type Setting = keyof typeof SETTINGS;
export const SETTING_NAMES = Object.keys(SETTINGS) as Setting[];
