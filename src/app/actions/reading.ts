'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { now, store } from '../server/store';
import { done, gone, type Answer } from './answer';

const Id = z.number().int().positive();

/** Puts a reading away, so that it is not pooled, or brings it back. */
export async function putReadingAway(readingId: number, away: boolean): Promise<Answer> {
  const { readings } = store();
  const moved = away
    ? readings.putAway(Id.parse(readingId), now())
    : readings.restore(Id.parse(readingId));
  if (!moved) return gone('reading');
  revalidatePath('/', 'layout');
  return done;
}
