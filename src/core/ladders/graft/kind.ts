/**
 * Ladders made of a sliced file. What they look like is the file's; here is what their sections are read for, by what
 * climbs in them. They are made in core/graft, and never laid.
 */

import { z } from 'zod';
import type { Bench } from '../../bench/bench';
import { COLD_ZONE } from '../../bench/machine';
import { MATERIALS } from '../../bench/materials';
import { settingInfo, type Setting } from '../../bench/settings';
import type { Criterion } from '../../criteria';
import { mean, short } from '../../numbers';
import { valueOn } from '../../plan/axes';
import { fail, ok, problem } from '../../result';
import { carryByCommand, carryBySlicing } from '../commands';
import type { Ends, LadderKind, Rule } from '../types';

/** What can climb in a sliced file, in the order in which a screen offers it; a spec holds the number of one. */
export const CLIMBS = [
  'nozzle',
  'fan',
  'flow',
  'pace',
  'retraction',
  'retractSpeed',
  'restartExtra',
  'restartSpeed',
  'lift',
  'advance',
  'acceleration',
  'jerk',
  'deviation',
  'square',
] as const satisfies readonly Setting[];
export type Climbs = (typeof CLIMBS)[number];
export const climbsInFiles = (setting: Setting): setting is Climbs =>
  (CLIMBS as readonly Setting[]).includes(setting);

type Look = Partial<Record<Criterion, number>>;
const THREADS: Look = { stringing: 1, surface: 0.4, gaps: 0.6 };
const CORNERS: Look = { ringing: 1, corners: 0.6, surface: 0.4 };

/** What is looked at, with what weight. */
const LOOKS: Record<Climbs, Look> = {
  nozzle: {
    stringing: 1,
    overhang: 0.8,
    bridging: 0.8,
    surface: 0.8,
    gloss: 0.4,
    'layer adhesion': 1,
  },
  fan: { overhang: 1, bridging: 1, surface: 0.6, 'layer adhesion': 0.8 },
  flow: { gaps: 1, ridges: 0.9, surface: 0.6 },
  pace: { surface: 1, corners: 0.6, gaps: 0.8, 'layer adhesion': 0.6 },
  retraction: THREADS,
  retractSpeed: THREADS,
  restartExtra: { seam: 1, gaps: 0.8, surface: 0.4 },
  restartSpeed: THREADS,
  lift: { surface: 1, stringing: 0.6 },
  advance: { corners: 1, seam: 0.3, evenness: 0.6 },
  acceleration: CORNERS,
  jerk: CORNERS,
  deviation: CORNERS,
  square: CORNERS,
};

/** Where it is looked at, whatever the form is. */
const WHERE: Partial<Record<Criterion, string>> = {
  stringing: 'between parts that stand apart',
  overhang: 'the steepest undersides of a section',
  bridging: 'under what spans a gap',
  surface: 'the plain faces of a section',
  gloss: 'the plain faces, in slanting light',
  'layer adhesion': 'a thin part, bent or broken by hand',
  gaps: 'the top faces and walls, held against light',
  ridges: 'the top faces, under a finger',
  corners: 'the upright edges of a section',
  seam: 'where each layer begins',
  evenness: 'the walls, where speed changes',
  ringing: 'the faces behind a sharp edge',
};

const RULES: Record<Climbs, Rule> = {
  nozzle: { kind: 'best', saferSide: 'lower' },
  fan: { kind: 'best', saferSide: 'lower' },
  flow: { kind: 'best', saferSide: 'lower' },
  pace: { kind: 'clean', end: 'most' },
  retraction: { kind: 'clean', end: 'least', sure: 0.8 },
  retractSpeed: { kind: 'best', saferSide: 'lower' },
  restartExtra: { kind: 'best', saferSide: 'lower' },
  restartSpeed: { kind: 'best', saferSide: 'lower' },
  lift: { kind: 'clean', end: 'least' },
  advance: { kind: 'best', saferSide: 'lower' },
  acceleration: { kind: 'clean', end: 'most' },
  jerk: { kind: 'clean', end: 'most' },
  deviation: { kind: 'clean', end: 'most' },
  square: { kind: 'clean', end: 'most' },
};

