/** What the server and the link say to each other: one JSON a line, over a socket that nobody else can open. */

import { z } from 'zod';
import { Bench } from '../core/bench/bench';
import { SettingName } from '../core/bench/settings';
import { MOST_PUSHED } from '../core/gcode/audit';
import { MOST_RUNGS } from '../core/plan/limits';
import type { Problem } from '../core/result';
import type { Simulated } from '../core/link-state';

const machine = z.number().int().positive();
const SimulatedShape = z.object({ name: z.string().max(80), seed: z.number().int().min(0) });

/** As it is kept; null for a real machine. */
export const simulatedIn = (text: string | null): Simulated | null =>
  text === null ? null : SimulatedShape.parse(JSON.parse(text));

export const Act = z.discriminatedUnion('act', [
  z.object({ act: z.enum(['ports', 'stand-aside', 'come-back']) }),
  z.object({ act: z.literal('dismiss'), address: z.string().max(300) }),
  z.object({ act: z.enum(['look', 'heat-rows']), machine }),
  z.object({
    act: z.literal('connect'),
    machine,
    address: z.string().max(300),
    simulated: SimulatedShape.nullable(),
    tools: z.number().int().min(1).max(8),
  }),
  z.object({ act: z.literal('disconnect'), machine }),
  z.object({ act: z.literal('settings'), machine, bench: Bench, stored: z.boolean() }),
  z.object({
    act: z.literal('apply'),
    machine,
    bench: Bench,
    setting: SettingName,
    value: z.number(),
  }),
  z.object({ act: z.literal('store'), machine, bench: Bench }),
  z.object({ act: z.literal('talk'), machine, line: z.string().max(240) }),
  z.object({
    act: z.literal('heat'),
    machine,
    nozzle: z.number().min(0).max(500).nullable(),
    bed: z.number().min(0).max(200).nullable(),
  }),
  z.object({
    act: z.literal('tune'),
    machine,
    bench: Bench,
    celsius: z.number().min(100).max(500),
  }),
  z.object({
    act: z.literal('feed'),
    machine,
    mm: z.number().min(1).max(MOST_PUSHED),
    speed: z.number().min(0.2).max(10),
    /** °C at which its material is still extruded. */
    coldest: z.number().min(100).max(400),
  }),
  z.object({ act: z.literal('apply-tuning'), machine, bench: Bench }),
  z.object({
    act: z.literal('idle'),
    machine,
    minutes: z.number().int().min(1).max(240),
  }),
  z.object({ act: z.literal('emergency'), machine }),
  z.object({
    act: z.literal('print'),
    machine,
    bench: Bench,
    file: z.number().int().positive().nullable(),
    kept: z.number().int().positive().nullable(),
    name: z.string().max(300),
    /** How low all nudges may come to, from which line on; missing where nothing is nudged. */
    floors: z
      .array(z.object({ line: z.number().int(), least: z.number() }))
      .max(MOST_RUNGS)
      .optional(),
  }),
  z.object({ act: z.literal('nudge'), machine, mm: z.number().min(-0.1).max(0.1) }),
  z.object({ act: z.enum(['pause', 'go', 'stop']), machine }),
]);
export type Act = z.infer<typeof Act>;
export type ActName = Act['act'];
export type ActOf<N extends ActName> = Extract<Act, { act: N }>;

export const Asked = z.object({ id: z.number().int(), act: Act });
export type Answered =
  | { id: number; ok: true; value: unknown }
  | { id: number; ok: false; problems: Problem[] }
  /** Something about a machine is another now. */
  | { changed: number; revision: number }
  /** Which machines may be hot is another now. */
  | { owed: number };
