/**
 * The settings that ladders climb: how each is shown and rounded, what commands it, how it is seen in a file, where a
 * bench has it from, and what a machine's report says of it. One entry is all that there is of a setting.
 */

import { z } from 'zod';
import type { Deep } from '../deep';
import type { Change } from '../dialect/changes';
import { settingLine, type Dialect, type Need } from '../dialect/dialect';
import { SHAPERS, SHAPER_TITLES } from '../dialect/shapers';
import { choicesIn, fillTemplate, type Values as RowValues } from '../dialect/template';
import { short, snap, STEP_SLACK } from '../numbers';
import type { Filament } from './bench';
import type { Cornering, Machine } from './machine';
import { MATERIALS } from './materials';

/** A bench as far as a setting asks; its own values by name, whatever settings there are. */
type Described = {
  machine: Machine;
  filament: Filament;
  tuned?: Record<string, number | undefined> | undefined;
};

/** What a report, or a file that has printed well, says of a machine. */
export type Reported = { id: string; says: string; machine: Deep<Machine> };

export type SettingInfo = {
  title: string;
  unit: string;
  /** Finest step that the machine can take. */
  resolution: number;
  /** How long a change drifts before it holds, s; 0 for what acts at once. */
  settlesS: number;
  /** Step in which files write it, where that is coarser than a number with five decimals. */
  written?: number;
  /** Decimals that are shown. */
  decimals: number;
  /** What its values are called, from 0 on, where it is a choice and no amount. */
  choices?: readonly string[];
  /** Named ends of the scale, for reasons in words. */
  below: string;
  above: string;
  /** What commands of a file change with it; missing for what is written into the moves themselves. */
  changes?: readonly Change[];
  /** How far it may move before what stands on it goes stale (docs/domain.md §9): an amount, or a share of it. */
  tolerance: { amount: number; share: number };
  /** What a bench has where nobody has found it; NaN where nothing is known of it. */
  usual(bench: Described): number;
  /** The override by percent that machines have of it besides: it scales what the moves of a file say. */
  override?: { change: Change; command(share: number): string };
  /**
   * The row of the dialect that commands it, its own variable in that row, others that always have the same value, and
   * all variables of it.
   */
  row?: {
    need: Need;
    own: string;
    also?: readonly string[];
    values(value: number, bench: Described): RowValues;
  };
  /** Whether what a file says comes on top of what the machine has: a value is an amount to add to that. */
  adds?: true;
  /** The command where every machine takes the same one. */
  command?(value: number): string;
  /** The line that restores what the machine itself has, where that is more than one number. */
  restored?(bench: Described): string | null;
  /** What the values of its row say of a machine; null when they do not speak of it. */
  reported?(values: RowValues): Reported | null;
};

const info = (
  title: string,
  unit: string,
  resolution: number,
  [below, above]: [string, string],
  usual: SettingInfo['usual'],
  rest: Partial<SettingInfo> = {},
): SettingInfo => ({
  title,
  unit,
  resolution,
  below,
  above,
  usual,
  settlesS: 0,
  decimals: Math.max(0, Math.ceil(-Math.log10(resolution) - STEP_SLACK)),
  tolerance: { amount: 0, share: 0.2 },
  ...rest,
});

const within = (amount: number, share = 0) => ({ tolerance: { amount, share } });
const unknown = () => NaN;
const none = () => 0;
const whole = () => 1;

/** Damping ratio that shapers are set for where nobody has measured it. */
const USUAL_DAMPING = 0.1;

/** Overhangs that usual prints stand without support, degrees from vertical. */
const USUAL_OVERHANG = 45;

const cornering = <M extends Cornering['model']>({ machine }: Described, model: M) => {
  const { cornering: now } = machine.limits;
  return now.model === model ? (now as Cornering & { model: M }) : null;
};

/** What a report says of corners, under the one id that its model has. */
const corners = (told: Cornering, says: string): Reported => ({
  id: `cornering-${told.model}`,
  says,
  machine: { limits: { cornering: told } },
});

type ShaperPart = 'frequency' | 'type' | 'damping';

/**
 * An input shaper: its frequency (0 for none), its kind and its damping share one row, of both axes or of one. What of
 * the three nobody has found stands as it usually does.
 */
