import { createWriteStream, mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream as NodeStream } from 'node:stream/web';
import { revalidatePath } from 'next/cache';
import { problem } from '@/core/result';
import { copyAside } from '@/store/backups';
import { exportAll, HOLDS_NO_BENCH, importAll } from '@/store/everything';
import { refuse } from '../server/body';
import { changed, STORE_TOPIC } from '../server/live';
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

/** One at a time, whoever asks; also where routes are bundled apart. */
const shared = globalThis as { ashImporting?: boolean };

/** Takes such a file in, in the place of everything that is kept; `?empty` where one without a bench is meant. */
export async function POST(request: Request) {
  const refused = await refusedTo('change');
  if (refused) return refuse(refused.problems, 403);
  if (!request.body)
    return refuse([problem('file', 'Nothing came.', 'Choose a file that was exported here.')]);
  if (shared.ashImporting)
    return refuse(
      [problem('file', 'Another file is being imported.', 'Wait for it, then try again.')],
      409,
    );
  shared.ashImporting = true;
  try {
    return await takeIn(request.body, new URL(request.url).searchParams.has('empty'));
  } finally {
    shared.ashImporting = false;
  }
}

async function takeIn(body: ReadableStream<Uint8Array>, mayBeEmpty: boolean): Promise<Response> {
  const { db } = store();
  const folder = join(dataFolder(), 'backups');
  mkdirSync(folder, { recursive: true });
  const [incoming, scratch] = ['incoming.ash', 'incoming.sqlite'].map((name) =>
    join(folder, name),
  ) as [string, string];
  let aside = false;
  try {
    await pipeline(
      Readable.fromWeb(body as unknown as NodeStream),
      createWriteStream(incoming, { mode: 0o600 }),
    );
    // What prints, or is hot, is of the machines that are about to be replaced.
    const stood = await askLink({ act: 'stand-aside' });
    aside = stood.ok;
    // Whether anything prints is not known while nobody answers; without a link nothing does.
    if (!stood.ok && process.env.ASH_LINK) return refuse(stood.problems, 409);
    const before = async () => void (await copyAside(db, dataFolder(), now()));
    const taken = await importAll(db, incoming, scratch, migrations(), before, mayBeEmpty);
    if (!taken.ok)
      return refuse(
        taken.problems.map((one) =>
          one.where === HOLDS_NO_BENCH ? one : { ...one, where: 'file' },
        ),
      );
    changed(STORE_TOPIC, 0);
    revalidatePath('/', 'layout');
    return Response.json({ href: '/' });
  } finally {
    if (aside) await askLink({ act: 'come-back' });
    rmSync(incoming, { force: true });
  }
}
