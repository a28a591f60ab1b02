'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { Filament, joinBench, Nozzle } from '@/core/bench/bench';
import { thingLabels } from '@/core/bench/labels';
import { Machine, SMALLEST_BED } from '@/core/bench/machine';
import { DEFAULT_NOZZLE, FILAMENTS } from '@/core/bench/presets';
import { bedBox } from '@/core/bench/bed';
import { blockFaults } from '@/core/gcode/block-faults';
import { short } from '@/core/numbers';
import { fail, parseWith, problem, type Problem, type Result } from '@/core/result';
import { now, store } from '../server/store';
import { refusedTo } from '../server/who';
import { gone, idIn, type Answer } from './answer';

/** A machine on which something can be printed, whose blocks can be filled in and do nothing wild. */
function parseMachine(data: unknown): Result<Machine> {
  const parsed = parseWith(Machine, data, 'machine', thingLabels);
  if (!parsed.ok) return parsed;
  const machine = parsed.value;
  const faults = blockFaults(joinBench(machine, DEFAULT_NOZZLE, FILAMENTS.moss)).map((one) => ({
    ...one,
    label: one.where[0]!.toUpperCase() + one.where.slice(1),
  }));
  const problems = [...smallBed(machine), ...faults];
  return problems.length > 0 ? fail(...problems) : parsed;
}

function smallBed({ bed }: Machine): Problem[] {
  const { minX, maxX, minY, maxY } = bedBox(bed);
  const [width, depth] = [maxX - minX, maxY - minY];
  if (Math.min(width, depth) >= SMALLEST_BED) return [];
  return [
    {
      ...problem(
        'bed',
        `${short(width)} × ${short(depth)} mm came; no ladder fits a bed under ${SMALLEST_BED} mm.`,
        'Check that it is in millimetres.',
      ),
      label: bed.shape === 'round' ? 'Bed diameter' : 'Bed width and depth',
    },
  ];
}

const parseFilament = (data: unknown): Result<Filament> =>
  parseWith(Filament, data, 'filament', thingLabels);

/** What saving answers: the id, or who else saved in between with what stands now. */
export type Saved<T> =
  Answer<number> | { ok: false; problems: Problem[]; theirs: { body: T; revision: number } };

const Revision = z.number().int().min(0).nullable().catch(null);

function save<T>(
  shelf: {
    add: (body: T) => number;
    change: (id: number, body: T) => boolean;
    get: (id: number) => { body: T; revision: number } | null;
  },
  what: string,
  id: unknown,
  parsed: Result<T>,
  seen: unknown,
): Saved<T> {
  if (!parsed.ok) return parsed;
  if (id === null) {
    const added = shelf.add(parsed.value);
    revalidatePath('/', 'layout');
    return { ok: true, value: added };
  }
  const stands = shelf.get(idIn(id));
  if (!stands) return gone(what);
  const revision = Revision.parse(seen);
  if (revision !== null && revision !== stands.revision)
    return {
      ok: false,
      theirs: stands,
      problems: [
        problem(
          what,
          `This ${what} was changed in another window since you opened it.`,
          'Load the other version, or save yours instead.',
        ),
      ],
    };
  shelf.change(idIn(id), parsed.value);
  revalidatePath('/', 'layout');
  return { ok: true, value: idIn(id) };
}

/** @param seen revision that the page has shown; null saves over whatever stands */
export async function saveMachine(
  id: unknown,
  data: unknown,
  seen: unknown,
): Promise<Saved<Machine>> {
  const refused = await refusedTo('change');
  if (refused) return refused;
  return save(store().machines, 'machine', id, parseMachine(data), seen);
}

export async function saveFilament(
  id: unknown,
  data: unknown,
  seen: unknown,
): Promise<Saved<Filament>> {
  const refused = await refusedTo('change');
  if (refused) return refused;
  return save(store().filaments, 'filament', id, parseFilament(data), seen);
}

/** Either an existing machine or filament by id, or a new one in full. */
const Either = z.union([z.number().int().positive(), z.record(z.string(), z.unknown())]);
const NewBench = z.object({ machine: Either, filament: Either, bore: z.number() });

/** Makes a bench, and its machine and filament if they are new, all in one transaction. */
export async function makeBench(data: unknown): Promise<Answer<number>> {
  const refused = await refusedTo('change');
  if (refused) return refused;
  const given = parseWith(NewBench, data);
  if (!given.ok) return given;
  const { machine, filament, bore } = given.value;
  const { db, machines, filaments, benches } = store();
  if (typeof machine === 'number' && !machines.get(machine)) return gone('machine');
  if (typeof filament === 'number' && !filaments.get(filament)) return gone('filament');
  const newMachine = typeof machine === 'number' ? null : parseMachine(machine);
  const newFilament = typeof filament === 'number' ? null : parseFilament(filament);
  const nozzle = parseWith(Nozzle, { diameter: bore }, 'nozzle', () => 'Nozzle');
  const problems = [newMachine, newFilament, nozzle].flatMap((one) =>
    one && !one.ok ? one.problems : [],
  );
  if (problems.length > 0) return fail(...problems);
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
