import fc from 'fast-check';
import { boxOnBed, type Box } from '../../bench/bed';
import { benchFor, good, makeOn, movesOf } from '../../testing';
import { makeLadder, specFor } from '../make';
import { kindOf } from '../registry';
import { spread } from './places';

const kind = good(kindOf('first-layer'));

test('the offset of a patch is written into its moves, and into nothing that stays', () => {
  const made = makeOn(benchFor(), 'first-layer');
  const { plan, text } = made;
  plan.rungs.forEach(({ set }, index) => {
    const heights = new Set(
      movesOf(made, 'extrude')
        .filter(({ rung }) => rung === index)
        .map(({ to }) => Number(to.z.toFixed(3))),
    );
    expect([...heights]).toEqual([Number((plan.layerHeight + set.zOffset!).toFixed(3))]);
  });
  expect(text).not.toMatch(/^(M290|M206|SET_GCODE_OFFSET)/m);
});

const gapOf = (a: Box, b: Box) =>
  Math.max(b.minX - a.maxX, a.minX - b.maxX, b.minY - a.maxY, a.minY - b.maxY);

test.each([
  ['heron', 0, 18, 1],
  ['heron', 1, 17, 5],
  ['heron', 2, 9, 9],
  ['otter', 1, 12, 5],
  ['newt', 0, 18, 1],
  ['newt', 1, 7, 5],
] as const)(
  'on %s with places %p patches of %p mm lie on the bed and touch nothing of each other',
  (machine, places, size, groups) => {
    const bench = benchFor(machine);
    const { plan } = makeOn(bench, 'first-layer', { places, size, step: 0.05 });
    const boxes = plan.rungs.flatMap((rung) => rung.boxes!);
    expect(boxes).toHaveLength(5 * groups);
    boxes.forEach((a, i) => {
      expect(boxOnBed(bench.machine.bed, a)).toBe(true);
      for (const b of boxes.slice(i + 1)) expect(gapOf(a, b)).toBeGreaterThan(2.99);
    });
    // Every rung of the middle column stands at a place of its own along y, which all screens share.
    const middle = plan.rungs.map((rung) => rung.boxes![0]!.minY);
    expect(new Set(middle).size).toBe(5);
  },
);

test('patches that would lie over each other are stopped, and a press mends it', () => {
  const bench = benchFor('newt');
  const spec = good(specFor(kind, bench, { places: 1, size: 30 }));
  const [stop] = kind.check(spec, bench).filter(({ code }) => code === 'crowded');
  expect(stop!.grade).toBe('stop');
  for (const { patch } of stop!.offers!) {
    const mended = good(specFor(kind, bench, { places: 1, size: 30, ...patch }));
    expect(kind.check(mended, bench).map(({ code }) => code)).not.toContain('crowded');
  }
});

test('a nozzle never comes nearer to the bed than the guard, whatever is typed', () => {
  const bench = benchFor();
  fc.assert(
    fc.property(
      fc.integer({ min: -30, max: 10 }),
      fc.integer({ min: -30, max: 0 }),
      (toHundredths, touchHundredths) => {
        const [to, touch] = [toHundredths / 100, touchHundredths / 100];
        const spec = { from: 0.1, to, step: 0.05, touch };
        const made = makeLadder('first-layer', spec, bench);
        if (!made.ok) return;
        const lowest = Math.min(
          ...movesOf(made.value, 'extrude')
            .filter(({ rung }) => rung >= 0)
            .map(({ to: end }) => end.z),
        );
        const { layerHeight } = made.value.plan;
        // What is left between nozzle and bed: the layer, moved by the offset, over where it touches.
        expect(lowest - layerHeight - touch).toBeGreaterThanOrEqual(0.4 * layerHeight - 1e-6);
      },
    ),
    { seed: 8, numRuns: 25 },
  );
});

test('a thin layer gets a range that ends higher, of whole steps', () => {
  for (const bore of [0.2, 0.4, 0.6, 1]) {
    const bench = benchFor('wren', { bore });
    const spec = kind.defaults(bench) as { from: number; to: number; step: number };
    expect(
      kind.check(good(specFor(kind, bench, {})), bench).filter(({ grade }) => grade !== 'note'),
    ).toEqual([]);
    expect(spec.to).toBeGreaterThanOrEqual(kind.bounds(bench).zOffset!.min);
    expect(spec.from).toBe(0.1);
  }
});

test('the value is told as what to add, and which way the nozzle moves', () => {
  const bench = benchFor();
  expect(kind.carry('zOffset', 0.04, bench).say).toContain('+0.04 mm');
  expect(kind.carry('zOffset', 0.04, bench).say).toContain('higher');
  expect(kind.carry('zOffset', -0.04, bench).say).toContain('lower');
  expect(kind.carry('zOffset', 0, bench).say).toContain('stays');
});

test('what is offered mends: no press leads to patches that lie over each other still', () => {
  for (const size of [18, 24, 30])
    for (const places of [1, 2]) {
      const bench = benchFor();
      const spec = good(specFor(kind, bench, { places, size }));
      const [stop] = kind.check(spec, bench).filter(({ code }) => code === 'crowded');
      for (const { patch } of stop?.offers ?? []) {
        const mended = good(specFor(kind, bench, { places, size, ...patch }));
        expect(kind.check(mended, bench).map(({ code }) => code)).not.toContain('crowded');
      }
    }
});

test('values are mixed, so that neither along nor across the bed one side has the higher ones', () => {
  for (const count of [3, 4, 5, 7, 9, 11]) {
    const places = spread(count);
    expect([...places].sort((a, b) => a - b)).toEqual(places.map((_, i) => i));
    const middle = (count - 1) / 2;
    const along = places.reduce((sum, place, i) => sum + (i - middle) * (place - middle), 0);
    const most = places.reduce((sum, _, i) => sum + (i - middle) ** 2, 0);
    if (count > 3) expect(Math.abs(along / most)).toBeLessThan(0.41);
  }
});

test('marks lie at the middle of the values with half more plastic, and are fed from their first digit on', () => {
  const made = makeOn(benchFor(), 'first-layer');
  const marks = movesOf(made, 'extrude').filter(
    ({ rung, length, to }) => rung < 0 && length < 10 && to.z < 0.5,
  );
  expect(new Set(marks.map(({ to }) => Number(to.z.toFixed(3))))).toEqual(new Set([0.2]));
  const bead = (0.2 * 0.25 + (Math.PI * 0.04) / 4) / ((Math.PI * 1.75 ** 2) / 4);
  const signs = marks.filter(({ e, length }) => Math.abs(e / length / bead - 1.5) < 0.02);
  expect(signs.length).toBeGreaterThan(20);
  // After every way that was drawn back for comes a line of some length, not a digit's short stroke.
  const strokes = movesOf(made, 'extrude');
  for (const { line } of movesOf(made, 'restart')) {
    const next = strokes.find((one) => one.line > line)!;
    if (next.rung < 0) expect(next.length).toBeGreaterThan(5);
  }
});
