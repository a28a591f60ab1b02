import { FILAMENTS } from '../../bench/presets';
import { roundArea } from '../../deposit/bead';
import { changeAt } from '../../gcode/trace';
import { benchFor, makeOn, movesOf, type Move } from '../../testing';

const bench = benchFor();
const section = roundArea(bench.filament.diameter);
const strand = roundArea(bench.nozzle.diameter);

/** Strands of a deck: long strokes along x in the last layers of a rung, where nothing of it rests. */
const strands = (made: ReturnType<typeof makeOn>): Move[] => {
  const { rungs, layerHeight } = made.plan;
  return movesOf(made, 'extrude').filter(
    ({ rung, to, length, from }) =>
      rung >= 0 &&
      Math.abs(to.y - from.y) < 0.01 &&
      length > 5 &&
      // The first layer of a deck hangs; the second lies on it.
      Math.abs(to.z - (rungs[rung]!.z.to - layerHeight)) < 0.01,
  );
};
const areaOf = ({ e, length }: Move) => (e * section) / length;
const hanging = (made: ReturnType<typeof makeOn>, speed: number) =>
  strands(made).filter((one) => Math.abs(one.speed - speed) < 0.5);

test('bridge flow changes the plastic of strands over air, and of nothing else', () => {
  const made = makeOn(bench, 'bridge-flow');
  const { rungs } = made.plan;
  const over = hanging(made, bench.machine.speeds.bridge);
  rungs.forEach(({ set }, index) => {
    const own = over.filter(({ rung }) => rung === index);
    expect(own.length).toBeGreaterThan(20);
    for (const one of own)
      expect(Math.abs(areaOf(one) / strand - set.bridgeFlow!)).toBeLessThan(0.01);
  });
  // Walls of the piers are laid alike in all rungs.
  const walls = movesOf(made, 'extrude').filter(
    ({ rung, length, from, to }) => rung >= 0 && length > 4 && Math.abs(to.x - from.x) < 0.01,
  );
  const areas = walls.map((one) => areaOf(one));
  expect(Math.max(...areas) / Math.min(...areas)).toBeLessThan(1.03);
});

test('bridge speed changes the speed of strands, each rung at its own', () => {
  const made = makeOn(bench, 'bridge-speed', { from: 20, to: 60, step: 20 });
  made.plan.rungs.forEach(({ set }, index) => {
    const own = strands(made).filter(({ rung }) => rung === index);
    const speeds = new Set(own.map(({ speed }) => Math.round(speed)));
    expect([...speeds]).toContain(set.bridgeSpeed);
    for (const other of [20, 40, 60].filter((one) => one !== set.bridgeSpeed))
      expect(own.filter((one) => Math.round(one.speed) === other && areaOf(one) > 0.11)).toEqual(
        [],
      );
  });
});

test('the fan of a rung runs alike all through it, since it takes seconds to follow', () => {
  const { trace, plan } = makeOn(bench, 'bridge-fan', { from: 0.2, to: 1, step: 0.4 });
  const fans: { z: number; share: number }[] = [];
  for (let i = 0; i < trace.changes.count; i++) {
    const { name, value } = changeAt(trace, i);
    const z = trace.moves.z[Math.min(trace.changes.move[i]!, trace.moves.count - 1)]!;
    if (name === 'fan' && trace.changes.line[i]! >= plan.rungs[0]!.line)
      fans.push({ z, share: value });
  }
  for (const { z, set } of plan.rungs) {
    const within = fans.filter((one) => one.z > z.from + plan.layerHeight && one.z < z.to);
    expect(fans.some(({ share }) => Math.abs(share - set.bridgeFan!) < 0.01)).toBe(true);
    for (const { share } of within) expect(share).toBeCloseTo(set.bridgeFan!, 2);
  }
});

test('three spans grow by thirds to the longest', () => {
  const made = makeOn(bench, 'bridge-flow', { from: 1, to: 1.05, span: 30 });
  const lengths = hanging(made, bench.machine.speeds.bridge).map(({ length }) => length);
  const longest = Math.max(...lengths);
  // No strand runs over a pier: what rests there is laid as what rests.
  expect(longest).toBeGreaterThan(29);
  expect(longest).toBeLessThan(31);
  for (const span of [10, 20, 30]) {
    const own = lengths.filter((one) => Math.abs(one - span) < 1);
    expect(own.length).toBeGreaterThanOrEqual(6);
    for (const one of own) expect(one).toBeLessThan(span);
  }
});

test('a speed past what a hot end surely melts is told', () => {
  const wide = benchFor('heron', { bore: 1 });
  const { warnings } = makeOn(wide, 'bridge-speed', { from: 10, to: 80, step: 10 });
  expect(warnings.map(({ code }) => code)).toContain('melt-limit');
  // What is offered keeps to it, also where little is melted.
  for (const one of [wide, benchFor('wren', { filament: FILAMENTS.eel })]) {
    const usual = makeOn(one, 'bridge-speed');
    expect(usual.warnings.map(({ code }) => code)).not.toContain('melt-limit');
    expect(usual.plan.rungs.length).toBeGreaterThanOrEqual(5);
  }
});
