'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';
import { z } from 'zod';
import { makeLadder, specFor } from '@/core/ladders/make';
import { kindOf } from '@/core/ladders/registry';
import { defaultWeights } from '@/core/reading/find';
import { Weights } from '@/core/reading/types';
import { baseOf } from '@/core/route/base';
import { findingOf } from '../server/finding';
import { store, now } from '../server/store';
import { done, gone, type Answer } from './answer';

const Id = z.number().int().positive();
const Spec = z.record(z.string(), z.number());

/** Sets up a ladder on a bench and goes to its designer. */
export async function setUpLadder(
  benchId: number,
  kindId: string,
  given: Record<string, number> = {},
): Promise<Answer> {
  const bench = store().benches.get(Id.parse(benchId));
  const kind = kindOf(kindId);
  if (!bench) return gone('bench');
  if (!kind.ok) return kind;
  const spec = specFor(kind.value, bench.bench, Spec.parse(given));
  if (!spec.ok) return spec;
  const id = store().ladders.add({
    benchId,
    kind: kindId,
    spec: Spec.parse(spec.value),
    weights: defaultWeights(kind.value),
    createdAt: now(),
  });
  redirect(`/ladder/${id}/design`);
}

/** Keeps what was typed in the designer; it need not be printable yet. */
export async function keepSpec(ladderId: number, data: unknown): Promise<Answer> {
  const spec = Spec.safeParse(data);
  const ladder = store().ladders.get(Id.parse(ladderId));
  if (!ladder) return gone('ladder');
  const kind = kindOf(ladder.kind);
  const bench = store().benches.get(ladder.benchId);
  if (!kind.ok || !bench || !spec.success) return gone('ladder');
  const parsed = specFor(kind.value, bench.bench, spec.data);
  if (!parsed.ok) return parsed;
  store().ladders.changeSpec(ladderId, spec.data);
  return done;
}

/** Makes the file, keeps it whole, and goes to the print screen. */
export async function makeFile(ladderId: number, data: unknown): Promise<Answer> {
  const ladder = store().ladders.get(Id.parse(ladderId));
  const bench = ladder && store().benches.get(ladder.benchId);
  if (!ladder || !bench) return gone('ladder');
  const spec = Spec.parse(data);
  const made = makeLadder(ladder.kind, spec, bench.bench);
  if (!made.ok) return made;
  store().db.transaction(() => {
    store().ladders.changeSpec(ladderId, spec);
    store().files.keep(ladderId, made.value.text, made.value.plan, now());
  })();
  redirect(`/ladder/${ladderId}/print`);
}

/** One printed copy of a file; begins its first reading. */
export async function itIsPrinted(fileId: number): Promise<Answer> {
  const file = store().files.get(Id.parse(fileId));
  if (!file) return gone('file');
  store().db.transaction(() => {
    const print = store().prints.add(fileId, now());
    store().readings.start(print, '', now());
  })();
  redirect(`/ladder/${file.ladderId}/read`);
}

/** Another look at the same print. */
export async function readAgain(printId: number): Promise<Answer> {
  const print = store().prints.get(Id.parse(printId));
  const file = print && store().files.get(print.fileId);
  if (!print || !file) return gone('print');
  const id = store().readings.start(printId, '', now());
  redirect(`/ladder/${file.ladderId}/read?reading=${id}`);
}

export async function turnWeights(ladderId: number, data: unknown): Promise<Answer> {
  const weights = Weights.safeParse(data);
  if (!weights.success || !store().ladders.changeWeights(Id.parse(ladderId), weights.data))
    return gone('ladder');
  revalidatePath(`/ladder/${ladderId}/finding`);
  return done;
}

export async function putLadderAway(ladderId: number, away: boolean): Promise<Answer> {
  const { ladders } = store();
  const moved = away
    ? ladders.putAway(Id.parse(ladderId), now())
    : ladders.restore(Id.parse(ladderId));
  if (!moved) return gone('ladder');
  revalidatePath('/', 'layout');
  return done;
}

/** Puts a kept file away, or brings it back. */
export async function putFileAway(fileId: number, away: boolean): Promise<Answer> {
  const { kept } = store();
  const moved = away ? kept.putAway(Id.parse(fileId), now()) : kept.restore(Id.parse(fileId));
  if (!moved) return gone('file');
  revalidatePath('/', 'layout');
  return done;
}

/** Puts the ladder's own finding into the ledger; worked out here again, never taken from the page. */
export async function putIntoLedger(ladderId: number): Promise<Answer<number>> {
  const ladder = store().ladders.get(Id.parse(ladderId));
  const bench = ladder && store().benches.get(ladder.benchId);
  if (!ladder || !bench) return gone('ladder');
  const found = findingOf(ladder, bench.bench);
  if (!found.ok) return found;
  const { simulated } = found.value;
  const { value, range, setting, also } = found.value.finding;
  const kind = kindOf(ladder.kind);
  const standsOn = kind.ok ? kind.value.standsOn : [];
  if (value === null)
    return {
      ok: false,
      problems: [
        {
          where: 'finding',
          what: 'There is no value to put down.',
          mend: 'Print the next ladder.',
        },
      ],
    };
  const { db, ledger } = store();
  const common = {
    benchId: bench.id,
    base: baseOf(bench.bench, standsOn),
    ladderId,
    simulated: simulated !== null,
    foundAt: now(),
  };
  const id = db.transaction(() => {
    for (const one of also)
      ledger.put({ ...common, ...one, low: one.range[0], high: one.range[1] });
    return ledger.put({
      ...common,
      setting,
      value,
      low: range?.[0] ?? null,
      high: range?.[1] ?? null,
    });
  })();
  revalidatePath('/', 'layout');
  return { ok: true, value: id };
}

/** Undoes the newest put. */
export async function takeBack(entryId: number): Promise<Answer> {
  if (!store().ledger.takeBack(Id.parse(entryId))) return gone('ledger entry');
  revalidatePath('/', 'layout');
  return done;
}
