'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';
import { now, store } from '../server/store';
import { readerHere } from '../server/who';
import { gone, idIn, type Answer } from './answer';

/** One printed copy of a file; begins its first reading. */
export async function itIsPrinted(fileId: unknown): Promise<Answer> {
  const file = store().files.get(idIn(fileId));
  if (!file) return gone('file');
  const reader = await readerHere();
  store().db.transaction(() => {
    const print = store().prints.add(file.id, now());
    store().readings.start(print, reader, now());
  })();
  revalidatePath('/', 'layout');
  redirect(`/ladder/${file.ladderId}/read`);
}

/**
 * The reading that a phone goes on with: the newest of the file's newest print, or the first of a print that was just
 * made. @returns its address
 */
export async function toScoreElsewhere(fileId: unknown): Promise<Answer<string>> {
  const { db, files, prints, readings } = store();
  const file = files.get(idIn(fileId));
  if (!file) return gone('file');
  const print = prints.ofLadder(file.ladderId).findLast((one) => one.fileId === file.id);
  const reader = await readerHere();
  const known = print && readings.ofPrint(print.id).at(-1)?.id;
  const id =
    known ??
    db.transaction(() => readings.start(print?.id ?? prints.add(file.id, now()), reader, now()))();
  if (known === undefined) revalidatePath('/', 'layout');
  return { ok: true, value: `/join/${id}` };
}

/** Another look at the same print. */
export async function readAgain(printId: unknown): Promise<Answer> {
  const print = store().prints.get(idIn(printId));
  const file = print && store().files.get(print.fileId);
  if (!print || !file) return gone('print');
  const id = store().readings.start(print.id, await readerHere(), now());
  revalidatePath('/', 'layout');
  redirect(`/ladder/${file.ladderId}/read?reading=${id}`);
}
