'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { Filament, Nozzle } from '@/core/bench/bench';
import { Machine } from '@/core/bench/machine';
import { blockProblems } from '@/core/gcode/blocks';
import { parseWith, type Result } from '@/core/result';
import { now, store } from '../server/store';
import { done, gone, type Answer } from './answer';

const Id = z.number().int().positive();

/** A machine whose blocks can be filled in as well. */
function parseMachine(data: unknown): Result<Machine> {
  const parsed = parseWith(Machine, data);
  if (!parsed.ok) return parsed;
  const problems = [
    ...blockProblems('startBlock', parsed.value.startBlock),
    ...blockProblems('endBlock', parsed.value.endBlock),
  ];
  return problems.length > 0 ? { ok: false, problems } : parsed;
}

export async function saveMachine(id: number | null, data: unknown): Promise<Answer<number>> {
  const machine = parseMachine(data);
  if (!machine.ok) return machine;
  if (id === null) return { ok: true, value: store().machines.add(machine.value) };
  if (!store().machines.change(Id.parse(id), machine.value)) return gone('machine');
  revalidatePath('/', 'layout');
  return { ok: true, value: id };
}

export async function saveFilament(id: number | null, data: unknown): Promise<Answer<number>> {
  const filament = parseWith(Filament, data);
  if (!filament.ok) return filament;
  if (id === null) return { ok: true, value: store().filaments.add(filament.value) };
  if (!store().filaments.change(Id.parse(id), filament.value)) return gone('filament');
  revalidatePath('/', 'layout');
  return { ok: true, value: id };
}

/** Puts a machine, filament or bench away, or brings it back. */
export async function putAway(
  shelf: 'machines' | 'filaments' | 'benches',
  id: number,
  away: boolean,
): Promise<Answer> {
  const place = store()[z.enum(['machines', 'filaments', 'benches']).parse(shelf)];
  const moved = away ? place.putAway(Id.parse(id), now()) : place.restore(Id.parse(id));
  if (!moved) return gone(shelf.slice(0, -1));
  revalidatePath('/', 'layout');
  return done;
}

/** Either an existing machine or filament by id, or a new one in full. */
const NewBench = z.object({
  machine: z.union([Id, z.record(z.string(), z.unknown())]),
  filament: z.union([Id, z.record(z.string(), z.unknown())]),
  bore: z.number(),
});

/** Makes a bench, and its machine and filament if they are new, all in one transaction. */
export async function makeBench(data: unknown): Promise<Answer<number>> {
  const given = parseWith(NewBench, data);
  if (!given.ok) return given;
  const { machine, filament, bore } = given.value;
  const newMachine = typeof machine === 'number' ? null : parseMachine(machine);
  const newFilament = typeof filament === 'number' ? null : parseWith(Filament, filament);
  const nozzle = parseWith(Nozzle, { diameter: bore }, 'nozzle');
  const problems = [newMachine, newFilament, nozzle].flatMap((one) =>
    one && !one.ok ? one.problems : [],
  );
  if (problems.length > 0) return { ok: false, problems };
  const { db, machines, filaments, benches } = store();
  const id = db.transaction(() =>
    benches.join(
      newMachine?.ok ? machines.add(newMachine.value) : (machine as number),
      bore,
      newFilament?.ok ? filaments.add(newFilament.value) : (filament as number),
      now(),
    ),
  )();
  revalidatePath('/', 'layout');
  return { ok: true, value: id };
}
