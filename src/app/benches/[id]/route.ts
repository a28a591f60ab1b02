import { idOf } from '../../server/ladder';
import { store } from '../../server/store';

/** A bench as it stands: machine, nozzle, filament, and what was found. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }) {
  const bench = store().benches.get(idOf((await params).id));
  return bench
    ? Response.json(bench.bench, { headers: { 'cache-control': 'no-store' } })
    : new Response('There is no such bench.\n', { status: 404 });
}
