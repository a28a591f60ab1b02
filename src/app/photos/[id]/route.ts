import { idOf } from '../../server/ladder';
import { store } from '../../server/store';

/** A picture of a print; `?whole` for its full size. It never changes. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const whole = new URL(request.url).searchParams.has('whole');
  const jpeg = store().photos.bytes(idOf((await params).id), whole ? 'jpeg' : 'preview');
  if (!jpeg) return new Response('There is no such picture.\n', { status: 404 });
  return new Response(new Uint8Array(jpeg), {
    headers: {
      'content-type': 'image/jpeg',
      'content-security-policy': `default-src 'none'`,
      'cache-control': 'private, max-age=31536000, immutable',
    },
  });
}
