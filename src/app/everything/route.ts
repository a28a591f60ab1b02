import { createWriteStream, mkdirSync, rmSync, statfsSync } from 'node:fs';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream as NodeStream } from 'node:stream/web';
import { revalidatePath } from 'next/cache';
import { problem, type Result } from '@/core/result';
import { noBench, removeScratch, type Told } from '@/store/everything';
import { exportAll } from '@/store/export';
import { INCOMING, SCRATCH } from '@/store/incoming';
import { refuse } from '../server/body';
import { keeping } from '../server/keeper';
import { changed, STORE_TOPIC } from '../server/live';
import { askLink, printingNow } from '../server/link';
import { refusedTo } from '../server/who';
import { databasePath, dataFolder, now, store } from '../server/store';

/** How far what is under way is, as pages ask: `GET /everything?far`. */
type Far =
  | { doing: 'nothing' }
  | { doing: 'export'; bytes: number; ofBytes: number; rows: number; ofRows: number }
  | { doing: 'arriving' | 'unpacking' | 'reading' | 'replacing'; share: number };

/** One at a time, whoever asks; also where routes are bundled apart. */
const shared = globalThis as {
  ashImport?: { stop: AbortController };
  ashFar?: Far;
  /** Nothing else is written meanwhile: the door asks for it too. An export beside it changes what is told, not this. */
  ashReplacing?: boolean;
  /** A file that was proved and waits to be taken in, by a name that only who brought it knows. */
  ashProved?: { name: string; told: Told; at: number };
};
/** So long a proved file waits to be taken in, ms. */
const PROVED_MS = 3_600_000;
const far = (said: Far): void => void (shared.ashFar = said);

/** Everything that is kept, as one file; `?far` how far what is under way is. */
export async function GET(request: Request) {
  const refused = await refusedTo('change');
  if (refused) return refuse(refused.problems, 403);
  if (new URL(request.url).searchParams.has('far'))
    return Response.json(shared.ashFar ?? { doing: 'nothing' }, {
      headers: { 'cache-control': 'no-store' },
    });
  store();
  const name = `ash-ladder-${now().slice(0, 10)}.ash`;
  const out = exportAll(databasePath(), (told) => far({ doing: 'export', ...told }));
  out.once('close', () => far({ doing: 'nothing' }));
  return new Response(Readable.toWeb(out), {
    headers: {
      'content-type': 'application/gzip',
      'content-disposition': `attachment; filename="${name}"`,
      'cache-control': 'no-store',
    },
  });
}

/**
 * Takes such a file in, in the place of everything that is kept; `?empty` where one without a bench is meant.
 * `?look` proves it and says what it would do; `?take=NAME` takes in what was proved; `?stop` stops what is under way.
 */
export async function POST(request: Request) {
  const refused = await refusedTo('change');
  if (refused) return refuse(refused.problems, 403);
  const asked = new URL(request.url).searchParams;
  if (asked.has('stop')) {
    shared.ashImport?.stop.abort();
    return Response.json({ stopped: true });
  }
  if (!asked.has('take') && !request.body)
    return refuse([
      problem('file', 'Nothing was received.', 'Choose a file that was exported here.'),
    ]);
  if (shared.ashImport)
    return refuse(
      [problem('file', 'Another file is being imported.', 'Wait for it, then try again.')],
      409,
    );
  const stop = new AbortController();
  shared.ashImport = { stop };
  try {
    if (asked.has('take')) return await takeProved(asked.get('take')!, asked.has('empty'));
    const told = await provedOf(
      request.body!,
      stop.signal,
      Number(request.headers.get('content-length')),
    );
    if (!told.ok) return refuse(told.problems);
    const name = crypto.randomUUID();
    shared.ashProved = { name, told: told.value, at: Date.now() };
    return asked.has('look')
      ? Response.json({ name, told: told.value })
      : await takeProved(name, asked.has('empty'));
  } finally {
    delete shared.ashImport;
    far({ doing: 'nothing' });
  }
}

const scratch = () => join(dataFolder(), SCRATCH);

/** Writes what comes beside the database, and proves it whole: nothing that stands is touched. */
async function provedOf(
  body: ReadableStream<Uint8Array>,
  signal: AbortSignal,
  size: number,
): Promise<Result<Told>> {
  delete shared.ashProved;
  const prints = printingNow();
  if (prints) return { ok: false, problems: [prints] };
  const incoming = join(dataFolder(), INCOMING);
  mkdirSync(dataFolder(), { recursive: true });
  const { bavail, bsize } = statfsSync(dataFolder());
  // The file, and what it unpacks to.
  if (size * 2 > bavail * bsize)
    return {
      ok: false,
      problems: [
        problem(
          'file',
          `It needs about ${((size * 2) / 1e9).toFixed(1)} GB of room; ${((bavail * bsize) / 1e9).toFixed(1)} GB are free.`,
          'Make room on the disk, then choose it again.',
        ),
      ],
    };
  let came = 0;
  try {
    await pipeline(
      Readable.fromWeb(body as unknown as NodeStream),
      async function* (pieces: AsyncIterable<Uint8Array>) {
        for await (const piece of pieces) {
          came += piece.length;
          far({ doing: 'arriving', share: size > 0 ? came / size : 0 });
          yield piece;
        }
      },
      createWriteStream(incoming, { mode: 0o600 }),
      { signal },
    );
    return await keeping(
      { do: 'prove' },
      { told: (doing, share) => far({ doing, share }), signal },
    );
  } catch (error) {
    if (signal.aborted)
      return { ok: false, problems: [problem('file', 'It was stopped.', 'Nothing was changed.')] };
    throw error;
  } finally {
    rmSync(incoming, { force: true });
  }
}

async function takeProved(name: string, mayBeEmpty: boolean): Promise<Response> {
  const proved = shared.ashProved;
  // Pictures that nothing names yet are swept after a day.
  if (proved?.name !== name || Date.now() - proved.at > PROVED_MS)
    return refuse([problem('file', 'This file is not here any more.', 'Choose it again.')]);
  if (proved.told.benches === 0 && !mayBeEmpty) return refuse([noBench]);
  // What prints, or is hot, is of the machines that are about to be replaced.
  const stood = await askLink({ act: 'stand-aside' });
  // Whether anything prints is not known while nobody answers; without a link nothing does.
  if (!stood.ok && process.env.ASH_LINK) return refuse(stood.problems, 409);
  try {
    shared.ashReplacing = true;
    far({ doing: 'replacing', share: 0 });
    await keeping({ do: 'replace', at: now() });
    delete shared.ashProved;
    changed(STORE_TOPIC, 0);
    revalidatePath('/', 'layout');
    return Response.json({ href: '/' });
  } finally {
    delete shared.ashReplacing;
    removeScratch(scratch());
    if (stood.ok) await askLink({ act: 'come-back' });
  }
}
