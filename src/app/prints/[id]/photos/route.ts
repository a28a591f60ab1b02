import { z } from 'zod';
import { problem } from '@/core/result';
import { MOST_RUNGS } from '@/core/plan/limits';
import { ActName } from '@/store/readings';
import { bodyOf, refuse } from '../../../server/body';
import { idOf } from '../../../server/ladder';
import { changed } from '../../../server/live';
import { LARGEST_PHOTO, photoFrom } from '../../../server/photo';
import { noRoomFor } from '../../../server/room';
import { now, store } from '../../../server/store';
import { readerHere } from '../../../server/who';

type Props = { params: Promise<{ id: string }> };

function kept(printId: number) {
  const { photos } = store();
  return Response.json(
    { revision: photos.revision(printId), photos: photos.ofPrint(printId) },
    { headers: { 'cache-control': 'no-store' } },
  );
}

export async function GET(_: Request, { params }: Props) {
  const id = idOf((await params).id);
  return store().prints.get(id) ? kept(id) : gone();
}

const gone = () =>
  refuse([problem('print', 'This print no longer exists.', 'Load the page again.')], 404);

/** When it was taken, as the device says; a clock that is wrong harms nothing but the order of words. */
const Taken = z.iso.datetime().nullable().catch(null);

/** Rung that it shows alone. */
const OfRung = z.coerce
  .number()
  .int()
  .min(0)
  .max(MOST_RUNGS - 1)
  .nullable()
  .catch(null);

/** Keeps a picture of a print: the body is the picture, `?act=` its name. Sent twice, it is kept once. */
export async function POST(request: Request, { params }: Props) {
  const printId = idOf((await params).id);
  if (!store().prints.get(printId)) return gone();
  const { searchParams } = new URL(request.url);
  const uid = ActName.safeParse(searchParams.get('act'));
  if (!uid.success)
    return refuse([problem('act', 'The picture has no name.', 'Load the page again.')]);
  const { photos } = store();
  if (photos.has(uid.data)) return kept(printId);
  const full = noRoomFor(0);
  if (full) return refuse([full], 413);
  const body = await bodyOf(request, LARGEST_PHOTO);
  if (!body.ok) return refuse(body.problems, 413);
  const photo = await photoFrom(body.value, request.headers.get('x-ash-device') ?? '');
  if (!photo.ok) return refuse(photo.problems);
  const more = noRoomFor(photo.value.jpeg.length + photo.value.preview.length);
  if (more) return refuse([more], 413);
  const takenAt = Taken.parse(searchParams.get('at')) ?? now();
  const rung = OfRung.parse(searchParams.get('rung'));
  const reader = await readerHere();
  photos.add(printId, { uid: uid.data, ...photo.value, reader, takenAt, rung });
  changed(`/prints/${printId}/photos`, photos.revision(printId));
  return kept(printId);
}
