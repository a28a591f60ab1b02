/** Lines of a stream of bytes, none longer than there is room for. */

/** A line that is longer than any that the file may have. */
export class TooLong extends Error {}

/** @param most bytes of a line, asked anew for each: how long one may be, the first says */
export async function* linesIn(
  stream: AsyncIterable<Buffer>,
  most: () => number,
): AsyncGenerator<string> {
  let pieces: Buffer[] = [];
  let length = 0;
  for await (const data of stream) {
    let from = 0;
    for (let end = data.indexOf(10); end !== -1; end = data.indexOf(10, from)) {
      pieces.push(data.subarray(from, end));
      yield Buffer.concat(pieces).toString('utf8');
      pieces = [];
      length = 0;
      from = end + 1;
    }
    const rest = data.subarray(from);
    if (rest.length === 0) continue;
    length += rest.length;
    if (length > most()) throw new TooLong(`a line has over ${most()} bytes`);
    // Copied: what it is part of is used again.
    pieces.push(Buffer.from(rest));
  }
  if (length > 0) yield Buffer.concat(pieces).toString('utf8');
}
