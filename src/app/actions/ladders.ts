'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';
import { z } from 'zod';
import type { Bench } from '@/core/bench/bench';
import { DEFAULT_NOZZLE, FILAMENTS, MACHINES } from '@/core/bench/presets';
import { addsUp, type Setting } from '@/core/bench/settings';
import { specFor, whyNot } from '@/core/ladders/make';
import { isProvable, keyOf } from '@/core/ladders/proof/sets';
import { kindFor, kindOf } from '@/core/ladders/registry';
import type { LadderKind } from '@/core/ladders/types';
import { defaultWeights } from '@/core/reading/gather';
import { typedValue } from '@/core/reading/find-value';
import { rowsOfFinding } from '@/core/reading/found-rows';
import type { Proposal } from '@/core/reading/finding';
import { RowStyle } from '@/core/reading/rows';
import { Weights } from '@/core/reading/types';
import { tidy } from '@/core/numbers';
import { fail, problem } from '@/core/result';
import { baseOf } from '@/core/route/base';
import type { Entry } from '@/store/ledger';
import { findingOf, groupFor } from '../server/finding';
import { provenIn } from '../server/proven';
import { copiesOf, groupsOf } from '../server/ladder';
import { addedTo } from '../server/offset';
import { triedOut } from '../server/tried-out';
import { now, store } from '../server/store';
import { refusedTo } from '../server/who';
import { inThread } from '../server/threads';
import { done, gone, idIn, Spec, type Answer } from './answer';

/** Sets up a ladder on a bench and goes to its designer. */
export async function setUpLadder(
  benchId: unknown,
  kindId: unknown,
  given: unknown = {},
): Promise<Answer> {
  const bench = store().benches.get(idIn(benchId));
  const asked = kindOf(String(kindId).slice(0, 60));
  // What is set up is printed as it is today.
  const kind = asked.ok && asked.value.now ? kindOf(asked.value.now) : asked;
  const typed = Spec.safeParse(given);
  if (!bench) return gone('bench');
  if (!kind.ok) return kind;
  if (!typed.success) return gone('ladder');
  const unfit = whyNot(kind.value, bench.bench);
  if (unfit) return fail(unfit);
  const drawn = kind.value.rule.kind === 'proof' ? drawnBefore(store().ledger.all(bench.id)) : {};
  const spec = specFor(kind.value, bench.bench, { ...drawn, ...typed.data });
  if (!spec.ok) return spec;
  const ladder = {
    benchId: bench.id,
    kind: kind.value.id,
    spec: Spec.parse(spec.value),
    weights: defaultWeights(kind.value),
    createdAt: now(),
  };
  const { ladders } = store();
  // Values that come along were chosen; without any it is only looked at.
  const isChosen = Object.keys(typed.data).length > 0;
  const id = isChosen ? ladders.addChosen(ladder) : ladders.addToLookAt(ladder);
  revalidatePath('/', 'layout');
  redirect(`/ladder/${id}/design`);
}

/** What a proof starts with: a draw that nobody knows, and for each value of the ledger the one that stood before it. */
function drawnBefore(entries: readonly Entry[]): Record<string, number> {
  const before = entries.flatMap((entry, i) => {
    const earlier = entries
      .slice(i + 1)
      .find((one) => one.setting === entry.setting && one.simulated === entry.simulated);
    const stands = entry.replacedAt === null && isProvable(entry.setting);
    return stands && earlier ? [[keyOf('before', entry.setting), earlier.value] as const] : [];
  });
  return { ...Object.fromEntries(before), seed: 1 + Math.floor(Math.random() * 1e9) };
}

/**
 * Sets up the same ladder on another bench: what was changed from what is usual on its own bench stays, all else is
 * what is usual on the other.
 */