function shaperOf(
  axis: '' | 'x' | 'y',
  need: 'shaper' | 'shaperX' | 'shaperY',
): Record<ShaperPart, SettingInfo> {
  const where = axis && ` in ${axis}`;
  const big = axis.toUpperCase();
  const variable = (name: ShaperPart) => (name + (axis && `_${axis}`)) as Change;
  const row = (own: ShaperPart): NonNullable<SettingInfo['row']> => ({
    need,
    own: variable(own),
    values(value, { machine, tuned }) {
      const known = (setting: string, usual: number) =>
        Number.isFinite(tuned?.[setting]) ? tuned![setting]! : usual;
      const [first = 0] = choicesIn(machine.dialect[need], variable('type')) ?? [];
      return {
        [variable('frequency')]: known(`shaper${big}`, 0),
        [variable('type')]: known(`shaperType${big}`, first),
        [variable('damping')]: known(`shaperDamping${big}`, USUAL_DAMPING),
        [variable(own)]: value,
      };
    },
  });
  const of = (own: ShaperPart) => ({ changes: [variable(own)], row: row(own) });
  return {
    frequency: info(`input shaper frequency${where}`, 'Hz', 0.5, ['lower', 'higher'], none, {
      ...within(1, 0.05),
      ...of('frequency'),
    }),
    type: info(`input shaper${where}`, '', 1, ['shorter', 'longer'], unknown, {
      ...within(0.5),
      choices: SHAPERS.map((one) => SHAPER_TITLES[one]),
      ...of('type'),
    }),
    damping: info(`input shaper damping${where}`, '', 0.001, ['less', 'more'], unknown, {
      ...within(0.02, 0.5),
      ...of('damping'),
    }),
  };
}
const [BOTH, IN_X, IN_Y] = [
  shaperOf('', 'shaper'),
  shaperOf('x', 'shaperX'),
  shaperOf('y', 'shaperY'),
];

