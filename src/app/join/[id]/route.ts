import { redirect } from 'next/navigation';
import { idOf } from '../../server/ladder';
import { now, store } from '../../server/store';
import { askingDevice, ownerOf, sameName } from '../../server/who';

/**
 * Opens a reading on another device, to be gone on with: one's own, or one that is nobody's yet. Somebody else gets a
 * reading of their own of the same print, and finds it again the next time.
 */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }) {
  const { readings, prints, files } = store();
  const asked = readings.get(idOf((await params).id));
  const print = asked && prints.get(asked.printId);
  const file = print && files.get(print.fileId);
  if (!asked || !print || !file)
    return new Response('This reading no longer exists.\n', { status: 404 });
  const device = await askingDevice();
  const owner = ownerOf(asked);
  let id = asked.id;
  if (device && owner === '') readings.setReader(id, device.reader);
  else if (device && !sameName(owner, device.reader))
    id =
      readings.ofPrint(print.id).findLast((one) => sameName(one.reader, device.reader))?.id ??
      readings.start(print.id, device.reader, now());
  redirect(`/ladder/${file.ladderId}/read?reading=${id}`);
}
