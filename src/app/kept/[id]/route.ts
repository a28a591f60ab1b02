import { idOf } from '../../server/ladder';
import { store } from '../../server/store';

/** A kept file, byte for byte. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id);
  const file = store().kept.get(id);
  const body = file && (await store().kept.body(id));
  if (!file || !body) return new Response('There is no such file.\n', { status: 404 });
  return new Response(new Uint8Array(body), {
    headers: {
      'content-type': 'text/x-gcode; charset=utf-8',
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(file.name)}`,
    },
  });
}
