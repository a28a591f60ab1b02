import { benchFor, makeOn, movesOf } from '../../testing';

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

  test('every rung starts straight and comes back to its body, so that none stands on a lean', () => {
    const straight = edges(made, 0)[0]!;
    plan.rungs.forEach((_, rung) => {
      const x = edges(made, rung);
      expect(x[0]).toBeCloseTo(straight, 2);
      expect(x.at(-1)).toBeCloseTo(straight, 2);
    });
  });

  test('no lean reaches out further than would hold', () => {
    const straight = edges(made, 0)[0]!;
    for (const rung of plan.rungs.keys())
      expect(Math.max(...edges(made, rung)) - straight).toBeLessThan(10.01);
  });
});

test('what is looked at is the lean alone', () => {
  const made = makeOn(benchFor(), 'overhang');
  for (const { looked } of made.plan.rungs) {
    const x = edges(made, 0)[0]!;
    expect(looked!.minX).toBeLessThan(x);
    expect(looked!.minX).toBeGreaterThan(x - 2);
    expect(looked!.maxX - x).toBeGreaterThan(9);
  }
});

test('the angle climbs although no command sets it, and the audit measures it on the walls', () => {
  const { audit, text } = makeOn(benchFor(), 'overhang', { from: 30, to: 60, step: 15 });
  expect(audit.rungs.map(({ ok }) => ok)).toEqual([true, true, true]);
  expect(text).not.toMatch(/^M204 .*30$/m);
});
