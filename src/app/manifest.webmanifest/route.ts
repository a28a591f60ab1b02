import { icon } from '../server/home-icon';

const SIZES = [192, 512];

/** What a phone needs to put the program on its home screen. */
export async function GET() {
  // Within the manifest: a phone fetches icons without its cookie, and nobody else is answered.
  const icons = await Promise.all(
    SIZES.map(async (size) => ({
      src: `data:image/png;base64,${(await icon(size)).toString('base64')}`,
      sizes: `${size}x${size}`,
      type: 'image/png',
      purpose: 'any',
    })),
  );
  return Response.json(
    {
      name: 'Ash Ladder',
      short_name: 'Ash Ladder',
      id: '/',
      start_url: '/',
      scope: '/',
      // In the browser's own window, where the device is let in; a window of its own may know nothing of that.
      display: 'minimal-ui',
      background_color: '#f4f1ea',
      theme_color: '#f4f1ea',
      icons,
    },
    { headers: { 'content-type': 'application/manifest+json', 'cache-control': 'no-cache' } },
  );
}
