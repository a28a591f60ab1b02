import fc from 'fast-check';
import { Lines, LONGEST_SHOWN } from './lines';

const of = (text: string) => new Lines(new TextEncoder().encode(text));

test('lines are those of the text, whatever ends them', () => {
  const texts = fc.array(fc.stringMatching(/^[ -~äß]{0,12}$/), { minLength: 1, maxLength: 30 });
  fc.assert(
    fc.property(texts, fc.constantFrom('\n', '\r\n'), fc.boolean(), (parts, end, closed) => {
      const lines = of(parts.join(end) + (closed ? end : ''));
      const expected = [...parts];
      // Without a closing end, an empty last part is no line.
      if (!closed && expected.at(-1) === '' && expected.length > 1) expected.pop();
      if (expected.length === 1 && expected[0] === '' && !closed) expected.pop();
      expect(lines.some(1, 100)).toEqual(expected);
    }),
    { seed: 31 },
  );
});

test('past the ends there is nothing', () => {
  const lines = of('a\nb');
  expect([lines.line(0), lines.line(3), lines.line(NaN), of('').count]).toEqual(['', '', '', 0]);
  expect(lines.some(2, 10)).toEqual(['b']);
});

test('a long line is cut for showing and whole on demand', () => {
  const lines = of(`;${'x'.repeat(5000)}\nG28`);
  expect(lines.line(1)).toHaveLength(LONGEST_SHOWN + 1);
  expect(lines.line(1, true)).toHaveLength(5001);
  expect(lines.line(2)).toBe('G28');
});

test('search goes on from a line, both ways and round the end, in either case', () => {
  const lines = of('M104 S200\nG1 X1\nm104 s210\nG1 X2\n');
  expect(lines.find('m104', 1)).toBe(3);
  expect(lines.find('M104', 3)).toBe(1);
  expect(lines.find('M104', 3, true)).toBe(1);
  expect(lines.find('M104', 1, true)).toBe(3);
  expect(lines.find('S200', 1)).toBe(1);
  expect(lines.find('M109', 1)).toBeNull();
  expect(lines.find('', 1)).toBeNull();
  expect(of('').find('x', 1)).toBeNull();
});

test('what is found is there, and what is there is found', () => {
  const words = fc.array(fc.constantFrom('G1', 'X1', 'M104', '', 'aab', 'ab'), { maxLength: 12 });
  fc.assert(
    fc.property(words, fc.constantFrom('ab', 'x1', 'G'), fc.nat(20), (parts, text, from) => {
      const lines = of(parts.join('\n'));
      const holding = lines
        .some(1, 100)
        .flatMap((line, i) => (line.toLowerCase().includes(text.toLowerCase()) ? [i + 1] : []));
      const found = lines.find(text, Math.min(from, Math.max(1, lines.count)));
      if (holding.length === 0) expect(found).toBeNull();
      else expect(holding).toContain(found);
    }),
    { seed: 32 },
  );
});