/** What usually is the cause when every section looks alike. */
const OTHER: Record<Climbs, string> = {
  nozzle: 'Check that the file’s own temperatures were lifted out, and that the filament is dry.',
  fan: 'Check that the fan really changes its speed; sections that take long to print cool by themselves.',
  flow: 'Steps were too small to be seen, or something else limits: measure a wall instead.',
  pace: 'Strokes may be too short to reach the speed; acceleration then decides.',
  retraction: 'Damp filament strings at any distance: dry it, and look at the temperature first.',
  retractSpeed: 'The distance decides more than the speed: find that first.',
  restartExtra:
    'What is missing after a restart may come from a short retraction or a low temperature.',
  restartSpeed: 'The distance decides more than the speed: find that first.',
  lift: 'Without leans that curl there is nothing to knock against.',
  advance:
    'Walls may run too slowly for pressure to show, or the machine does not take the command.',
  acceleration: 'Corner speed may hide it: set cornering low for the test.',
  jerk: 'Acceleration may hide it, or an input shaper takes the ringing away.',
  deviation: 'Acceleration may hide it, or an input shaper takes the ringing away.',
  square: 'Acceleration may hide it, or an input shaper takes the ringing away.',
};

const STANDS_ON: Partial<Record<Climbs, readonly Setting[]>> = {
  flow: ['nozzle'],
  retraction: ['nozzle', 'flow', 'advance'],
  retractSpeed: ['nozzle', 'retraction'],
  restartExtra: ['nozzle', 'retraction'],
  restartSpeed: ['nozzle', 'retraction'],
  advance: ['nozzle', 'flow'],
};

const Spec = z.object({
  setting: z
    .number()
    .int()
    .min(0)
    .max(CLIMBS.length - 1),
  from: z.number(),
  to: z.number(),
  step: z.number().min(0),
  count: z.number().int().min(1).max(100),
  /** How much a value climbs with every mm; 0 where it stands still within a section. */
  slope: z.number(),
});
type Spec = z.infer<typeof Spec>;

/** What this bench takes of each setting. */
export function climbEnds({ machine, filament }: Bench): Record<Climbs, Ends> {
  const speed = { min: 1, max: machine.limits.speed.e };
  return {
    nozzle: { min: MATERIALS[filament.material].coldest, max: machine.extruder.hottest },
    fan: { min: 0, max: 1 },
    flow: { min: 0.3, max: 2 },
    pace: { min: 0.1, max: 3 },
    retraction: { min: 0, max: COLD_ZONE[machine.extruder.drive] },
    retractSpeed: speed,
    restartExtra: { min: -1, max: 1 },
    restartSpeed: speed,
    lift: { min: 0, max: 5 },
    advance: { min: 0, max: 5 },
    acceleration: {
      min: 10,
      max: Math.min(machine.limits.acceleration.x, machine.limits.acceleration.y),
    },
    jerk: { min: 0, max: 100 },
    deviation: { min: 0, max: 1 },
    square: { min: 0, max: 100 },
  };
}

