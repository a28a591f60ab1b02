import { ADVANCE, strokesOf, textWidth } from './digits';

test.each([...'0123456789-'])('%s stays within its grid, its strokes along the axes', (sign) => {
  for (const [x0, y0, x1, y1] of strokesOf(sign)) {
    expect(x0 === x1 || y0 === y1).toBe(true);
    for (const x of [x0, x1]) expect(x >= 0 && x <= 2).toBe(true);
    for (const y of [y0, y1]) expect(y >= 0 && y <= 4).toBe(true);
  }
});

test('no two digits look alike', () => {
  const looks = [...'0123456789'].map((sign) => JSON.stringify(strokesOf(sign).map(String).sort()));
  expect(new Set(looks).size).toBe(10);
});

test('a text is as wide as its digits and the room between them', () => {
  const right = Math.max(...strokesOf('205').map(([, , x1]) => x1));
  expect(right).toBe(textWidth('205'));
  expect(textWidth('205')).toBe(2 * ADVANCE + 2);
});

test('a sign without strokes is a fault of the caller', () => {
  expect(() => strokesOf('2x')).toThrow(RangeError);
});
