import { idOf } from '../../../server/ladder';
import { linkState } from '../../../server/link';
import { store } from '../../../server/store';

export const dynamic = 'force-dynamic';

/** A machine on the wire as it stands; followed under this same address. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id);
  if (!store().machines.get(id))
    return new Response('There is no such machine.\n', { status: 404 });
  // Null while the link is starting.
  return Response.json(await linkState(id), { headers: { 'cache-control': 'no-store' } });
}
