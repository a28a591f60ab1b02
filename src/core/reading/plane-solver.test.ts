import { normal, seeded } from '../random';
import { dot, matrix } from './cholesky';
import { eigenOf } from './eigen';
import { fall, isLattice, LEVEL, solversFor, type Seen } from './plane-solver';

const random = seeded(8);
const cells = (rows: number, columns: number): Seen =>
  Array.from({ length: rows * columns }, (_, k) => ({
    a: Math.floor(k / columns) / (rows - 1),
    b: (k % columns) / (columns - 1),
    y: random(),
    noise: 0.2,
  }));

test('eigenvalues and vectors rebuild a symmetric matrix', () => {
  const at = Array.from({ length: 9 }, () => random());
  const a = matrix(9, 9, (i, j) => fall(at[i]! - at[j]!, 0.4));
  const { values, vectors } = eigenOf(a);
  for (let i = 0; i < 9; i++)
    for (let j = 0; j < 9; j++) {
      const rebuilt = values.reduce(
        (sum, one, k) => sum + one * vectors[i]![k]! * vectors[j]![k]!,
        0,
      );
      expect(rebuilt).toBeCloseTo(a[i]![j]!, 10);
      const along = vectors.reduce((sum, row) => sum + row[i]! * row[j]!, 0);
      expect(along).toBeCloseTo(i === j ? 1 : 0, 10);
    }
});

test.each([
  { a: 0.4, b: 0.8, height: 0.3 },
  { a: Infinity, b: 0.3, height: 0.2 },
  { a: 0.17, b: Infinity, height: 0.48 },
  { a: Infinity, b: Infinity, height: 0 },
])('a whole lattice is solved as all of its cells are, %j', (kernel) => {
  const whole = cells(6, 5);
  // In no order, and the same cells with one that is a hair's breadth noisier: no lattice any more.
  const mixed = whole.map((_, k) => whole[(k * 7) % whole.length]!);
  const odd = mixed.map((one, k) => (k === 0 ? { ...one, noise: one.noise * (1 + 1e-12) } : one));
  expect([isLattice(mixed), isLattice(odd), isLattice(mixed.slice(1))]).toEqual([
    true,
    false,
    false,
  ]);
  const [product, dense] = [solversFor(mixed)(kernel), solversFor(odd)(kernel)];
  expect(product.logDet).toBeCloseTo(dense.logDet, 6);
  expect(product.misfit).toBeCloseTo(dense.misfit, 6);
  const residue = Float64Array.from(mixed, () => normal(random));
  const lattice = { a: [0, 0.2, 0.37, 0.9, 1], b: [0, 0.25, 0.6, 1] };
  const told = [product, dense].map((one) => {
    const table = new Float64Array(lattice.a.length * lattice.b.length).fill(0.25);
    one.toward(lattice)(residue, 0.7, table);
    return table;
  });
  told[0]!.forEach((one, k) => expect(one).toBeCloseTo(told[1]![k]!, 6));
});

test('what residues mean for their own cells is what is left when their noise is taken off', () => {
  const seen = cells(4, 5);
  const kernel = { a: 0.5, b: 0.85, height: 0.3 };
  const at = (axis: 'a' | 'b') => [...new Set(seen.map((one) => one[axis]))];
  const lattice = { a: at('a'), b: at('b') };
  const residue = Float64Array.from(seen, () => normal(random));
  const told = new Float64Array(seen.length);
  solversFor(seen)(kernel).toward(lattice)(residue, 1, told);
  // With alpha = (residue − told) / noise², what the kernel makes of alpha is told again.
  const alpha = told.map((one, k) => (residue[k]! - one) / seen[k]!.noise ** 2);
  const row = Float64Array.from(seen, (one) => {
    const [x, y] = [fall(one.a - seen[3]!.a, kernel.a), fall(one.b - seen[3]!.b, kernel.b)];
    return LEVEL + kernel.height ** 2 * x * y;
  });
  expect(dot(row, alpha)).toBeCloseTo(told[3]!, 6);
});
