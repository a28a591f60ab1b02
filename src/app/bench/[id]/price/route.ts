import { idOf } from '../../../server/ladder';
import { priceOf } from '../../../server/prices';
import { store } from '../../../server/store';

/** What a ladder of `?kind=` costs on a bench; null where it cannot be printed there. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const stored = store().benches.get(idOf((await params).id));
  if (!stored) return new Response('There is no such bench.\n', { status: 404 });
  const kind = new URL(request.url).searchParams.get('kind') ?? '';
  return Response.json(await priceOf(kind.slice(0, 60), stored.bench), {
    headers: { 'cache-control': 'no-store' },
  });
}
