'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { MATERIALS } from '@/core/bench/materials';
import { holds, valuesOf } from '@/core/bench/reported';
import { settingInfo, valueLine } from '@/core/bench/settings';
import { slowly, workedSteps } from '@/core/ladders/extruder-steps/kind';
import { short, snap, tidy } from '@/core/numbers';
import { fail, ok, problem, type Result } from '@/core/result';
import { baseOf } from '@/core/route/base';
import { askLink, isSimulated, linkState } from '../server/link';
import { now, store } from '../server/store';
import { inThread } from '../server/threads';
import { refusedTo } from '../server/who';
import { done, gone, idIn, type Answer } from './answer';
import { applyToMachine, readMachine, storeInMachine } from './link';

const Measured = z.object({
  setting: z.enum(['steps', 'rotation']),
  present: z.number().positive(),
  left: z.array(z.number().min(-50).max(300)).min(1).max(12),
});

/** Feeds a length slowly through the hot nozzle; how it goes is seen in the state of the machine. */
export async function feedFilament(benchId: unknown): Promise<Answer> {
  const refused = await refusedTo('start');
  if (refused) return refused;
  const bench = store().benches.get(idIn(benchId));
  if (!bench) return gone('bench');
  const { length, speed } = slowly(bench.bench);
  const { coldest } = MATERIALS[bench.bench.filament.material];
  return askLink({ act: 'feed', machine: bench.machineId, mm: length, speed, coldest });
}

/** What is left of a mark beside a simulated machine, as somebody with a ruler would read it, mm. */
export async function readRuler(benchId: unknown): Promise<Result<number>> {
  const bench = store().benches.get(idIn(benchId));
  const state = bench && (await linkState(bench.machineId));
  if (!bench || !state?.simulated || !state.feeding) return gone('filament');
  const has = await readMachine(bench.id, false);
  if (!has.ok) return has;
  const had = valuesOf(has.value.settings);
  const { seed } = state.simulated;
  return ok(await inThread('ruler', { bench: bench.bench, seed, had, n: state.feeding.n }));
}

/**
 * Works out what the machine has to have from what was left of a mark, and puts it into the ledger and the machine. What
 * it had while it was measured is sent along: pressed again because an answer was lost, it comes to the same.
 */
export async function keepSteps(benchId: unknown, sent: unknown): Promise<Answer> {
  const refused = await refusedTo('start');
  if (refused) return refused;
  const bench = store().benches.get(idIn(benchId));
  const measured = Measured.safeParse(sent);
  if (!bench) return gone('bench');
  if (!measured.success)
    return fail(problem('left', 'Lengths in mm were expected.', 'Measure, and enter each.'));
  const { setting, present, left } = measured.data;
  const worked = workedSteps(setting, { present, ...slowly(bench.bench) }, left);
  if (!worked.ok) return worked;
  const [found] = worked.value.values;
  const { title, unit, resolution } = settingInfo(setting);
  const value = tidy(snap(found!.value, resolution));
  const has = await readMachine(bench.id, false);
  if (!has.ok) return has;
  const seen = has.value.settings.find((one) => one.setting === setting);
  const isAt = (one: number) => seen !== undefined && holds(seen, one, bench.bench);
  if (!isAt(present) && !isAt(value))
    return fail(
      problem(
        'machine',
        `The machine has ${seen ? short(seen.value) : 'no'} ${unit} of ${title} now, and had ${short(present)} when it fed.`,
        'Measure again with what it has now.',
      ),
    );
  const entry = {
    benchId: bench.id,
    setting,
    value,
    low: tidy(found!.range[0]),
    high: tidy(found!.range[1]),
    base: baseOf(bench.bench),
    ladderId: null,
    simulated: await isSimulated(bench.machineId),
    foundAt: now(),
  };
  const stands = store()
    .ledger.current(bench.id)
    .some((one) => one.setting === setting && one.value === value && one.low === entry.low);
  if (!stands) store().ledger.put(entry);
  revalidatePath('/', 'layout');
  // Where it stands in a file, the comparison shows the line for it.
  if (valueLine(setting, value, bench.bench) === null) return done;
  const applied = isAt(value) ? done : await applyToMachine(bench.id, setting, value);
  if (!applied.ok || bench.bench.machine.dialect.save === '') return applied;
  return storeInMachine(bench.id);
}
