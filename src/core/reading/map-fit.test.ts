import fc from 'fast-check';
import { normal, seeded } from '../random';
import { fitMap, type Known } from './map-fit';

const FLOWS = [3, 5, 7, 9];
const ACCELERATIONS = [1000, 2500, 4000];

const truth = (k: number, half: number, g: number) => (flow: number, acceleration: number) =>
  (k / (1 + flow / half)) * (acceleration / 2000) ** -g;

function cellsOf(of: (flow: number, acceleration: number) => number, noise = 0, seed = 1): Known[] {
  const random = seeded(seed);
  return FLOWS.flatMap((flow) =>
    ACCELERATIONS.map((acceleration) => ({
      flow,
      acceleration,
      advance: of(flow, acceleration) * Math.exp(noise * normal(random)),
      unsure: Math.max(0.02, noise),
      beyond: null,
    })),
  );
}

test('values without scatter come back, also where nothing was read', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.02, max: 0.9, noNaN: true }),
      fc.double({ min: 6, max: 60, noNaN: true }),
      fc.double({ min: 0, max: 0.2, noNaN: true }),
      fc.integer({ min: 0, max: 11 }),
      (k, half, g, missing) => {
        const of = truth(k, half, g);
        const known = cellsOf(of);
        const [left] = known.splice(missing, 1);
        const fit = fitMap(known);
        for (const { flow, acceleration } of [...known, left!])
          expect(fit.at(flow, acceleration).advance / of(flow, acceleration)).toBeCloseTo(1, 1);
      },
    ),
    { seed: 5, numRuns: 60 },
  );
});

test('a fit never rises, with flow or with acceleration', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
      const fit = fitMap(cellsOf(() => 0.05, 0.2, seed));
      const at = (flow: number, acceleration: number) => fit.at(flow, acceleration).advance;
      for (const acceleration of ACCELERATIONS)
        FLOWS.slice(1).forEach((flow, i) =>
          expect(at(flow, acceleration)).toBeLessThanOrEqual(at(FLOWS[i]!, acceleration) + 1e-12),
        );
      for (const flow of FLOWS)
        ACCELERATIONS.slice(1).forEach((acceleration, i) =>
          expect(at(flow, acceleration)).toBeLessThanOrEqual(at(flow, ACCELERATIONS[i]!) + 1e-12),
        );
    }),
    { seed: 9, numRuns: 40 },
  );
});

test('cells that scatter come nearer to the truth by the fit than by themselves', () => {
  const of = truth(0.06, 20, 0.08);
  let [byFit, alone] = [0, 0];
  for (let seed = 1; seed <= 40; seed++) {
    const known = cellsOf(of, 0.1, seed);
    const fit = fitMap(known);
    for (const { flow, acceleration, advance } of known) {
      byFit += Math.abs(Math.log(fit.at(flow, acceleration).advance / of(flow, acceleration)));
      alone += Math.abs(Math.log(advance / of(flow, acceleration)));
    }
  }
  expect(byFit).toBeLessThan(0.75 * alone);
});

test('one cell far from all others hardly moves the fit, and is told', () => {
  const of = truth(0.06, 20, 0.05);
  const known = cellsOf(of, 0.03, 3).map((one, i) =>
    i === 5 ? { ...one, advance: 2.2 * one.advance } : one,
  );
  const fit = fitMap(known);
  const { flow, acceleration } = known[5]!;
  expect(fit.at(flow, acceleration).advance / of(flow, acceleration)).toBeLessThan(1.12);
  expect(fit.far.map((far) => Math.abs(far) > 3)).toEqual(known.map((_, i) => i === 5));
});

test('the end of a strip holds the fit to its side alone', () => {
  const of = truth(0.1, 20, 0);
  // Strips end at 0.075: what is larger was read as that.
  const known = cellsOf(of, 0.02, 7).map((one): Known =>
    one.advance > 0.075 ? { ...one, advance: 0.075, beyond: 'higher' } : one,
  );
  expect(known.some(({ beyond }) => beyond !== null)).toBe(true);
  const fit = fitMap(known);
  expect(fit.at(3, 1000).advance).toBeGreaterThan(0.079);
});

test('what does not fall is not said to fall', () => {
  const fit = fitMap(cellsOf(() => 0.05, 0.05, 11));
  expect(fit.falls.flow).toBeLessThan(1.5);
  const steep = fitMap(cellsOf(truth(0.09, 5, 0.3), 0.03, 2));
  expect(steep.falls.flow).toBeGreaterThan(3);
  expect(steep.falls.acceleration).toBeGreaterThan(3);
});
