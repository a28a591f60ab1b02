import { z } from 'zod';
import { Act } from '@/store/readings';
import { now, store } from '../../server/store';

/** Most steps in one request; a browser that was offline may have many waiting. */
const MOST_STEPS = 2000;

const Steps = z.object({
  steps: z.array(z.union([Act, z.object({ undo: z.literal(true) })])).max(MOST_STEPS),
  /** Where the reader stands, to be there again when the page is opened. */
  place: z.string().max(200),
});

/** Keeps taps and undos in the order in which they were given, all or none. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const id = Number((await params).id);
  const { db, readings, places } = store();
  if (!Number.isInteger(id) || !readings.get(id))
    return Response.json({ what: 'This reading is not there any more.' }, { status: 404 });
  const body = Steps.safeParse(await request.json().catch(() => null));
  if (!body.success) return Response.json({ what: z.prettifyError(body.error) }, { status: 400 });
  db.transaction(() => {
    for (const step of body.data.steps) {
      if ('undo' in step) readings.undo(id);
      else readings.score(id, step, now());
    }
    places.set(`reading ${id}`, body.data.place);
  })();
  return Response.json({ kept: body.data.steps.length });
}
