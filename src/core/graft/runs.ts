/** Small helpers of a recipe: sorted line numbers as runs, and a sum that tells one file from another. */

/** Sorted numbers as gaps and counts: `[3, 4, 5, 9]` → `[3, 3, 4, 1]`. */
export function toRuns(sorted: readonly number[]): number[] {
  const runs: number[] = [];
  let end = 0;
  for (let i = 0; i < sorted.length;) {
    let count = 1;
    while (sorted[i + count] === sorted[i]! + count) count++;
    runs.push(sorted[i]! - end, count);
    end = sorted[i]! + count;
    i += count;
  }
  return runs;
}

/** The numbers of runs; at most `most`, so that a broken recipe fills no memory. */
export function fromRuns(runs: readonly number[], most: number): number[] {
  const numbers: number[] = [];
  let end = 0;
  for (let i = 0; i + 1 < runs.length; i += 2) {
    const from = end + runs[i]!;
    end = from + runs[i + 1]!;
    for (let n = from; n < end && numbers.length < most; n++) numbers.push(n);
  }
  return numbers;
}

/** How many numbers runs stand for. */
export const countIn = (runs: readonly number[]): number =>
  runs.reduce((sum, one, i) => (i % 2 === 1 ? sum + one : sum), 0);

const TABLE = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n;
  for (let k = 0; k < 8; k++) c = c & 1 ? (c >>> 1) ^ 0xedb88320 : c >>> 1;
  return c;
});

/** CRC-32 of bytes (ISO 3309), continued from `before`. */
export function crc32(bytes: Uint8Array, before = 0): number {
  let crc = ~before;
  for (let i = 0; i < bytes.length; i++) crc = TABLE[(crc ^ bytes[i]!) & 0xff]! ^ (crc >>> 8);
  return ~crc >>> 0;
}