export const SETTINGS = {
  zOffset: info('first-layer offset', 'mm', 0.01, ['lower', 'higher'], none, {
    ...within(0.05),
    adds: true,
  }),
  steps: info('extruder steps', 'steps/mm', 0.1, ['fewer', 'more'], unknown, {
    ...within(0, 0.02),
    row: { need: 'steps', own: 'steps', values: (steps) => ({ steps }) },
  }),
  rotation: info('rotation distance', 'mm', 0.01, ['shorter', 'longer'], unknown, {
    ...within(0, 0.02),
    row: { need: 'steps', own: 'rotation', values: (rotation) => ({ rotation }) },
  }),
  nozzle: info(
    'nozzle temperature',
    '°C',
    1,
    ['cooler', 'hotter'],
    ({ filament: { nozzle } }) => snap((nozzle.min + nozzle.max) / 2, 5),
    {
      // First-order, the usual hot end: 15 to 30 s.
      settlesS: 25,
      changes: ['nozzle'],
      ...within(5),
      command: (value) => `M104 S${short(value)}`,
    },
  ),
  flow: info('flow', '×', 0.01, ['less', 'more'], whole, {
    ...within(0.02),
    override: { change: 'flow', command: (share) => `M221 S${short(100 * share)}` },
  }),
  retraction: info(
    'retraction distance',
    'mm',
    0.05,
    ['less', 'more'],
    ({ machine }) => machine.retraction.distance,
    within(0.3, 0.2),
  ),
  retractSpeed: info(
    'retraction speed',
    'mm/s',
    1,
    ['slower', 'faster'],
    ({ machine }) => machine.retraction.speed,
  ),
  restartExtra: info('extra restart', 'mm', 0.01, ['less', 'more'], none, within(0.05, 0.2)),
  restartSpeed: info(
    'restart speed',
    'mm/s',
    1,
    ['slower', 'faster'],
    ({ machine, tuned }) => tuned?.retractSpeed ?? machine.retraction.speed,
  ),
  lift: info(
    'lift',
    'mm',
    0.05,
    ['lower', 'higher'],
    ({ machine }) => machine.retraction.lift,
    within(0.2, 0.2),
  ),
  advance: info(
    'pressure advance',
    's',
    0.001,
    ['less', 'more'],
    ({ machine }) => machine.advance ?? 0,
    {
      ...within(0, 0.15),
      changes: ['advance'],
      row: { need: 'advance', own: 'advance', values: (advance) => ({ advance }) },
    },
  ),
  acceleration: info(
    'acceleration',
    'mm/s²',
    50,
    ['gentler', 'harder'],
    ({ machine }) => machine.limits.printAcceleration,
    {
      changes: ['print'],
      row: {
        need: 'acceleration',
        own: 'print',
        values: (print, { machine }) => ({ print, travel: machine.limits.travelAcceleration }),
      },
      reported({ print, travel }) {
        const limits: Deep<Machine['limits']> = {
          ...(print! > 0 ? { printAcceleration: print! } : {}),
          ...(travel! > 0 ? { travelAcceleration: travel! } : {}),
        };
        if (Object.keys(limits).length === 0) return null;
        const said = [print, travel].filter(Boolean).map(String).join(' printing, ');
        const says = `acceleration ${said} mm/s²${travel ? ' in travel' : ''}`;
        return { id: 'acceleration', says, machine: { limits } };
      },
    },
  ),
  jerk: info(
    'jerk',
    'mm/s',
    0.5,
    ['gentler', 'harder'],
    (bench) => {
      const now = cornering(bench, 'jerk');
      return now ? Math.max(now.x, now.y) : NaN;
    },
    {
      changes: ['x', 'y'],
      row: {
        need: 'cornering',
        own: 'x',
        also: ['y'],
        values: (value) => ({ x: value, y: value }),
      },
      // A machine may have a jerk of its own for each axis.
      restored(bench) {
        const now = bench.tuned?.jerk === undefined ? cornering(bench, 'jerk') : null;
        return now && settingLine(bench.machine.dialect, 'cornering', { x: now.x, y: now.y });
      },
      reported({ x, y }) {
        if (!(x! > 0)) return null;
        // z and e are seldom stated; the usual values stand until they are typed.
        const told = { model: 'jerk' as const, x: x!, y: y ?? x!, z: 0.4, e: 5 };
        return corners(told, `jerk ${short(told.x)} mm/s in x, ${short(told.y)} in y`);
      },
    },
  ),
  deviation: info(
    'junction deviation',
    'mm',
    0.001,
    ['gentler', 'harder'],
    (bench) => cornering(bench, 'junction-deviation')?.deviation ?? NaN,
    {
      changes: ['deviation'],
      row: { need: 'cornering', own: 'deviation', values: (deviation) => ({ deviation }) },
      reported: ({ deviation }) =>
        deviation! > 0
          ? corners(
              { model: 'junction-deviation', deviation: deviation! },
              `junction deviation ${short(deviation!)} mm`,
            )
          : null,
    },
  ),
  square: info(
    'square-corner speed',
    'mm/s',
    0.5,
    ['gentler', 'harder'],
    (bench) => cornering(bench, 'square-corner')?.speed ?? NaN,
    {
      changes: ['square'],
      row: { need: 'cornering', own: 'square', values: (square) => ({ square }) },
      reported: ({ square }) =>
        square! > 0
          ? corners(
              { model: 'square-corner', speed: square! },
              `square-corner speed ${short(square!)} mm/s`,
            )
          : null,
    },
  ),
  bridgeFlow: info('bridge flow', '×', 0.01, ['less', 'more'], whole),
  bridgeSpeed: info(
    'bridge speed',
    'mm/s',
    1,
    ['slower', 'faster'],
    ({ machine }) => machine.speeds.bridge,
  ),
  bridgeFan: info(
    'bridge fan',
    'of full',
    0.05,
    ['less', 'more'],
    ({ filament }) => filament.fan.bridge,
  ),
  overhang: info(
    'steepest overhang',
    '°',
    1,
    ['nearer to vertical', 'nearer to flat'],
    () => USUAL_OVERHANG,
  ),
  offsetX: info('second nozzle in x', 'mm', 0.01, ['left', 'right'], none),
  offsetY: info('second nozzle in y', 'mm', 0.01, ['front', 'rear'], none),
  fan: info('fan', 'of full', 0.05, ['less', 'more'], ({ filament }) => filament.fan.print, {
    ...within(0.1),
    changes: ['fan'],
    // A fan takes seconds to follow.
    settlesS: 4,
    written: 1 / 255,
    command: (value) => `M106 S${Math.round(value * 255)}`,
  }),
  meltFlow: info(
    'melt flow',
    'mm³/s',
    0.1,
    ['less', 'more'],
    ({ filament }) => MATERIALS[filament.material].melts,
    within(0, 0.15),
  ),
  shaper: BOTH.frequency,
  shaperType: BOTH.type,
  shaperDamping: BOTH.damping,
  shaperX: IN_X.frequency,
  shaperTypeX: IN_X.type,
  shaperDampingX: IN_X.damping,
  shaperY: IN_Y.frequency,
  shaperTypeY: IN_Y.type,
  shaperDampingY: IN_Y.damping,
  wallSpeed: info(
    'wall speed',
    'mm/s',
    1,
    ['slower', 'faster'],
    ({ machine }) => machine.speeds.print,
  ),
  pace: info('print speed', '×', 0.05, ['slower', 'faster'], whole, {
    ...within(0.1),
    override: { change: 'pace', command: (share) => `M220 S${short(100 * share)}` },
  }),
} satisfies Record<string, SettingInfo>;

