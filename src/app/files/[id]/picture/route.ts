import { PNG } from 'pngjs';
import { readText } from '@/core/gcode/read';
import { ladderPicture } from '@/core/view/ladder-picture';
import { store } from '../../../server/store';

/** Sharp enough for a phone's strip of one rung. */
const PX_PER_MM = 12;

/** The print as it stands, drawn from the moves of its own file. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }) {
  const id = Number((await params).id);
  const file = Number.isInteger(id) ? store().files.get(id) : null;
  const text = file && store().files.text(id);
  if (!file || !text) return new Response('There is no such file.\n', { status: 404 });
  const { width, height, rgba } = ladderPicture(readText(text), file.plan, PX_PER_MM);
  const png = new PNG({ width, height });
  png.data = Buffer.from(rgba.buffer);
  return new Response(new Uint8Array(PNG.sync.write(png)), {
    headers: {
      'content-type': 'image/png',
      // A file never changes under its id.
      'cache-control': 'private, max-age=31536000, immutable',
    },
  });
}
