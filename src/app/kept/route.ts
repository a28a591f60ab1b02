import { problem } from '@/core/result';
import { plainLine } from '@/core/text';
import { LARGEST_OPENED } from '@/core/view/opened';
import { bodyOf, refuse } from '../server/body';
import { idOf } from '../server/ladder';
import { now, store } from '../server/store';
import { refusedTo } from '../server/who';

/** Keeps a file of the user's with a bench, whole. */
export async function POST(request: Request) {
  const refused = await refusedTo('change');
  if (refused) return refuse(refused.problems, 403);
  const { searchParams } = new URL(request.url);
  const bench = store().benches.get(idOf(searchParams.get('bench') ?? ''));
  const name = plainLine(searchParams.get('name') ?? '', 180);
  if (!bench || name === '')
    return refuse(
      [
        problem(
          'bench',
          'There is no such bench, or the file has no name.',
          'Load the page again.',
        ),
      ],
      404,
    );
  const body = await bodyOf(request, LARGEST_OPENED);
  if (!body.ok) return refuse(body.problems, 413);
  const id = await store().kept.keep(bench.id, name, body.value, now());
  return Response.json({ href: `/inspect?kept=${id}` });
}
