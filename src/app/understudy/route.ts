import { z } from 'zod';
import { CriterionName } from '@/core/criteria';
import { MOST_RUNGS } from '@/core/plan/limits';
import { Reading, Score } from '@/core/reading/types';
import { parseWith, problem } from '@/core/result';
import { Simulated } from '@/store/ladders';
import { bodyOf, refuse } from '../server/body';
import { idOf } from '../server/ladder';
import { now, store } from '../server/store';
import { keepHalf } from '../server/tried-out';
import { readerHere } from '../server/who';
import { inThread } from '../server/threads';

/** Largest picture that is kept, bytes and pixels; those of the understudy are well under it. */
const LARGEST_PICTURE = 20 * 2 ** 20;
const MOST_PIXELS = 12_000_000;
const Seen = z.partialRecord(CriterionName, z.array(Score.nullable()).max(MOST_RUNGS));
/** What a form needs around its fields. */
const AROUND = 64 * 1024;

/** Keeps a print on a simulated machine with its picture, and begins its reading. */
export async function POST(request: Request) {
  const { db, files, prints, readings } = store();
  const file = files.get(idOf(new URL(request.url).searchParams.get('file') ?? ''));
  if (!file) return refuse([problem('file', 'This file no longer exists.', 'Make it again.')], 404);
  const body = await bodyOf(request, LARGEST_PICTURE + AROUND);
  if (!body.ok) return refuse(body.problems, 413);
  const form = await new Response(new Uint8Array(body.value), {
    headers: { 'content-type': request.headers.get('content-type') ?? '' },
  })
    .formData()
    .catch(() => null);
  const simulated = parseWith(Simulated, jsonOf(form?.get('simulated')), 'simulated');
  if (!simulated.ok) return refuse(simulated.problems);
  const measured = parseWith(
    Reading.shape.measured,
    jsonOf(form?.get('measured')) ?? {},
    'measured',
  );
  if (!measured.ok) return refuse(measured.problems);
  const seen = parseWith(Seen, jsonOf(form?.get('seen')) ?? {}, 'seen');
  if (!seen.ok) return refuse(seen.problems);
  const picture = z.instanceof(Blob).safeParse(form?.get('picture'));
  const png = picture.success ? new Uint8Array(await picture.data.arrayBuffer()) : null;
  if (!png || !(await inThread('isPicture', { bytes: png, most: MOST_PIXELS })))
    return refuse([
      problem('picture', 'It is not a PNG of a usual size.', 'Print on the understudy again.'),
    ]);
  const reader = await readerHere();
  const reading = db.transaction(() => {
    const print = prints.add(file.id, now(), simulated.value);
    prints.setPicture(print, png);
    const reading = readings.start(print, reader, now());
    for (const [key, values] of Object.entries(measured.value))
      readings.measure(reading, key, values, now());
    keepHalf(file.ladderId, reading, seen.value);
    return reading;
  })();
  return Response.json({ href: `/ladder/${file.ladderId}/read?reading=${reading}` });
}

function jsonOf(text: unknown): unknown {
  try {
    return JSON.parse(String(text));
  } catch {
    return null;
  }
}
