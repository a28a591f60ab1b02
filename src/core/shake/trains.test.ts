import fc from 'fast-check';
import { SHAPERS } from '../dialect/shapers';
import { lengthOf, residual, rounding, trainOf, type Train } from './trains';

/** Displacement and speed of an axis that was hit by the impulses of a train: small steps, and no formula. */
function integrated({ shares, times }: Train, hertz: number, damping: number): number {
  const omega = 2 * Math.PI * hertz;
  const step = 1 / (hertz * 20_000);
  let [x, v, next] = [0, 0, 0];
  const end = times.at(-1)!;
  for (let t = 0; next < shares.length || t < end; t += step) {
    while (next < shares.length && times[next]! <= t + step / 2) v += shares[next++]!;
    if (next === shares.length) break;
    // Midpoint rule.
    const [xm, vm] = [
      x + (step / 2) * v,
      v + (step / 2) * (-2 * damping * omega * v - omega ** 2 * x),
    ];
    [x, v] = [x + step * vm, v + step * (-2 * damping * omega * vm - omega ** 2 * xm)];
  }
  // The envelope of what goes on ringing, as a share of one impulse of 1.
  const damped = omega * Math.sqrt(1 - damping ** 2);
  return damped * Math.hypot(x, (v + damping * omega * x) / damped);
}

describe.each(SHAPERS)('%s', (shaper) => {
  test.each([
    [40, 0, 1],
    [40, 0.1, 1.25],
    [55, 0.05, 0.8],
    [33, 0.2, 1.6],
  ])('set to %d Hz with damping %d, on an axis of %d times that', (hertz, damping, off) => {
    const train = trainOf(shaper, hertz, damping);
    expect(train.shares.reduce((sum, one) => sum + one, 0)).toBeCloseTo(1, 12);
    const told = residual(train, hertz * off, damping);
    const stepped = integrated(train, hertz * off, damping);
    expect(Math.abs(told - stepped)).toBeLessThan(0.01 * Math.max(stepped, 0.05));
  });

  test('at its own frequency what is left is what it lets through, whatever the damping', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 15, max: 120, noNaN: true }),
        fc.double({ min: 0, max: 0.25, noNaN: true }),
        (hertz, damping) => {
          const train = trainOf(shaper, hertz, damping);
          const faded = Math.exp(-damping * 2 * Math.PI * hertz * lengthOf(train));
          const let_ = shaper === 'EI' || shaper === '3HEI' ? 0.05 : 0;
          expect(residual(train, hertz, damping)).toBeLessThanOrEqual(let_ + 1e-9);
          if (let_ > 0) expect(residual(train, hertz, damping)).toBeGreaterThan(0.04 * faded);
        },
      ),
    );
  });

  test('a bend comes out of it cut by half its spread in time', () => {
    const [hertz, acceleration] = [40, 5000];
    const train = trainOf(shaper, hertz, 0.08);
    // y = a·t²/2 through the train, against the same way delayed by the middle of the train.
    const middle = train.shares.reduce((sum, one, k) => sum + one * train.times[k]!, 0);
    const at = 1;
    const bend = (t: number) => (acceleration / 2) * t ** 2;
    const out = train.shares.reduce((sum, one, k) => sum + one * bend(at - train.times[k]!), 0);
    expect(rounding(train, acceleration)).toBeCloseTo(out - bend(at - middle), 6);
  });
});

test('longer trains forgive more: how far off the axis may be before 5 % of its ringing is left', () => {
  const widths = SHAPERS.map((shaper) => {
    const train = trainOf(shaper, 40, 0);
    const passes = (share: number) => residual(train, 40 * share, 0) <= 0.05 + 1e-6;
    let [low, high] = [1, 1];
    while (passes(low - 0.002)) low -= 0.002;
    while (passes(high + 0.002)) high += 0.002;
    return high - low;
  });
  const [zv, zvd, mzv, ei, two, three] = widths as [number, number, number, number, number, number];
  expect(zv).toBeLessThan(mzv);
  expect(mzv).toBeLessThan(zvd);
  expect(zvd).toBeLessThan(ei);
  expect(ei).toBeLessThan(two);
  expect(two).toBeLessThan(three);
  // As published for 5 %: about 0.06, 0.29, 0.40, 0.73 and 0.95 of the frequency.
  expect(zv).toBeCloseTo(0.06, 1);
  expect(ei).toBeCloseTo(0.4, 1);
  expect(two).toBeCloseTo(0.73, 1);
  expect(three).toBeCloseTo(0.95, 1);
});
