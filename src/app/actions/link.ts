'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';
import { z } from 'zod';
import { addedBy } from '@/core/bench/added';
import type { ReportedSetting } from '@/core/bench/reported';
import { addsUp, SettingName, storesOffset } from '@/core/bench/settings';
import { kindFor } from '@/core/ladders/registry';
import { tidy } from '@/core/numbers';
import type { Floor } from '@/core/plan/nudged';
import type { Plan } from '@/core/plan/plan';
import { fail, parseWith, problem, type Failed, type Result } from '@/core/result';
import { baseOf } from '@/core/route/base';
import type { Act } from '@/link/protocol';
import type { StoredBench } from '@/store/benches';
import { checkedOf } from '../server/checked';
import { askLink, isSimulated, standIns } from '../server/link';
import { addOffset, heightOf, OFFSET, offsetIn, oneByOne } from '../server/offset';
import { now, store } from '../server/store';
import { markStored } from '../server/stored';
import { inThread } from '../server/threads';
import { refusedOffComputer, refusedTo } from '../server/who';
import { done, gone, idIn, type Answer } from './answer';

/** What a machine has, as pages compare it with the ledger. */
export type MachineHas = {
  column: string;
  settings: ReportedSetting[];
  stored: ReportedSetting[] | null;
  notes: string[];
};

const benchIn = (sent: unknown): StoredBench | null => store().benches.get(idIn(sent));

/** Links a machine to an address; one of a simulated machine is marked as such. */
export async function connectMachine(benchId: unknown, sent: unknown): Promise<Answer> {
  const refused = await refusedOffComputer();
  if (refused) return refused;
  const bench = benchIn(benchId);
  const address = parseWith(z.string().trim().min(1).max(300), sent, 'address', () => 'Address');
  if (!bench) return gone('bench');
  if (!address.ok) return address;
  const standIn = standIns().find((one) => one.address === address.value);
  return askLink({
    act: 'connect',
    machine: bench.machineId,
    address: address.value,
    simulated: standIn ? { name: standIn.name, seed: standIn.seed } : null,
    tools: bench.bench.machine.extruder.tools,
  });
}

export async function disconnectMachine(benchId: unknown): Promise<Answer> {
  const refused = await refusedOffComputer();
  if (refused) return refused;
  const bench = benchIn(benchId);
  return bench ? askLink({ act: 'disconnect', machine: bench.machineId }) : gone('bench');
}

/** What is in force; with `stored` also what is kept through switching off. */
export async function readMachine(benchId: unknown, stored: unknown): Promise<Result<MachineHas>> {
  const bench = benchIn(benchId);
  if (!bench) return gone('bench');
  // What is stored is read by loading it: more than looking.
  const refused = stored === true ? await refusedTo('start') : null;
  if (refused) return refused;
  return askLink({
    act: 'settings',
    machine: bench.machineId,
    bench: bench.bench,
    stored: stored === true,
  });
}

/** Puts a value in force; it is said to be there when the machine says so. */
export async function applyToMachine(
  benchId: unknown,
  sentSetting: unknown,
  sentValue: unknown,
): Promise<Answer> {
  const refused = await refusedTo('start');
  if (refused) return refused;
  const bench = benchIn(benchId);
  const setting = SettingName.safeParse(sentSetting);
  const value = z.number().safeParse(sentValue);
  if (!bench || !setting.success || !value.success) return gone('bench');
  if (addsUp(setting.data)) return oneByOne(bench.machineId, () => addOffset(bench));
  // A row that says several settings takes the others as the ledger has them, of this machine or of the simulated one.
  const simulated = await isSimulated(bench.machineId);
  const tuned = Object.fromEntries(
    store()
      .ledger.current(bench.id)
      .filter((entry) => entry.simulated === simulated)
      .map((entry) => [entry.setting, entry.value]),
  );
  const applied = await askLink<{ before: number | null }>({
    act: 'apply',
    machine: bench.machineId,
    bench: { ...bench.bench, tuned },
    setting: setting.data,
    value: value.data,
  });
  if (!applied.ok) return applied;
  store().wires.put({
    machineId: bench.machineId,
    setting: setting.data,
    value: value.data,
    before: applied.value.before,
    simulated,
    at: now(),
  });
  revalidatePath('/', 'layout');
  return done;
}

