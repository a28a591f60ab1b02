'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { now, store } from '../server/store';
import { kindOf } from '@/core/ladders/registry';
import { short } from '@/core/numbers';
import { fail, problem } from '@/core/result';
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

/** Keeps the numbers of one measure, in the place of those before. */
export async function keepMeasured(readingId: number, key: string, data: unknown): Promise<Answer> {
  const { readings, prints, files } = store();
  const reading = readings.get(Id.parse(readingId));
  const print = reading && prints.get(reading.printId);
  const file = print && files.get(print.fileId);
  const kind = file ? kindOf(file.plan.kind) : null;
  const measure = kind?.ok ? kind.value.measures?.find((one) => one.key === key) : undefined;
  if (!measure) return gone('reading');
  const { label, min, max, most, unit } = measure;
  const values = z.array(z.number()).max(most).parse(data);
  const odd = values.find((value) => value < min || value > max);
  if (odd !== undefined)
    return fail(
      problem(
        key,
        `${label}: ${short(odd)} ${unit} was entered; ${short(min)} to ${short(max)} ${unit} can be.`,
        'Correct it; nothing of this row is kept until then.',
      ),
    );
  readings.measure(readingId, key, values, now());
  revalidatePath('/ladder', 'layout');
  return done;
}
