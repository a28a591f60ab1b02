/** Bodies of requests that are whole files. */

import 'server-only';
import type { z } from 'zod';
import { fail, ok, parseWith, problem, type Result } from '@/core/result';

/** A small body as JSON that fits a schema. */
export async function jsonBody<T>(
  request: Request,
  most: number,
  schema: z.ZodType<T>,
): Promise<Result<T>> {
  const body = await bodyOf(request, most);
  if (!body.ok) return body;
  let data: unknown;
  try {
    data = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(body.value));
  } catch {
    return fail(problem('body', 'This is not JSON.', 'Load the page again.'));
  }
  return parseWith(schema, data);
}

/** Reads a body up to a limit; one byte more and nothing is kept. */
export async function bodyOf(request: Request, most: number): Promise<Result<Uint8Array>> {
  // Said beforehand to be too large, it is not read at all.
  if (Number(request.headers.get('content-length') ?? 0) > most) return tooLarge(most);
  const pieces: Uint8Array[] = [];
  let length = 0;
  const stream = request.body?.getReader();
  while (stream) {
    const { done, value } = await stream.read();
    if (done) break;
    length += value.length;
    if (length > most) {
      await stream.cancel();
      return tooLarge(most);
    }
    pieces.push(value);
  }
  if (length === 0)
    return fail(problem('file', 'Nothing was received.', 'Choose a file that is not empty.'));
  return ok(Buffer.concat(pieces));
}

const tooLarge = (most: number): Result<never> =>
  fail(
    problem(
      'file',
      `It has over ${most >= 2 ** 20 ? `${Math.floor(most / 2 ** 20)} MB` : `${Math.floor(most / 1024)} kB`}.`,
      'Take a smaller file.',
    ),
  );

export const refuse = (problems: unknown, status = 400): Response =>
  Response.json({ problems }, { status });