/** The kind of what climbs. */
export function graftKind(setting: Climbs, slope = 0): LadderKind<Spec> {
  const { title, row } = settingInfo(setting);
  return {
    id: 'graft',
    ofFile: true,
    title: `Sliced: ${title}`,
    finds: [setting],
    spec: Spec,
    sentence: '',
    fields: Object.fromEntries(
      ['setting', 'from', 'to', 'step', 'count', 'slope'].map((key) => [
        key,
        { label: key, unit: '', min: -1e6, max: 1e6, step: 1 },
      ]),
    ),
    reason: () => '',
    standsOn: STANDS_ON[setting] ?? [],
    onDemand: true,
    defaults: (bench) => ({
      setting: CLIMBS.indexOf(setting),
      ...usualClimb(setting, bench, 6),
      count: 6,
      slope: 0,
    }),
    check: () => [],
    axes: () => [],
    lay: () => {
      throw new Error('a ladder made of a sliced file is not laid');
    },
    bounds: (bench) => ({ [setting]: climbEnds(bench)[setting] }),
    moved: (spec, ranges) => ({ ...spec, ...ranges[setting] }),
    criteria: (Object.entries(LOOKS[setting]) as [Criterion, number][]).map(([name, weight]) => ({
      name,
      weight,
      where: WHERE[name] ?? 'anywhere in the section',
    })),
    rule: RULES[setting],
    measures:
      slope === 0
        ? []
        : [
            {
              key: 'height',
              label: 'Best height',
              unit: 'mm',
              min: 0,
              max: 1000,
              fewest: 0,
              most: 3,
              how: 'Instead of scoring, where the value climbs with every layer: find the best height, and measure it from the bed with a caliper.',
            },
          ],
    work: ({ height = [] }, plan) => {
      const z = mean(height);
      const rung = plan.rungs.find((one) => z > one.z.from && z <= one.z.to);
      if (!rung)
        return fail(
          problem(
            'height',
            `${short(z)} mm was entered; the sections stand from ${short(plan.rungs[0]!.z.from)} to ${short(plan.rungs.at(-1)!.z.to)} mm.`,
            'Measure from the bed, in mm.',
          ),
        );
      const lead = plan.axes[0];
      const own = lead ? valueOn(lead, rung) : null;
      if (own === null) return ok({ values: [], reason: '' });
      const perMm = rung.slope?.[setting] ?? 0;
      const value = own + perMm * (z - (rung.z.from + rung.z.to) / 2);
      const half = Math.max(Math.abs(perMm) * plan.layerHeight, settingInfo(setting).resolution);
      const { unit } = settingInfo(setting);
      return ok({
        values: [{ setting, value, range: [value - half, value + half] }],
        reason: `At ${short(z, 2)} mm the file had ${short(value, 4)} ${unit}; a caliper and a layer leave ± ${short(half, 4)} ${unit}. How well the height was picked by eye is not included.`,
      });
    },
    carry: (_, value, bench) =>
      row ? carryByCommand(setting, value, bench) : carryBySlicing(setting, value, bench),
    otherCause: OTHER[setting],
  };
}

/** A range to begin with, over so many sections. */
export function usualClimb(
  setting: Climbs,
  bench: Bench,
  count: number,
): { from: number; to: number; step: number } {
  const steps = Math.max(1, count - 1);
  const info = settingInfo(setting);
  const now = bench.tuned?.[setting] ?? info.usual(bench);
  const { min, max } = climbEnds(bench)[setting];
  const direct = bench.machine.extruder.drive === 'direct';
  const by: Record<Climbs, number> = {
    nozzle: -5,
    fan: Math.max(0.05, Math.floor(20 / steps) / 20),
    flow: 0.02,
    pace: 0.1,
    retraction: direct ? 0.2 : 1,
    retractSpeed: 5,
    restartExtra: 0.05,
    restartSpeed: 5,
    lift: 0.1,
    advance: direct ? 0.01 : 0.1,
    acceleration: 500,
    jerk: 2,
    deviation: 0.005,
    square: 1,
  };
  const step = by[setting];
  const upward = ['fan', 'lift', 'advance'].includes(setting);
  const middle = Number.isFinite(now) ? now : (min + max) / 2;
  const half = (Math.abs(step) * steps) / 2;
  const unit = Math.max(info.resolution, Math.abs(step));
  const low = upward ? 0 : Math.round((middle - half) / unit) * unit;
  const foot = Math.max(min, Math.min(low, max - Math.abs(step) * steps));
  const [a, b] = [Number(foot.toFixed(6)), Number((foot + Math.abs(step) * steps).toFixed(6))];
  return step < 0
    ? { from: b, to: a, step: Math.abs(step) }
    : { from: a, to: Math.min(max, b), step: Math.abs(step) };
}
