import { store } from '../../server/store';

/** The file as it was made, byte for byte. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }) {
  const id = Number((await params).id);
  const file = Number.isInteger(id) ? store().files.get(id) : null;
  const text = file && store().files.text(id);
  if (!file || text === null) return new Response('There is no such file.\n', { status: 404 });
  return new Response(text, {
    headers: {
      'content-type': 'text/x-gcode; charset=utf-8',
      'content-disposition': `attachment; filename="${file.name}"`,
      'x-content-type-options': 'nosniff',
    },
  });
}
