import { cornerLine, waveOf } from './corner';

const off = (ghost: number) =>
  Math.max(
    ...cornerLine({ cut: 0.1, ghost, wave: 2, fades: 8 }, 12, 20)
      .filter(([x]) => x > 6)
      .map(([, y]) => Math.abs(y)),
  );

test('a larger ghost stands further off, and fades along the way', () => {
  expect(off(0.02)).toBeCloseTo(2 * off(0.01));
  const line = cornerLine({ cut: 0, ghost: 0.02, wave: 2, fades: 3 }, 12, 20);
  const near = line.filter(([x]) => x > 0 && x < 2).map(([, y]) => Math.abs(y));
  const far = line.filter(([x]) => x > 8).map(([, y]) => Math.abs(y));
  expect(Math.max(...near)).toBeGreaterThan(4 * Math.max(...far));
});

test('a corner is cut at its middle by what is said of it', () => {
  const larger = 20;
  const line = cornerLine({ cut: 0.1, ghost: 0, wave: 2, fades: 8 }, 12, larger);
  // What is printed passes the corner at this distance, along the line that halves it.
  const nearest = Math.min(...line.map(([x, y]) => Math.hypot(x, y)));
  expect(nearest).toBeCloseTo(0.1 * larger, 2);
  expect(line[0]).toEqual([0, -12]);
  expect(line.at(-1)![0]).toBeCloseTo(12);
});

test('waves are as far apart as the nozzle goes in one of them', () => {
  const { wave, fades } = waveOf(100, 50, 0.05);
  expect(wave).toBeCloseTo(2.0025, 3);
  expect(fades).toBeCloseTo(6.366, 3);
});
