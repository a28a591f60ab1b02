import { idOf } from '../../server/ladder';
import { store } from '../../server/store';

/** A straightened picture of a print. `?at=` says when it was looked at, so that a new one is not the old one. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }) {
  const jpeg = store().looks.strip(idOf((await params).id));
  if (!jpeg) return new Response('There is no such picture.\n', { status: 404 });
  return new Response(new Uint8Array(jpeg), {
    headers: {
      'content-type': 'image/jpeg',
      'content-security-policy': `default-src 'none'`,
      'cache-control': 'private, no-cache',
    },
  });
}
