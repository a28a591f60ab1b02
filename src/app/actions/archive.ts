'use server';

import { revalidatePath } from 'next/cache';
import { Shelf } from '@/store/archive';
import { changed } from '../server/live';
import { now, store } from '../server/store';
import { refusedTo } from '../server/who';
import { done, gone, idIn, type Answer } from './answer';

/** Puts something into the archive, or brings it back. */
export async function archiveIt(shelf: unknown, id: unknown, away: unknown): Promise<Answer> {
  const refused = await refusedTo('change');
  if (refused) return refused;
  const which = Shelf.safeParse(shelf);
  if (!which.success || typeof away !== 'boolean') return gone('entry');
  const { archive } = store();
  const moved = away
    ? archive.putAway(which.data, idIn(id), now())
    : archive.restore(which.data, idIn(id));
  if (!moved) return gone(which.data);
  const print = which.data === 'photo' ? store().photos.printOf(idIn(id)) : null;
  if (print !== null) changed(`/prints/${print}/photos`, store().photos.revision(print));
  revalidatePath('/', 'layout');
  return done;
}
