'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { CornersKept, MovedPlace, SIDES } from '@/core/loupe/kept';
import { fail, ok, problem, type Result } from '@/core/result';
import type { Plan } from '@/core/plan/plan';
import { asNudged } from '@/core/plan/nudged';
import { MEASURE_NAMES } from '@/core/loupe/measures';
import { now, store } from '../server/store';
import { inThread } from '../server/threads';
import { gone, idIn, type Answer } from './answer';

const Side = z.enum(SIDES);

/** A picture of a print: one that was taken, or of a simulated print the one that was drawn. */
type Picture = { printId: number; photoId: number | null; bytes: Uint8Array; plan: Plan };

function pictureIn(printId: unknown, photoId: unknown): Result<Picture> {
  const { prints, files, photos, wires } = store();
  const print = prints.get(idIn(printId));
  const file = print && files.get(print.fileId);
  if (!print || !file) return gone('print');
  const photo = photoId === null ? null : idIn(photoId);
  if (photo !== null && photos.printOf(photo) !== print.id) return gone('picture');
  const bytes = photo === null ? prints.picture(print.id) : photos.bytes(photo, 'jpeg');
  if (!bytes) return gone('picture');
  const plan = asNudged(file.plan, wires.nudgesOf(print.id));
  return ok({ printId: print.id, photoId: photo, bytes: new Uint8Array(bytes), plan });
}

type Corners = z.infer<typeof CornersKept>;

/** Corners of the print in a picture, where they are clear; to be looked at before they are taken. */
export async function findCornersIn(
  printId: unknown,
  photoId: unknown,
  side: unknown,
): Promise<Result<Corners>> {
  const picture = pictureIn(printId, photoId);
  if (!picture.ok) return picture;
  const from = Side.safeParse(side);
  if (!from.success) return gone('side');
  const { bytes, plan } = picture.value;
  const looked = await inThread('loupe', {
    bytes,
    plan,
    asked: { side: from.data, measures: [] },
  });
  if (!looked.ok) return looked;
  const { corners } = looked.value.found;
  return corners
    ? ok(corners)
    : fail(
        problem(
          'corners',
          'The outline of the print is not clear enough to find its corners.',
          'Pull the four marks onto them.',
        ),
      );
}

/** Straightens a picture by four corners, measures on it, and keeps what was found. */
export async function measurePicture(
  printId: unknown,
  photoId: unknown,
  side: unknown,
  corners: unknown,
  moved: unknown = [],
): Promise<Answer> {
  const picture = pictureIn(printId, photoId);
  if (!picture.ok) return picture;
  const [from, put] = [Side.safeParse(side), CornersKept.safeParse(corners)];
  const places = z.array(MovedPlace).max(400).safeParse(moved);
  if (!places.success) return gone('place');
  if (!from.success) return gone('side');
  if (!put.success)
    return fail(problem('corners', 'Four corners are needed.', 'Load the page again.'));
  const { bytes, plan } = picture.value;
  const looked = await inThread('loupe', {
    bytes,
    plan,
    asked: { side: from.data, corners: put.data, moved: places.data },
  });
  if (!looked.ok) return looked;
  const { found, strip } = looked.value;
  // What could not be straightened is said and not kept.
  if (!strip) return fail(...found.problems);
  store().looks.put({
    printId: picture.value.printId,
    photoId: picture.value.photoId,
    found,
    strip,
    takenAt: now(),
  });
  revalidatePath('/', 'layout');
  return ok(null);
}

const Names = z.array(z.enum(MEASURE_NAMES)).max(MEASURE_NAMES.length);

/** Counts some measures of a picture as a reading of its print; none takes it out of the finding. */
export async function countPicture(
  printId: unknown,
  photoId: unknown,
  names: unknown,
): Promise<Answer> {
  const { prints, photos, looks } = store();
  const print = prints.get(idIn(printId));
  const photo = photoId === null ? null : idIn(photoId);
  const chosen = Names.safeParse(names);
  if (!print) return gone('print');
  if (photo !== null && photos.printOf(photo) !== print.id) return gone('picture');
  if (!chosen.success) return gone('measure');
  if (!looks.count(print.id, photo, chosen.data))
    return fail(
      problem('picture', 'This picture was not measured yet.', 'Straighten and measure it first.'),
    );
  revalidatePath('/', 'layout');
  return ok(null);
}