/** Takes a value that the machine has in force into the ledger, read again here: nobody measured it. */
export async function takeOver(benchId: unknown, sentSetting: unknown): Promise<Answer> {
  const refused = await refusedTo('start');
  if (refused) return refused;
  const bench = benchIn(benchId);
  const setting = SettingName.safeParse(sentSetting);
  if (!bench || !setting.success || addsUp(setting.data)) return gone('bench');
  const has = await readMachine(bench.id, false);
  if (!has.ok) return has;
  const seen = has.value.settings.find((one) => one.setting === setting.data);
  if (!seen)
    return fail(
      problem('setting', 'The machine no longer reports this setting.', 'Read its settings again.'),
    );
  store().ledger.put({
    benchId: bench.id,
    setting: setting.data,
    value: seen.value,
    low: null,
    high: null,
    base: baseOf(bench.bench),
    ladderId: null,
    simulated: await isSimulated(bench.machineId),
    foundAt: now(),
  });
  revalidatePath('/', 'layout');
  return done;
}

/** Stores what is in force; values of the ledger that are kept now count as being in the machine. */
export async function storeInMachine(benchId: unknown): Promise<Answer> {
  const refused = await refusedTo('start');
  if (refused) return refused;
  const bench = benchIn(benchId);
  if (!bench) return gone('bench');
  const kept = await askLink<ReportedSetting[]>({
    act: 'store',
    machine: bench.machineId,
    bench: bench.bench,
  });
  if (!kept.ok) return kept;
  const simulated = await isSimulated(bench.machineId);
  store().db.transaction(() => markStored(bench, kept.value, simulated))();
  revalidatePath('/', 'layout');
  return done;
}

/** Puts back what was there before a value was put into the machine. */
export async function takeBackPut(benchId: unknown, putId: unknown): Promise<Answer> {
  const refused = await refusedTo('start');
  if (refused) return refused;
  const bench = benchIn(benchId);
  const put = store().wires.get(idIn(putId));
  if (!bench || !put || put.machineId !== bench.machineId) return gone('value');
  if (put.before === null)
    return fail(
      problem('value', 'What was there before is not known.', 'Type it under Talk to the machine.'),
    );
  const act = { machine: bench.machineId, bench: bench.bench };
  // An amount comes off what the machine has now: others may have been added since.
  const has = addsUp(put.setting) ? await offsetIn(bench) : null;
  if (has && !has.ok) return has;
  const value = has ? tidy(has.value - addedBy(put)) : put.before;
  const back = await askLink({ act: 'apply', ...act, setting: put.setting, value });
  if (!back.ok) return back;
  if (put.stored) {
    const kept = await askLink({ act: 'store', ...act });
    if (!kept.ok) return kept;
  }
  store().wires.takenBack(put.id, now());
  // What comes from files again, since the machine has it no more.
  if (addsUp(put.setting))
    for (const { id, setting, carriedAt } of store().ledger.current(bench.id))
      if (setting === put.setting && carriedAt === put.at) store().ledger.carry(id, null);
  revalidatePath('/', 'layout');
  return done;
}

async function onWire(benchId: unknown, act: (machine: number) => Act): Promise<Answer> {
  const bench = benchIn(benchId);
  return bench ? askLink(act(bench.machineId)) : gone('bench');
}

export async function sayToMachine(benchId: unknown, sent: unknown): Promise<Answer> {
  const refused: Failed | null = await refusedTo('start');
  if (refused) return refused;
  const line = typeof sent === 'string' ? sent.slice(0, 240) : '';
  return onWire(benchId, (machine) => ({ act: 'talk', machine, line }));
}

