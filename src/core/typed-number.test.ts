import fc from 'fast-check';
import { readTyped } from './typed-number';

test.each([
  ['1000.5', 1000.5],
  ['1,000.5', 1000.5],
  ['1.000,5', 1000.5],
  ['1 000', 1000],
  ['1\u202f000,5', 1000.5],
  ['0,125', 0.125],
  ['22.678', 22.678],
  ['1,5', 1.5],
  ['-0.04', -0.04],
  ['\u22120,04', -0.04],
  [' 205 ', 205],
  ['12,3456', 12.3456],
])('%j is %p', (text, value) => {
  expect(readTyped(text)).toEqual({ ok: true, value });
});

test.each([
  '1,500',
  '22,678',
  '1e9',
  'abc',
  '',
  '1 5',
  '1.5.2',
  '1,,5',
  '0x10',
  'NaN',
  'Infinity',
  '5mm',
  '--5',
  '.5.',
])('%j is refused, never guessed', (text) => {
  const read = readTyped(text);
  expect(read.ok).toBe(false);
  expect(read.ok ? '' : read.why.length).toBeGreaterThan(5);
});

test('what a page shows of a number is read as that number', () => {
  fc.assert(
    fc.property(fc.double({ min: -1e6, max: 1e6, noNaN: true }), (value) => {
      const text = String(Number(value.toFixed(4)));
      expect(readTyped(text)).toEqual({ ok: true, value: Number(text) });
      const comma = readTyped(text.replace('.', ','));
      if (comma.ok) expect(comma.value).toBe(Number(text));
      else expect(text).toMatch(/^-?[1-9]\d{0,2}\.\d{3}$/);
    }),
    { seed: 5, numRuns: 500 },
  );
});
