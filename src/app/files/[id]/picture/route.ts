import { idOf } from '../../../server/ladder';
import { store } from '../../../server/store';
import { inThread } from '../../../server/threads';

/** Sharp enough for a phone's strip of one rung. */
const PX_PER_MM = 12;

/** The print as it stands, drawn from the moves of its own file. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id);
  const file = store().files.get(id);
  const bytes = file && store().files.bytes(id);
  if (!file || !bytes) return new Response('There is no such file.\n', { status: 404 });
  const png = await inThread('draw', { bytes, plan: file.plan, pxPerMm: PX_PER_MM });
  return new Response(new Uint8Array(png), {
    headers: {
      'content-type': 'image/png',
      // A file never changes under its id.
      'cache-control': 'private, max-age=31536000, immutable',
    },
  });
}