const Degrees = z.number().min(0).max(500).nullable().catch(null);

/** Temperatures to go to, °C; null leaves one as it is, 0 switches it off. */
export async function heatMachine(
  benchId: unknown,
  nozzle: unknown,
  bed: unknown,
): Promise<Answer> {
  const refused = await refusedTo('start');
  if (refused) return refused;
  const bench = benchIn(benchId);
  if (!bench) return gone('bench');
  const { extruder, bedHottest, name } = bench.bench.machine;
  const to = { nozzle: Degrees.parse(nozzle), bed: Degrees.parse(bed) };
  const tooHot =
    (to.nozzle ?? 0) > extruder.hottest
      ? `The nozzle of ${name} bears ${extruder.hottest} °C`
      : (to.bed ?? 0) > bedHottest
        ? `The bed of ${name} bears ${bedHottest} °C`
        : null;
  if (tooHot) return fail(problem('heat', `${tooHot}.`, 'Give less.'));
  return onWire(benchId, (machine) => ({ act: 'heat', machine, ...to }));
}

/** How long a hot machine may stand idle, min. */
export async function idleAfter(benchId: unknown, minutes: unknown): Promise<Answer> {
  const refused = await refusedTo('start');
  if (refused) return refused;
  const to = z.number().int().min(1).max(240).safeParse(minutes);
  if (!to.success)
    return fail(problem('minutes', 'A time in whole minutes was expected.', 'Give 1 to 240.'));
  return onWire(benchId, (machine) => ({ act: 'idle', machine, minutes: to.data }));
}

/** Lets the machine tune the heater of its nozzle at a temperature, °C. */
export async function tuneHeaterOf(benchId: unknown, celsius: unknown): Promise<Answer> {
  const refused = await refusedTo('start');
  if (refused) return refused;
  const bench = benchIn(benchId);
  const to = z.number().min(100).max(500).safeParse(celsius);
  if (!bench) return gone('bench');
  const { hottest } = bench.bench.machine.extruder;
  if (!to.success || to.data > hottest)
    return fail(
      problem('heat', 'A temperature to tune at was expected.', `Give 100 to ${hottest} °C.`),
    );
  return askLink({ act: 'tune', machine: bench.machineId, bench: bench.bench, celsius: to.data });
}

/** Puts the constants that were found in force; they are there when the machine says so. */
export async function applyTuning(benchId: unknown): Promise<Answer> {
  const refused = await refusedTo('start');
  if (refused) return refused;
  const bench = benchIn(benchId);
  if (!bench) return gone('bench');
  return askLink({ act: 'apply-tuning', machine: bench.machineId, bench: bench.bench });
}

/** Everything stops at once. Open to whoever sees the machine: somebody may stand beside it with a phone. */
export async function stopEverything(benchId: unknown): Promise<Answer> {
  return onWire(benchId, (machine) => ({ act: 'emergency', machine }));
}

/** How low its first layer may be nudged while it prints, if it is one. */
function floorsOf(plan: Plan): { floors?: Floor[] } {
  const kind = kindFor(plan);
  return kind.ok && kind.value.floors ? { floors: kind.value.floors(plan) } : {};
}

/** Prints a ladder's file as it is kept. */
export async function printOnMachine(benchId: unknown, fileId: unknown): Promise<Answer> {
  const refused = await refusedTo('start');
  if (refused) return refused;
  const bench = benchIn(benchId);
  const file = store().files.get(idIn(fileId));
  if (!bench || !file) return gone('file');
  if (store().ladders.get(file.ladderId)?.benchId !== bench.id)
    return fail(
      problem(
        'file',
        'This file was made for another bench.',
        'Open its ladder from its own bench, and print it from there.',
      ),
    );
  const { audited } = await checkedOf(file);
  const stops = audited.findings.filter(({ grade }) => grade === 'stop');
  if (stops.length > 0) return fail(...stops.map(({ what, mend }) => problem('file', what, mend)));
  const begun = await askLink({
    act: 'print',
    machine: bench.machineId,
    bench: bench.bench,
    file: file.id,
    kept: null,
    name: file.name,
    ...floorsOf(file.plan),
  });
  if (!begun.ok) return begun;
  revalidatePath('/', 'layout');
  redirect(`/ladder/${file.ladderId}/print`);
}

