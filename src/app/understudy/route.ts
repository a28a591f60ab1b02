import { z } from 'zod';
import { Reading } from '@/core/reading/types';
import { parseWith, problem } from '@/core/result';
import { Simulated } from '@/store/ladders';
import { refuse } from '../server/body';
import { now, store } from '../server/store';

/** Largest picture that is kept, bytes; six million pixels are well under it. */
const LARGEST_PICTURE = 20 * 2 ** 20;
const PNG = [0x89, 0x50, 0x4e, 0x47];

/** Keeps a print on a simulated machine with its picture, and begins its reading. */
export async function POST(request: Request) {
  const fileId = Number(new URL(request.url).searchParams.get('file')) || 0;
  const { db, files, prints, readings } = store();
  const file = files.get(fileId);
  if (!file)
    return refuse([problem('file', 'This file is not there any more.', 'Make it again.')], 404);
  const form = await request.formData().catch(() => null);
  const simulated = parseWith(Simulated, jsonOf(form?.get('simulated')), 'simulated');
  if (!simulated.ok) return refuse(simulated.problems);
  const measured = parseWith(
    Reading.shape.measured,
    jsonOf(form?.get('measured')) ?? {},
    'measured',
  );
  if (!measured.ok) return refuse(measured.problems);
  const picture = z.instanceof(Blob).safeParse(form?.get('picture'));
  const png = picture.success ? new Uint8Array(await picture.data.arrayBuffer()) : null;
  if (!png || png.length > LARGEST_PICTURE || PNG.some((byte, i) => png[i] !== byte))
    return refuse([
      problem('picture', 'It is no PNG of a usual size.', 'Print on the understudy again.'),
    ]);
  const reading = db.transaction(() => {
    const print = prints.add(fileId, now(), simulated.value);
    prints.setPicture(print, png);
    const reading = readings.start(print, '', now());
    for (const [key, values] of Object.entries(measured.value))
      readings.measure(reading, key, values, now());
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
