import { benchFor, makeOn, movesOf } from '../../testing';
import { makeLadder } from '../make';

/** Furthest x of each layer of a rung, mm, lowest first, among walls at the leaning side. */
function edges(made: ReturnType<typeof makeOn>, rung: number): number[] {
  const far = new Map<number, number>();
  for (const { rung: own, to } of movesOf(made, 'extrude'))
    if (own === rung) far.set(to.z, Math.max(far.get(to.z) ?? -Infinity, to.x));
  return [...far].sort(([a], [b]) => a - b).map(([, x]) => x);
}

describe.each([
  ['heron', 0.4],
  ['newt', 0.2],
  ['wren', 1],
] as const)('on %s with a bore of %p mm', (machine, bore) => {
  const made = makeOn(benchFor(machine, { bore }), 'overhang');
  const { plan } = made;

  test('every rung leans by its own angle, layer by layer', () => {
    plan.rungs.forEach(({ set }, rung) => {
      const x = edges(made, rung);
      const steps = x.slice(1).map((one, i) => one - x[i]!);
      // Clipping and the three decimals of a file leave a few microns a layer.
      const leaning = steps.filter((step) => step > 0.01);
      expect(leaning.length).toBeGreaterThanOrEqual(3);
      const wanted = plan.layerHeight * Math.tan((set.overhang! * Math.PI) / 180);
      for (const step of leaning) expect(Math.abs(step - wanted)).toBeLessThan(0.004);
    });
  });

  test('all leans start from the same upright edge', () => {
    const starts = plan.rungs.map(({ set }, rung) => {
      const perLayer = plan.layerHeight * Math.tan((set.overhang! * Math.PI) / 180);
      return edges(made, rung)[0]! - perLayer;
    });
    for (const one of starts) expect(one).toBeCloseTo(starts[0]!, 2);
  });

  test('section and speed of walls are the same all through a lean, whatever its angle', () => {
    const section = (move: ReturnType<typeof movesOf>[number]) => move.e / move.length;
    const walls = movesOf(made, 'extrude').filter(({ rung, length }) => rung >= 0 && length > 2);
    const sections = walls.map(section);
    expect(Math.max(...sections) / Math.min(...sections)).toBeLessThan(1.02);
    const speeds = walls.map(({ speed }) => Math.round(speed));
    expect(new Set(speeds).size).toBeLessThanOrEqual(2);
  });

  test('no lean reaches out further than would hold', () => {
    for (const [rung, { looked }] of plan.rungs.entries()) {
      const x = edges(made, rung);
      expect(Math.max(...x) - Math.min(...x)).toBeLessThan(10.01);
      expect(Math.max(...x)).toBeLessThan(looked!.maxX);
    }
  });
});

test('what is looked at is the lean alone', () => {
  const { plan } = makeOn(benchFor(), 'overhang');
  plan.rungs.forEach(({ looked, boxes: [box] = [] }) => {
    expect(looked!.minX - box!.minX).toBeGreaterThan(6);
    expect(looked!.maxX).toBe(box!.maxX);
    expect([looked!.minY, looked!.maxY]).toEqual([box!.minY, box!.maxY]);
  });
});

test('the angle climbs although no command sets it, and the audit measures it on the walls', () => {
  const { audit, text } = makeOn(benchFor(), 'overhang', { from: 30, to: 60, step: 15 });
  expect(audit.rungs.map(({ ok }) => ok)).toEqual([true, true, true]);
  expect(text).not.toMatch(/^M204 .*30$/m);
});

test('what would hang from its ends instead of leaning is no rung of it', () => {
  const bench = benchFor();
  const refused = makeLadder('overhang', { to: 80 }, bench);
  expect(refused.ok ? '' : refused.problems[0]!.what).toContain('80 °');
  // At the flattest that is allowed nothing is laid as a strand over air yet.
  const made = makeOn(bench, 'overhang', { from: 71, to: 77, step: 2 });
  const sections = movesOf(made, 'extrude')
    .filter(({ rung, length }) => rung >= 0 && length > 2)
    .map(({ e, length }) => e / length);
  expect(Math.max(...sections) / Math.min(...sections)).toBeLessThan(1.02);
});
