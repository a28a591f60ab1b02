'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';
import { now, store } from '../server/store';
import { gone, idIn, type Answer } from './answer';

/** One printed copy of a file; begins its first reading. */
export async function itIsPrinted(fileId: unknown): Promise<Answer> {
  const file = store().files.get(idIn(fileId));
  if (!file) return gone('file');
  store().db.transaction(() => {
    const print = store().prints.add(file.id, now());
    store().readings.start(print, '', now());
  })();
  revalidatePath('/', 'layout');
  redirect(`/ladder/${file.ladderId}/read`);
}

/** Another look at the same print. */
export async function readAgain(printId: unknown): Promise<Answer> {
  const print = store().prints.get(idIn(printId));
  const file = print && store().files.get(print.fileId);
  if (!print || !file) return gone('print');
  const id = store().readings.start(print.id, '', now());
  revalidatePath('/', 'layout');
  redirect(`/ladder/${file.ladderId}/read?reading=${id}`);
}
