import fc from 'fast-check';
import { seeded } from '../random';
import { cholesky, dot, matrix, solveLower } from './cholesky';
import {
  addDraws,
  curveAt,
  evidence,
  jointEvidence,
  logLikelihood,
  weighModels,
  type Data,
  type Model,
} from './curve';

const entry = fc.double({ min: -2, max: 2, noNaN: true });
const rows = (n: number) =>
  fc.array(fc.array(entry, { minLength: n, maxLength: n }), { minLength: n, maxLength: n });

/** B·Bᵀ: symmetric, and positive semi-definite whatever B is. */
const squared = (b: number[][]) =>
  matrix(b.length, b.length, (i, j) => b[i]!.reduce((sum, v, k) => sum + v * b[j]![k]!, 0));

test('a Cholesky factor multiplied by its transpose is the matrix', () => {
  fc.assert(
    fc.property(rows(5), (b) => {
      const a = squared(b);
      const l = cholesky(a);
      const scale = Math.max(...a.map((row, i) => row[i]!), 1e-9);
      a.forEach((row, i) =>
        row.forEach((value, j) => {
          let product = 0;
          for (let k = 0; k < a.length; k++) product += l[i]![k]! * l[j]![k]!;
          // A pivot that counts as zero leaves out at most its own size.
          expect(Math.abs(product - value)).toBeLessThan(1e-4 * scale);
        }),
      );
    }),
    { seed: 71 },
  );
});

test('two equal points make a singular matrix, and the factor stays finite', () => {
  const l = cholesky(matrix(3, 3, (i, j) => ((i === 2) === (j === 2) ? 1 : 0.5)));
  expect(l.flatMap((row) => [...row]).every(Number.isFinite)).toBe(true);
  expect(l[1]![1]).toBe(0);
});

test('solving and multiplying undo each other', () => {
  const l = cholesky(matrix(4, 4, (i, j) => Math.exp(-((i - j) ** 2)) + (i === j ? 0.1 : 0)));
  const x = [1, -2, 0.5, 3];
  const b = l.map((row) => dot(row, Float64Array.from(x)));
  solveLower(l, b).forEach((value, i) => expect(value).toBeCloseTo(x[i]!, 10));
});

const peak = (at: number, noise = 0.05): Data => {
  const x = Array.from({ length: 8 }, (_, i) => i / 7);
  return {
    x,
    y: x.map((v) => Math.exp(-((v - at) ** 2) / (2 * 0.3 ** 2))),
    noise: x.map(() => noise),
  };
};
const axis = Array.from({ length: 71 }, (_, i) => i / 70);
const draws = (data: Data, models: Model[], count: number, seed: number, scale = 1) => {
  const sums = Array.from({ length: count }, () => new Float64Array(axis.length));
  addDraws(data, axis, models, scale, sums, seeded(seed));
  return sums;
};
const top = (curve: Float64Array) => axis[curve.indexOf(Math.max(...curve))]!;

test('the likelihood of two scores is that of their normal distribution', () => {
  const data: Data = { x: [0, 1], y: [0.7, 0.4], noise: [0.1, 0.1] };
  const choice = { length: 0.5, height: 0.3 };
  const same = 1 + 0.09 + 0.01;
  const cross = 1 + 0.09 * Math.exp(-1 / (2 * 0.25));
  const det = same ** 2 - cross ** 2;
  const [a, b] = [0.2, -0.1];
  const quadratic = (same * (a * a + b * b) - 2 * cross * a * b) / det;
  const exact = -0.5 * quadratic - 0.5 * Math.log(det) - Math.log(2 * Math.PI);
  expect(logLikelihood(data, choice)).toBeCloseTo(exact, 9);
});

test('shares of belief add up to one and prefer no kernel over the data', () => {
  const models = weighModels(peak(0.5));
  expect(models.reduce((sum, { weight }) => sum + weight, 0)).toBeCloseTo(1, 9);
  const likely = models.reduce((a, b) => (b.weight > a.weight ? b : a));
  expect(likely.length).toBeGreaterThan(0.12);
});

test('the curve runs through scores that hardly scatter, its band widening between and beyond', () => {
  const data = peak(0.4, 0.02);
  const models = weighModels(data);
  const at = curveAt(data, data.x, models);
  at.mean.forEach((value, i) => expect(value).toBeCloseTo(data.y[i]!, 1));
  const { deviation } = curveAt(data, [0.5, 1.4], models);
  expect(deviation[1]!).toBeGreaterThan(deviation[0]! * 2);
});

test('draws gather about the true place, more closely with less noise', () => {
  const spread = (noise: number) => {
    const data = peak(0.62, noise);
    const places = draws(data, weighModels(data), 800, 2).map(top);
    const middle = places.reduce((sum, v) => sum + v, 0) / places.length;
    expect(Math.abs(middle - 0.62)).toBeLessThan(0.08);
    return Math.sqrt(places.reduce((sum, v) => sum + (v - middle) ** 2, 0) / places.length);
  };
  expect(spread(0.03)).toBeLessThan(spread(0.2));
});

test('the mean of many draws is the mean of the curve, and draws add up by their scale', () => {
  const data = peak(0.4, 0.1);
  const models = weighModels(data);
  const { mean } = curveAt(data, axis, models);
  const some = draws(data, models, 3000, 8);
  for (const i of [5, 35, 65]) {
    const middle = some.reduce((sum, row) => sum + row[i]!, 0) / some.length;
    expect(middle).toBeCloseTo(mean[i]!, 1);
  }
  const half = draws(data, models, 20, 8, 0.5);
  draws(data, models, 20, 8).forEach((row, k) => expect(half[k]![30]).toBeCloseTo(row[30]! / 2, 9));
});

test('one curve among flat lines is an effect, flat lines alone are none', () => {
  expect(jointEvidence([-1, -1, -1, -1, -1, -1])).toBeLessThan(0);
  expect(jointEvidence([5, -1, -1, -1, -1, -1])).toBeGreaterThan(1.5);
  expect(jointEvidence([800])).toBeCloseTo(800 - Math.LN2, 6);
});

test('the same seed draws the same curves', () => {
  const data = peak(0.3);
  const models = weighModels(data);
  expect(draws(data, models, 50, 5)).toEqual(draws(data, models, 50, 5));
  expect(draws(data, models, 50, 5)).not.toEqual(draws(data, models, 50, 6));
});

test('a curve is evidence of an effect, a flat line is not', () => {
  const flat: Data = {
    x: peak(0.5).x,
    y: Array<number>(8).fill(0.6),
    noise: Array<number>(8).fill(0.1),
  };
  expect(evidence(flat, weighModels(flat))).toBeLessThan(0.5);
  const curved = peak(0.5, 0.1);
  expect(evidence(curved, weighModels(curved))).toBeGreaterThan(5);
});
