'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';
import { z } from 'zod';
import { Wish } from '@/core/graft/recipe';
import { kindFor } from '@/core/ladders/registry';
import { defaultWeights } from '@/core/reading/gather';
import { parseWith } from '@/core/result';
import { now, store } from '../server/store';
import { inThread } from '../server/threads';
import { gone, idIn, Spec, type Answer } from './answer';

/**
 * Makes a ladder of a sliced file that is kept with a bench, and goes to its print screen.
 *
 * @param ladderId the ladder that is made anew, where it has not been printed yet; otherwise a new one is made
 */
export async function makeGraft(
  keptId: unknown,
  ladderId: unknown,
  data: unknown,
): Promise<Answer> {
  const { kept, benches, ladders, grafts, files, prints, db } = store();
  const file = kept.get(idIn(keptId));
  const bench = file && benches.get(file.benchId);
  const bytes = file && (await kept.body(file.id));
  if (!file || !bench || !bytes) return gone('file');
  const wish = parseWith(Wish, data, 'sections');
  if (!wish.ok) return wish;
  const task = { name: file.name, bytes, wish: wish.value, bench: bench.bench };
  const made = await inThread('sliced', task);
  if (!made.ok) return made;
  const { plan, checked } = made.value;
  const spec = Spec.parse(plan.spec);
  const kind = kindFor(plan);
  if (!kind.ok) return kind;
  const before = ladders.get(idIn(ladderId));
  const again =
    before && before.benchId === bench.id && grafts.of(before.id) && !prints.any(before.id)
      ? before.id
      : null;
  const id = db.transaction(() => {
    const ladder =
      again ??
      ladders.add({
        benchId: bench.id,
        kind: 'graft',
        spec,
        weights: defaultWeights(kind.value),
        createdAt: now(),
      });
    if (again !== null) {
      ladders.changeSpec(again, spec);
      ladders.changeWeights(again, defaultWeights(kind.value));
    }
    grafts.put(ladder, file.id, wish.value);
    const fileId = files.keep(ladder, made.value.bytes, plan, now());
    files.keepChecked(fileId, checked);
    return ladder;
  })();
  revalidatePath('/', 'layout');
  redirect(`/ladder/${id}/print`);
}

const Range = z.object({ from: z.number(), to: z.number(), step: z.number().positive() });

/** The next ladder of the same file: its sections stay, the range is another one. */
export async function nextGraft(ladderId: unknown, range: unknown): Promise<Answer> {
  const made = store().grafts.of(idIn(ladderId));
  const next = Range.safeParse(range);
  if (!made || !next.success) return gone('ladder');
  const { from, to, step } = next.data;
  return redirect(
    `/graft/${made.keptId}?ladder=${made.ladderId}&from=${from}&to=${to}&step=${step}`,
  );
}
