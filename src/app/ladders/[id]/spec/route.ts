import { z } from 'zod';
import { specFor } from '@/core/ladders/make';
import { kindOf } from '@/core/ladders/registry';
import { problem } from '@/core/result';
import { Spec } from '../../../actions/answer';
import { jsonBody, refuse } from '../../../server/body';
import { idOf } from '../../../server/ladder';
import { changed } from '../../../server/live';
import { store } from '../../../server/store';

const LARGEST = 64 * 1024;
const Patches = z.object({
  acts: z.array(z.object({ id: z.string().max(80), patch: Spec })).max(500),
  place: z.string().max(200).optional(),
});

type Props = { params: Promise<{ id: string }> };

const gone = () =>
  refuse([problem('ladder', 'This ladder no longer exists.', 'Load the page again.')], 404);

function kept(id: number) {
  const ladder = store().ladders.get(id);
  if (!ladder) return gone();
  return Response.json(
    { revision: ladder.revision, spec: ladder.spec },
    { headers: { 'cache-control': 'no-store' } },
  );
}

export async function GET(_: Request, { params }: Props) {
  return kept(idOf((await params).id));
}

/** Keeps what was typed in the designer, input by input: what another page changed meanwhile stays. */
export async function POST(request: Request, { params }: Props) {
  const ladder = store().ladders.get(idOf((await params).id));
  const bench = ladder && store().benches.get(ladder.benchId);
  const kind = ladder && kindOf(ladder.kind);
  if (!ladder || !bench || !kind?.ok) return gone();
  const body = await jsonBody(request, LARGEST, Patches);
  if (!body.ok) return refuse(body.problems);
  const patches = body.value.acts.map(({ patch }) => patch);
  const spec = patches.reduce((all, patch) => ({ ...all, ...patch }), ladder.spec);
  const fits = specFor(kind.value, bench.bench, spec);
  if (!fits.ok) return refuse(fits.problems);
  store().ladders.changeSpec(ladder.id, spec);
  changed(`/ladders/${ladder.id}/spec`, ladder.revision + 1);
  return kept(ladder.id);
}
