'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { settingInfo, valueLine, type Values } from '@/core/bench/settings';
import { slowly, workedSteps } from '@/core/ladders/extruder-steps/kind';
import { snap, tidy } from '@/core/numbers';
import { fail, ok, problem, type Result } from '@/core/result';
import { baseOf } from '@/core/route/base';
import { askLink, isSimulated, linkState } from '../server/link';
import { now, store } from '../server/store';
import { inThread } from '../server/threads';
import { refusedTo } from '../server/who';
import { done, gone, idIn, type Answer } from './answer';
import { applyToMachine, readMachine, storeInMachine } from './link';

const Left = z.array(z.number().min(-50).max(300)).min(1).max(12);

/** Feeds a length slowly through the hot nozzle; how it goes is seen in the state of the machine. */
export async function feedFilament(benchId: unknown): Promise<Answer> {
  const refused = await refusedTo('start');
  if (refused) return refused;
  const bench = store().benches.get(idIn(benchId));
  if (!bench) return gone('bench');
  const { length, speed } = slowly(bench.bench);
  return askLink({ act: 'feed', machine: bench.machineId, mm: length, speed });
}

/** What is left of a mark beside a simulated machine, as somebody with a ruler would read it, mm. */
export async function readRuler(benchId: unknown): Promise<Result<number>> {
  const bench = store().benches.get(idIn(benchId));
  const state = bench && (await linkState(bench.machineId));
  if (!bench || !state?.simulated || !state.feeding) return gone('filament');
  const has = await readMachine(bench.id, false);
  if (!has.ok) return has;
  const had: Values = Object.fromEntries(
    has.value.settings.map(({ setting, value }) => [setting, value]),
  );
  const { seed } = state.simulated;
  return ok(await inThread('ruler', { bench: bench.bench, seed, had, n: state.feeding.n }));
}

/** Works out what the machine has to have from what was left, and puts it into the ledger and the machine. */
export async function keepSteps(benchId: unknown, sent: unknown): Promise<Answer> {
  const refused = await refusedTo('start');
  if (refused) return refused;
  const bench = store().benches.get(idIn(benchId));
  const left = Left.safeParse(sent);
  if (!bench) return gone('bench');
  if (!left.success)
    return fail(problem('left', 'Lengths in mm were expected.', 'Measure, and enter each.'));
  const has = await readMachine(bench.id, false);
  if (!has.ok) return has;
  for (const setting of ['steps', 'rotation'] as const) {
    const present = has.value.settings.find((one) => one.setting === setting)?.value;
    if (present === undefined) continue;
    const worked = workedSteps(setting, { present, ...slowly(bench.bench) }, left.data);
    if (!worked.ok) return worked;
    const [found] = worked.value.values;
    const value = tidy(snap(found!.value, settingInfo(setting).resolution));
    store().ledger.put({
      benchId: bench.id,
      setting,
      value,
      low: tidy(found!.range[0]),
      high: tidy(found!.range[1]),
      base: baseOf(bench.bench),
      ladderId: null,
      simulated: await isSimulated(bench.machineId),
      foundAt: now(),
    });
    revalidatePath('/', 'layout');
    // Where it stands in a file, the comparison shows the line for it.
    if (valueLine(setting, value, bench.bench) === null) return done;
    const applied = await applyToMachine(bench.id, setting, value);
    if (!applied.ok || bench.bench.machine.dialect.save === '') return applied;
    return storeInMachine(bench.id);
  }
  return fail(
    problem(
      'machine',
      'Its report does not speak of extruder steps.',
      'Use the ladder for extruder steps instead.',
    ),
  );
}
