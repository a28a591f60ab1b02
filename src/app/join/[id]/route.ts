import { redirect } from 'next/navigation';
import { idOf } from '../../server/ladder';
import { now, store } from '../../server/store';
import { ownerOf, readerHere, sameName } from '../../server/who';

/**
 * Opens a reading to be gone on with, on whatever device asks: one's own, or one that is nobody's yet. Somebody else gets a
 * reading of their own of the same print, and finds it again the next time.
 */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }) {
  const { readings, prints, files } = store();
  const asked = readings.get(idOf((await params).id));
  const print = asked && prints.get(asked.printId);
  const file = print && files.get(print.fileId);
  if (!asked || !print || !file)
    return new Response('This reading no longer exists.\n', { status: 404 });
  const mine = await readerHere();
  const owner = ownerOf(asked);
  let id = asked.id;
  if (owner === '' && mine !== '') readings.setReader(id, mine);
  else if (mine !== '' && !sameName(owner, mine))
    id =
      readings.ofPrint(print.id).findLast((one) => sameName(ownerOf(one), mine))?.id ??
      readings.start(print.id, mine, now());
  redirect(`/ladder/${file.ladderId}/read?reading=${id}`);
}