/** Prints a file from elsewhere that is kept with this bench, when its check finds nothing that stands against it. */
export async function printKept(benchId: unknown, keptId: unknown): Promise<Answer> {
  const refused = await refusedTo('start');
  if (refused) return refused;
  const bench = benchIn(benchId);
  const kept = store().kept.get(idIn(keptId));
  const bytes = kept && (await store().kept.body(kept.id));
  if (!bench || !kept || !bytes || kept.benchId !== bench.id) return gone('file');
  const against = await inThread('stops', { bytes, bench: bench.bench });
  if (against.length > 0)
    return fail(...against.map(({ what, mend }) => problem('file', what, mend)));
  return askLink({
    act: 'print',
    machine: bench.machineId,
    bench: bench.bench,
    file: null,
    kept: kept.id,
    name: kept.name,
  });
}

/** Moves the nozzle of a first layer while it prints, mm upward. */
export async function nudgePrint(benchId: unknown, sent: unknown): Promise<Answer> {
  const refused = await refusedTo('start');
  if (refused) return refused;
  const mm = z.number().min(-0.1).max(0.1).safeParse(sent);
  if (!mm.success) return fail(problem('nudge', 'A small step was expected.', 'Use the buttons.'));
  return onWire(benchId, (machine) => ({ act: 'nudge', machine, mm: mm.data }));
}

/** Takes the height that a nudged print came to last into the ledger, and into the machine. */
export async function keepHeight(benchId: unknown, jobId: unknown): Promise<Answer> {
  const refused = await refusedTo('start');
  if (refused) return refused;
  const bench = benchIn(benchId);
  const job = store().wires.job(idIn(jobId));
  if (!bench || !job || job.machineId !== bench.machineId) return gone('print');
  return oneByOne(bench.machineId, async () => {
    const reached = heightOf(job, bench);
    if (!reached)
      return fail(problem('nudge', 'Nothing was nudged on it.', 'Load the page again.'));
    const { left, kept, simulated, ladderId } = reached;
    if (kept)
      return fail(problem('nudge', 'This height was taken over already.', 'Load the page again.'));
    store().ledger.put({
      benchId: bench.id,
      setting: OFFSET,
      value: left,
      low: null,
      high: null,
      base: baseOf(bench.bench),
      ladderId,
      simulated,
      foundAt: now(),
    });
    revalidatePath('/', 'layout');
    // A machine that keeps it in a file has it from every file that is made now.
    if (!storesOffset(bench.bench.machine.dialect)) return done;
    if (job.nudged === 0) return addOffset(bench);
    return fail(
      problem(
        'nudge',
        'It is in the ledger, but what was nudged may still stand in the machine: it could not be taken back.',
        'Switch the machine off and on, then apply the first-layer offset on its page.',
      ),
    );
  });
}

/** A person has seen that a machine is off, or cold: nothing waits for it any longer. */
export async function itIsOff(sent: unknown): Promise<Answer> {
  const refused = await refusedTo('start');
  if (refused) return refused;
  const address = z.string().max(300).safeParse(sent);
  return address.success ? askLink({ act: 'dismiss', address: address.data }) : gone('machine');
}

export async function pausePrint(benchId: unknown): Promise<Answer> {
  return onWire(benchId, (machine) => ({ act: 'pause', machine }));
}

export async function goOnPrinting(benchId: unknown): Promise<Answer> {
  const refused = await refusedTo('start');
  if (refused) return refused;
  return onWire(benchId, (machine) => ({ act: 'go', machine }));
}

export async function stopPrint(benchId: unknown): Promise<Answer> {
  return onWire(benchId, (machine) => ({ act: 'stop', machine }));
}
