import { idOf } from '../../../server/ladder';
import { heatRows } from '../../../server/link';
import { store } from '../../../server/store';

export const dynamic = 'force-dynamic';

/** How warm a machine was in the course of its print. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id);
  if (!store().machines.get(id))
    return new Response('There is no such machine.\n', { status: 404 });
  return Response.json(await heatRows(id), { headers: { 'cache-control': 'no-store' } });
}
