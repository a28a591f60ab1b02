import { idOf } from '../../../server/ladder';
import { store } from '../../../server/store';

/** What a print on a simulated machine looks like. It never changes. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }) {
  const png = store().prints.picture(idOf((await params).id));
  if (!png) return new Response('There is no such picture.\n', { status: 404 });
  return new Response(new Uint8Array(png), {
    headers: {
      'content-type': 'image/png',
      'cache-control': 'private, max-age=31536000, immutable',
    },
  });
}
