/** A bench: one machine, one nozzle, one filament. Everything that generation needs. */

import { z } from 'zod';
import { Machine, Name } from './machine';
import { SETTING_NAMES } from './settings';
import { plainName } from '../text';
import { MATERIALS } from './materials';

export const Nozzle = z.object({
  /** Bore, mm. */
  diameter: z.number().min(0.1).max(2),
});
export type Nozzle = z.infer<typeof Nozzle>;

export const Filament = z
  .object({
    name: Name,
    material: z.enum(Object.keys(MATERIALS) as [keyof typeof MATERIALS]),
    /** Strand diameter, mm. */
    diameter: z.number().min(1).max(4),
    /** g/cm³. */
    density: z.number().min(0.5).max(5),
    /** Label range of nozzle temperature, °C. */
    nozzle: z.object({ min: z.number().min(100).max(500), max: z.number().min(100).max(500) }),
    /** Bed temperature, °C. */
    bed: z.number().min(0).max(200),
    /** Fan as a share of full, 0..1: while printing walls, and over open air. */
    fan: z.object({ print: z.number().min(0).max(1), bridge: z.number().min(0).max(1) }),
    /** Shortest time for a layer, s; faster layers are slowed so that they can cool. */
    shortestLayer: z.number().min(0).max(120),
  })
  .refine(({ nozzle }) => nozzle.min <= nozzle.max, {
    path: ['nozzle'],
    message: 'the lowest label temperature lies above the highest',
  });
export type Filament = z.infer<typeof Filament>;

export const Bench = z.object({
  format: z.literal('ash-ladder/bench'),
  version: z.literal(1),
  machine: Machine,
  nozzle: Nozzle,
  filament: Filament,
  /** What the ledger holds for it; a ladder is printed with it, and puts it back. */
  tuned: z.partialRecord(z.enum(SETTING_NAMES), z.number()).optional(),
  /** Tuned values that the machine itself has stored: what adds to them is not added again by a file. */
  carried: z.array(z.enum(SETTING_NAMES)).optional(),
});
export type Bench = z.infer<typeof Bench>;

/** Joins the three into a bench as `bench.json` holds it. */
export const joinBench = (machine: Machine, nozzle: Nozzle, filament: Filament): Bench => ({
  format: 'ash-ladder/bench',
  version: 1,
  machine,
  nozzle,
  filament,
});

/** Bench in one line, as people call it: machine · nozzle · filament. */
export const benchTitle = ({ machine, nozzle, filament }: Bench): string =>
  titleOf(machine.name, nozzle.diameter, filament.name);

export const titleOf = (machine: string, bore: number, filament: string): string =>
  `${plainName(machine)} · ${bore} mm · ${plainName(filament)}`;
