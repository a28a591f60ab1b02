import { z } from 'zod';
import { STOPPED, WHOLE, runTopic } from '@/ui/print/running';
import { jsonBody, refuse } from '../../../server/body';
import { idOf } from '../../../server/ladder';
import { changed } from '../../../server/live';

const Told = z.object({ at: z.number().int().min(STOPPED).max(WHOLE) });
const LARGEST = 1024;

/** Tells whoever watches how far a print is, or that it is to stop: `{"at": 420}`. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const body = await jsonBody(request, LARGEST, Told);
  if (!body.ok) return refuse(body.problems);
  changed(runTopic(idOf((await params).id)), body.value.at);
  return Response.json({});
}
