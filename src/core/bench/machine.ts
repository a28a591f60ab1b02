/** What the user says once about a machine. Lengths mm, speeds mm/s, accelerations mm/s², °C. */

import { z } from 'zod';
import { Dialect } from '../dialect/dialect';
import { plainName } from '../text';

/** A name as people type it; how it is written into files is decided in `core/text.ts`. */
export const Name = z.string().overwrite(plainName).min(1).max(80);

const size = (max: number) => z.number().positive().max(max);

export const Bed = z.discriminatedUnion('shape', [
  z.object({
    shape: z.literal('rectangle'),
    width: size(2000),
    depth: size(2000),
    /** Where x = 0, y = 0 lies. */
    origin: z.enum(['corner', 'centre']),
  }),
  z.object({
    shape: z.literal('round'),
    diameter: size(2000),
    origin: z.enum(['corner', 'centre']),
  }),
]);
export type Bed = z.infer<typeof Bed>;

/** How the firmware limits speed through a corner (domain.md §2). */
export const Cornering = z.discriminatedUnion('model', [
  z.object({ model: z.literal('jerk'), x: size(200), y: size(200), z: size(200), e: size(200) }),
  z.object({ model: z.literal('junction-deviation'), deviation: size(2) }),
  z.object({ model: z.literal('square-corner'), speed: size(200) }),
]);
export type Cornering = z.infer<typeof Cornering>;

const Axes = z.object({ x: size(1e5), y: size(1e5), z: size(1e5), e: size(1e5) });

export const Limits = z.object({
  /** Highest speed of each axis, mm/s. */
  speed: Axes,
  /** Highest acceleration of each axis, mm/s². */
  acceleration: Axes,
  /** Acceleration in force after switching on: printing moves, and travel. */
  printAcceleration: size(1e5),
  travelAcceleration: size(1e5),
  cornering: Cornering,
});
export type Limits = z.infer<typeof Limits>;

/** Longest start or end block, characters. */
export const LONGEST_BLOCK = 20_000;

/** What a named command of the machine's own does, said once by its user. */
export const Macro = z.object({
  name: z
    .string()
    .trim()
    .regex(/^[A-Za-z_][A-Za-z0-9_]{1,59}$/, 'letters, digits and _ only')
    .transform((name) => name.toUpperCase()),
  heats: z.boolean(),
  homes: z.boolean(),
  primes: z.boolean(),
});
export type Macro = z.infer<typeof Macro>;
const MOST_MACROS = 40;

/** A bed smaller than this, mm, holds no ladder; said when a machine is saved. */
export const SMALLEST_BED = 40;

/** Filament drawn back further than this, mm, pulls melt into the cold zone and jams. */
export const COLD_ZONE = { direct: 3, tube: 10 } as const;

export const Machine = z.object({
  name: Name,
  bed: Bed,
  /** Tallest print. */
  height: size(2000),
  limits: Limits,
  extruder: z.object({
    /** Where the feeder sits: direct drive, or behind a long tube. */
    drive: z.enum(['direct', 'tube']),
    tools: z.number().int().min(1).max(2),
    /** Highest nozzle temperature temperature that the hot end bears. */
    hottest: z.number().min(150).max(500),
  }),
  /** Highest bed temperature temperature. */
  bedHottest: z.number().min(0).max(200),
  retraction: z.object({
    distance: z.number().min(0).max(20),
    speed: size(200),
    /** Rise of the nozzle during travel over open air. */
    lift: z.number().min(0).max(5),
  }),
  /** Pressure advance in force after switching on, s; 0 where it was never set. */
  advance: z.number().min(0).max(10).optional(),
  speeds: z.object({
    print: size(1000),
    firstLayer: size(200),
    travel: size(2000),
    bridge: size(500),
  }),
  dialect: Dialect,
  /** Named commands of its own that files may call. */
  macros: z.array(Macro).max(MOST_MACROS).optional(),
  startBlock: z.string().max(LONGEST_BLOCK),
  endBlock: z.string().max(LONGEST_BLOCK),
});
export type Machine = z.infer<typeof Machine>;

/** Filament that an end block draws back, mm: what the next print finds missing. Only what is plainly said counts. */
export function drawnAtEnd(endBlock: string): number {
  let drawn = 0;
  for (const line of endBlock.split('\n')) {
    const [, length] = /^\s*G[01]\b[^;]*\bE-(\d*\.?\d+)/i.exec(line) ?? [];
    drawn += Number(length ?? 0);
  }
  return Math.min(drawn, COLD_ZONE.tube);
}
