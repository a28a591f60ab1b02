'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { Act } from '@/store/readings';
import { now, store } from '../server/store';
import { done, gone, type Answer } from './answer';

const Id = z.number().int().positive();

/** Keeps one tap. */
export async function keepScore(readingId: number, data: unknown): Promise<Answer> {
  const act = Act.safeParse(data);
  if (!act.success || !store().readings.get(Id.parse(readingId))) return gone('reading');
  store().readings.score(readingId, act.data, now());
  return done;
}

/** Takes the newest tap back. */
export async function undoScore(readingId: number): Promise<Answer<Act | null>> {
  if (!store().readings.get(Id.parse(readingId))) return gone('reading');
  return { ok: true, value: store().readings.undo(readingId) };
}

/** Keeps where the reader stands, so that the page opens there again. */
export async function keepPlace(name: string, value: string): Promise<void> {
  store().places.set(z.string().max(80).parse(name), z.string().max(200).parse(value));
}

export async function putReadingAway(readingId: number, away: boolean): Promise<Answer> {
  const { readings } = store();
  const moved = away ? readings.putAway(Id.parse(readingId), now()) : readings.restore(readingId);
  if (!moved) return gone('reading');
  revalidatePath('/', 'layout');
  return done;
}
