import { icon } from '../server/home-icon';

const SIZE = 180;

export async function GET() {
  return new Response(new Uint8Array(await icon(SIZE)), {
    headers: { 'content-type': 'image/png', 'cache-control': 'private, max-age=86400' },
  });
}
