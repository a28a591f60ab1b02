import { ShakeMarks, SHAKE_AXES } from '@/core/shake/marks';
import { fail, ok, problem, problemLine, type Result } from '@/core/result';
import type { ShakeAsked } from '@/core/shake/asked';
import { idOf } from '../../../../server/ladder';
import { store } from '../../../../server/store';
import { inThread } from '../../../../server/threads';

type Asked = Partial<ShakeAsked> & { axis: ShakeMarks['axis'] };
const NUMBERS = ['from', 'to', 'acceleration', 'seconds', 'fan'] as const;

function askedIn(query: URLSearchParams): Result<Asked> {
  const axis = SHAKE_AXES.find((one) => one === query.get('axis'));
  if (!axis)
    return fail(
      problem('axis', 'Nothing says what is to be shaken.', `Give ${SHAKE_AXES.join(', ')}.`),
    );
  const asked: Asked = { axis };
  for (const name of NUMBERS) {
    const text = query.get(name);
    if (text === null || text.trim() === '') continue;
    const value = Number(text);
    if (!Number.isFinite(value))
      return fail(problem(name, `“${text.slice(0, 40)}” is not a number.`, 'Give one.'));
    asked[name] = value;
  }
  return ok(asked);
}

/** A file that shakes the machine of a bench: the same each time it is asked for. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const bench = store().benches.get(idOf((await params).id));
  if (!bench) return new Response('There is no such bench.\n', { status: 404 });
  const asked = askedIn(new URL(request.url).searchParams);
  const made = asked.ok
    ? await inThread('shakeFile', { bench: bench.bench, asked: asked.value })
    : asked;
  if (!made.ok)
    return new Response(`${made.problems.map(problemLine).join('\n')}\n`, { status: 400 });
  return new Response(made.value.text, {
    headers: {
      'content-type': 'text/x-gcode; charset=utf-8',
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(made.value.name)}`,
    },
  });
}
