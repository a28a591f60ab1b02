import { createWriteStream, mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream as NodeStream } from 'node:stream/web';
import { revalidatePath } from 'next/cache';
import { problem } from '@/core/result';
import { exportAll, importAll } from '@/store/everything';
import { refuse } from '../server/body';
import { askLink } from '../server/link';
import { refusedTo } from '../server/who';
import { databasePath, dataFolder, migrations, now, store } from '../server/store';

/** Everything that is kept, as one file. */
export async function GET() {
  const refused = await refusedTo('change');
  if (refused) return refuse(refused.problems, 403);
  store();
  const name = `ash-ladder-${now().slice(0, 10)}.ash`;
  return new Response(Readable.toWeb(exportAll(databasePath())), {
    headers: {
      'content-type': 'application/gzip',
      'content-disposition': `attachment; filename="${name}"`,
      'cache-control': 'no-store',
    },
  });
}

/** Takes such a file in, in the place of everything that is kept. A copy of that is made first. */
export async function POST(request: Request) {
  const refused = await refusedTo('change');
  if (refused) return refuse(refused.problems, 403);
  if (!request.body)
    return refuse([problem('file', 'Nothing came.', 'Choose a file that was exported here.')]);
  // What prints, or is hot, is of the machines that are about to be replaced.
  const aside = await askLink({ act: 'stand-aside' });
  // Whether anything prints is not known while nobody answers; without a link nothing does.
  if (!aside.ok && process.env.ASH_LINK) return refuse(aside.problems, 409);
  try {
    return await takeIn(request.body);
  } finally {
    await askLink({ act: 'come-back' });
  }
}

async function takeIn(body: ReadableStream<Uint8Array>): Promise<Response> {
  const { db } = store();
  const folder = join(dataFolder(), 'backups');
  mkdirSync(folder, { recursive: true });
  const [incoming, scratch] = ['incoming.ash', 'incoming.sqlite'].map((name) =>
    join(folder, name),
  ) as [string, string];
  try {
    await pipeline(Readable.fromWeb(body as unknown as NodeStream), createWriteStream(incoming));
    const aside = join(folder, 'before-import.sqlite');
    rmSync(aside, { force: true });
    await db.backup(aside);
    const taken = await importAll(db, incoming, scratch, migrations());
    if (!taken.ok) return refuse(taken.problems.map((one) => ({ ...one, where: 'file' })));
    revalidatePath('/', 'layout');
    return Response.json({ href: '/' });
  } finally {
    rmSync(incoming, { force: true });
  }
}
