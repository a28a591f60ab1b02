import fc from 'fast-check';
import { countIn, crc32, fromRuns, toRuns } from './runs';

test('line numbers as runs come back as they were', () => {
  expect(toRuns([3, 4, 5, 9])).toEqual([3, 3, 3, 1]);
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.integer({ min: 1, max: 3000 }), { maxLength: 300 }),
      (numbers) => {
        const sorted = numbers.sort((a, b) => a - b);
        expect(fromRuns(toRuns(sorted), sorted.length)).toEqual(sorted);
        expect(countIn(toRuns(sorted))).toBe(sorted.length);
      },
    ),
    { seed: 1, numRuns: 60 },
  );
});

test('runs of a broken recipe fill no memory', () => {
  expect(fromRuns([1, 4_000_000_000], 50)).toHaveLength(50);
  expect(fromRuns([7], 50)).toEqual([]);
});

test('the sum of bytes is that of the standard, in one go or in pieces', () => {
  const bytes = new TextEncoder().encode('123456789');
  expect(crc32(bytes)).toBe(0xcbf43926);
  expect(crc32(bytes.subarray(4), crc32(bytes.subarray(0, 4)))).toBe(0xcbf43926);
  expect(crc32(new Uint8Array(0))).toBe(0);
});