export type Setting = keyof typeof SETTINGS;
export const SETTING_NAMES = Object.keys(SETTINGS) as [Setting, ...Setting[]];
export const settingInfo = (setting: Setting): SettingInfo => SETTINGS[setting];

/** A value whose unit stands elsewhere, or the word of a choice. */
export const bareValue = (setting: Setting, value: number): string =>
  settingInfo(setting).choices?.[value] ?? short(value);

/** A value as people say it: `46 Hz`, `one hump`. @param decimals at most */
export function saidValue(setting: Setting, value: number, decimals?: number): string {
  const { choices, unit } = settingInfo(setting);
  return choices?.[value] ?? `${short(value, decimals)} ${unit}`.trim();
}

/** Whether what a file says comes on top of what the machine has stored, so that it must not be in both. */
export const addsUp = (setting: Setting): boolean => settingInfo(setting).adds === true;

/** Whether a machine can have it of its own: commands that are kept, and what adds up with a file. */
export const isKept = (setting: Setting): boolean =>
  settingInfo(setting).row !== undefined || addsUp(setting);

/** The variables of its row that have the value of a setting. */
export const ownVariables = ({ own, also = [] }: NonNullable<SettingInfo['row']>): string[] => [
  own,
  ...also,
];

export const SettingName = z.enum(SETTING_NAMES);

/** Values of some settings. */
export const Values = z.partialRecord(SettingName, z.number());
export type Values = z.infer<typeof Values>;

/** Whether a command of its own sets it on some machine; what has none is written into the moves. */
export const isCommanded = (setting: Setting): boolean => {
  const { command, row } = settingInfo(setting);
  return command !== undefined || row !== undefined;
};

/**
 * Where a machine keeps what files add to: the offset of its probe, on machines that take live nudges as `M290 Z`.
 * Others keep it in a file.
 */
export const keptOffset = ({ nudge }: Pick<Dialect, 'nudge'>): string | null =>
  /^M290 Z\{/.test(nudge) ? 'M851 Z{offset}' : null;

/** Whether a machine takes and stores by command what files add to. */
export const storesOffset = (dialect: Pick<Dialect, 'nudge' | 'save'>): boolean =>
  keptOffset(dialect) !== null && dialect.save !== '';

/** The line that puts all that a machine keeps of a setting into it; null where it keeps it in a file. */
export function keptLine(setting: Setting, value: number, bench: Described): string | null {
  if (!addsUp(setting)) return valueLine(setting, value, bench);
  const template = keptOffset(bench.machine.dialect);
  return template && fillTemplate(template, { offset: value });
}

/** The line that sets a value on this bench; null for what is written into moves, or cannot be told. */
export function valueLine(setting: Setting, value: number, bench: Described): string | null {
  const { command, row } = settingInfo(setting);
  if (command) return command(value);
  return row ? settingLine(bench.machine.dialect, row.need, row.values(value, bench)) : null;
}
