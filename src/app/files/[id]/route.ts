import { idOf } from '../../server/ladder';
import { store } from '../../server/store';

/** The file as it was made, byte for byte. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id);
  const file = store().files.get(id);
  const bytes = file && store().files.bytes(id);
  if (!file || !bytes) return new Response('There is no such file.\n', { status: 404 });
  return new Response(new Uint8Array(bytes), {
    headers: {
      'content-type': 'text/x-gcode; charset=utf-8',
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(file.name)}`,
    },
  });
}