export async function sameLadder(ladderId: unknown, benchId: unknown): Promise<Answer> {
  const ladder = store().ladders.get(idIn(ladderId));
  const own = ladder && store().benches.get(ladder.benchId);
  const kind = ladder && kindFor(ladder);
  if (!ladder || !own || !kind?.ok) return gone('ladder');
  if (!store().benches.get(idIn(benchId))) return gone('bench');
  const made = store().grafts.of(ladder.id);
  if (made) {
    const there = store().kept.copyTo(made.keptId, idIn(benchId), now());
    return there === null ? gone('file') : redirect(`/graft/${there}?ladder=${ladder.id}`);
  }
  const usual = kind.value.defaults(own.bench) as Record<string, number>;
  const changed = Object.entries(ladder.spec).filter(([key, value]) => usual[key] !== value);
  return setUpLadder(benchId, ladder.kind, Object.fromEntries(changed));
}

/** A bench to practise on, with the first ladder worth trying: nothing needs to be described, and no printer. */
export async function tryOut(): Promise<Answer> {
  const refused = await refusedTo('change');
  if (refused) return refused;
  const { db, machines, filaments, benches } = store();
  const benchId = db.transaction(() =>
    benches.join(
      machines.add({ ...MACHINES.heron, name: 'Practice machine' }),
      DEFAULT_NOZZLE.diameter,
      filaments.add({ ...FILAMENTS.moss, name: 'Practice PLA' }),
      now(),
    ),
  )();
  triedOut(benchId);
  return setUpLadder(benchId, 'temperature');
}

/** Makes the file, keeps it whole, and goes to the print screen. */
export async function makeFile(ladderId: unknown, data: unknown): Promise<Answer> {
  const ladder = store().ladders.get(idIn(ladderId));
  const bench = ladder && store().benches.get(ladder.benchId);
  const spec = Spec.safeParse(data);
  if (!ladder || !bench || !spec.success) return gone('ladder');
  const made = await inThread('make', {
    kind: ladder.kind,
    spec: spec.data,
    bench: bench.bench,
  });
  if (!made.ok) return made;
  store().db.transaction(() => {
    store().ladders.changeSpec(ladder.id, spec.data);
    const { text, plan, checked } = made.value;
    const fileId = store().files.keep(ladder.id, text, plan, now());
    store().files.keepChecked(fileId, checked);
  })();
  revalidatePath('/', 'layout');
  redirect(`/ladder/${ladder.id}/print`);
}

export async function turnWeights(ladderId: unknown, data: unknown): Promise<Answer> {
  const weights = Weights.safeParse(data);
  if (!weights.success || !store().ladders.changeWeights(idIn(ladderId), weights.data))
    return gone('ladder');
  revalidatePath('/', 'layout');
  return done;
}

const Of = z.string().max(40).optional().catch(undefined);

/**
 * Puts a finding into the ledger: worked out here again, never taken from the page. With `typed`, somebody's own
 * value instead, held against what was printed. What it stands on is the bench as it was printed.
 */
export async function putIntoLedger(
  ladderId: unknown,
  of: unknown,
  typed?: unknown,
  typedOf?: unknown,
): Promise<Answer<number>> {
  const ladder = store().ladders.get(idIn(ladderId));
  const bench = ladder && store().benches.get(ladder.benchId);
  const kind = ladder && kindFor(ladder);
  if (!ladder || !bench || !kind?.ok) return gone('ladder');
  const group = groupFor(groupsOf(copiesOf(ladder.id)), Of.parse(of));
  const plan = group?.copies.at(-1)?.plan;
  if (!group || !plan) return gone('print');
  const { finds, standsOn } = kind.value;
  const common = {
    benchId: bench.id,
    base: baseOf(plan.bench, standsOn),
    ladderId: ladder.id,
    simulated: group.simulated !== null,
    foundAt: now(),
  };
  const { db, ledger } = store();
  // What the machine was given since comes off what is still to be added to it.
  const { printedAt } = group.copies.at(-1)!.print;
  const added = (setting: Setting): number =>
    addsUp(setting) ? addedTo(bench.machineId, common.simulated, printedAt) : 0;
  let id: number;
  if (typed === undefined) {
    const found = await findingOf(ladder, bench.bench, group);
    if (!found.ok) return found;
    const { finding } = found.value;
    const { verdict, values } = finding;
    const table = rowsOfFinding(finding);
    const all = values.filter((one): one is Sure => one.value !== null);
    if (all.length === 0 || verdict !== 'value')
      return fail(problem('finding', 'There is no value to save.', 'Print the next ladder.'));
    const put = ({ setting, value, range }: Sure): number => {
      const off = added(setting);
      const [low, high] = range ? [tidy(range[0] - off), tidy(range[1] - off)] : [null, null];
      const base = joint(plan.bench, kind.value, all, setting);
      const rows = table.length > 0 ? table : null;
      return ledger.put({ ...common, base, setting, value: tidy(value - off), low, high, rows });
    };
    // The one that is taken back by its id, with those that came with it, goes in last.
    id = db.transaction(() => all.toReversed().map(put).at(-1)!)();
  } else {
    const value = typeof typed === 'number' && Number.isFinite(typed) ? typed : NaN;
    const setting = finds.find((one) => one === typedOf) ?? finds[0];
    const held = typedValue(kind.value, plan, bench.bench, value, setting);
    if (!held.ok) return held;
    const own = tidy(held.value - added(setting));
    id = ledger.put({ ...common, setting, value: own, low: null, high: null });
  }
  revalidatePath('/', 'layout');
  return { ok: true, value: id };
}

