/** Bodies of requests that are whole files. */

import 'server-only';
import { fail, ok, problem, type Result } from '@/core/result';

/** Reads a body up to a limit; one byte more and nothing is kept. */
export async function bodyOf(request: Request, most: number): Promise<Result<Uint8Array>> {
  const pieces: Uint8Array[] = [];
  let length = 0;
  const stream = request.body?.getReader();
  while (stream) {
    const { done, value } = await stream.read();
    if (done) break;
    length += value.length;
    if (length > most) {
      await stream.cancel();
      return fail(
        problem('file', `It has over ${Math.floor(most / 2 ** 20)} MB.`, 'Take a smaller file.'),
      );
    }
    pieces.push(value);
  }
  if (length === 0)
    return fail(problem('file', 'Nothing came.', 'Choose a file that is not empty.'));
  return ok(Buffer.concat(pieces));
}

export const refuse = (problems: unknown, status = 400): Response =>
  Response.json({ problems }, { status });
