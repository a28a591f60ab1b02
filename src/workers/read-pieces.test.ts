import { MACHINES } from '../core/bench/presets';
import { readPieces } from './read-pieces';

const TEXT = 'G28\nG1 X50 Y50 Z0.3 F3000\nG1 X90 E2 F1200\n';
const bytes = new TextEncoder().encode(TEXT);

/** A file whose pieces come as they are given; that it has ended is told or not. */
const fileOf = (pieces: Uint8Array[], ends: boolean) =>
  ({
    size: pieces.reduce((sum, { length }) => sum + length, 0),
    stream: () =>
      new ReadableStream<Uint8Array>({
        start(to) {
          for (const piece of pieces) to.enqueue(piece);
          if (ends) to.close();
        },
      }),
  }) as unknown as Blob;

test.each([true, false])('all of it is read, whether its end is told or not: %p', async (ends) => {
  const told: number[] = [];
  const pieces = [bytes.slice(0, 10), bytes.slice(10, 11), bytes.slice(11)];
  const { bytes: read, trace } = await readPieces(
    fileOf(pieces, ends),
    MACHINES.heron,
    0.7,
    (share) => told.push(share),
  );
  expect(new TextDecoder().decode(read)).toBe(TEXT);
  expect(trace.moves.count).toBe(3);
  expect([told[0], told.at(-1)]).toEqual([0, 0.7]);
  expect(told).toEqual([...told].sort((a, b) => a - b));
});

test('a file of nothing is read at once', async () => {
  const { bytes: read } = await readPieces(fileOf([], false), MACHINES.heron, 1, () => undefined);
  expect(read).toHaveLength(0);
});