type Sure = Proposal & { value: number };

/** What a value stands on: of two that were found together, each with what the other was. */
function joint(bench: Bench, { rule, standsOn }: LadderKind, all: readonly Sure[], own: Setting) {
  if (rule.kind !== 'plane') return baseOf(bench, standsOn);
  const others = all.filter(({ setting }) => setting !== own);
  const found = Object.fromEntries(others.map(({ setting, value }) => [setting, value]));
  const tuned = { ...bench.tuned, ...found };
  return baseOf({ ...bench, tuned }, [...standsOn, ...others.map(({ setting }) => setting)]);
}

/** Says whether a value is in the machine itself now: what adds to it there is not added again by files. */
export async function carryIt(entryId: unknown, carried: unknown): Promise<Answer> {
  if (!store().ledger.carry(idIn(entryId), carried === true ? now() : null))
    return gone('ledger entry');
  revalidatePath('/', 'layout');
  return done;
}

/** Says that a print proved the values of its second set, or takes that back. */
export async function proveValues(
  ladderId: unknown,
  of: unknown,
  proven: unknown,
): Promise<Answer> {
  const ladder = store().ladders.get(idIn(ladderId));
  const bench = ladder && store().benches.get(ladder.benchId);
  const group = ladder && groupFor(groupsOf(copiesOf(ladder.id)), Of.parse(of));
  const print = group?.copies.at(-1)?.print;
  if (!ladder || !bench) return gone('ladder');
  if (!group || !print) return gone('print');
  const found = await findingOf(ladder, bench.bench, group);
  if (!found.ok) return found;
  const { values, proof } = found.value.finding;
  if (proof?.told !== 'better')
    return fail(
      problem('proof', 'This print proves nothing.', 'Only what looks better is proven.'),
    );
  const { ledger, db } = store();
  const simulated = group.simulated !== null;
  const held = provenIn(ledger.current(bench.id), values, simulated);
  if (held.length === 0)
    return fail(
      problem(
        'ledger',
        'None of these values is in the ledger any more.',
        'Put them into the ledger first, or print a proof of those that are.',
      ),
    );
  const by = proven === true ? { at: print.printedAt, ladder: ladder.id } : null;
  db.transaction(() => held.forEach(({ id }) => ledger.prove(id, by)))();
  revalidatePath('/', 'layout');
  return done;
}

/** Undoes the newest put. */
export async function takeBack(entryId: unknown): Promise<Answer> {
  if (!store().ledger.takeBack(idIn(entryId))) return gone('ledger entry');
  revalidatePath('/', 'layout');
  return done;
}

/** How rows are written where they are pasted, from now on. */
export async function keepRowStyle(style: unknown): Promise<Answer> {
  const chosen = RowStyle.safeParse(style);
  if (!chosen.success)
    return fail(problem('columns', 'No column was chosen.', 'Choose at least one column.'));
  store().places.set('rows', JSON.stringify(chosen.data));
  return done;
}
