'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { problem } from '@/core/result';
import { forget, FORGETTABLE } from '@/store/room';
import { now, store } from '../server/store';
import { refusedTo } from '../server/who';
import { done, gone, type Answer } from './answer';

const Limit = z.number().min(0.05).max(100_000).nullable();
const GB = 1e9;

/** How much room pictures may take, GB; null for all that there is. */
export async function limitPictures(gigabytes: unknown): Promise<Answer> {
  const refused = await refusedTo('change');
  if (refused) return refused;
  const limit = Limit.safeParse(gigabytes);
  if (!limit.success)
    return {
      ok: false,
      problems: [
        problem('room', 'This is not an amount of room.', 'Enter 0.05 GB or more, or nothing.'),
      ],
    };
  store().own.set('pictures', limit.data === null ? '' : String(Math.round(limit.data * GB)));
  revalidatePath('/things/room');
  return done;
}

/** Deletes for good what has been in the archive for longer than a year, of one shelf. */
export async function forgetLong(shelf: unknown): Promise<Answer> {
  const refused = await refusedTo('change');
  if (refused) return refused;
  const which = z.enum(FORGETTABLE).safeParse(shelf);
  if (!which.success) return gone('entry');
  forget(store().db, which.data, Date.parse(now()));
  revalidatePath('/things/room');
  return done;
}
