import { FILAMENTS } from '../../bench/presets';
import { roundArea } from '../../deposit/bead';
import { changeAt } from '../../gcode/trace';
import { benchFor, makeOn, movesOf, type Move } from '../../testing';

const bench = benchFor();
const section = roundArea(bench.filament.diameter);
const strand = roundArea(bench.nozzle.diameter);

/** Strands of a deck where they hang: long strokes along x in the one layer of the rungs. */
const strands = (made: ReturnType<typeof makeOn>): Move[] =>
  movesOf(made, 'extrude').filter(
    ({ rung, to, length, from }) => rung >= 0 && Math.abs(to.y - from.y) < 0.01 && length > 5,
  );
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
  // What rests on a rail is laid as a plain bead, in all decks alike.
  const resting = movesOf(made, 'extrude').filter(
    ({ rung, length }) => rung >= 0 && length > 0.5 && length < 3,
  );
  expect(resting.length).toBeGreaterThan(20);
  const areas = resting.map((one) => areaOf(one));
  expect(Math.max(...areas) / Math.min(...areas)).toBeLessThan(1.03);
});

test('bridge speed changes the speed of strands, each rung at its own', () => {
  const made = makeOn(bench, 'bridge-speed', { from: 20, to: 60, step: 20 });
  made.plan.rungs.forEach(({ set }, index) => {
    const own = strands(made).filter(({ rung }) => rung === index);
    const speeds = new Set(own.map(({ speed }) => Math.round(speed)));
    expect([...speeds]).toEqual([set.bridgeSpeed]);
  });
});

test('a fan is waited for before the deck that it is for, and runs alike all through it', () => {
  const { trace, plan, text } = makeOn(bench, 'bridge-fan', { from: 0.2, to: 1, step: 0.4 });
  const lines = text.split('\n');
  const fans: { line: number; share: number }[] = [];
  for (let i = 0; i < trace.changes.count; i++) {
    const { name, value } = changeAt(trace, i);
    const line = trace.changes.line[i]!;
    if (name === 'fan' && line >= plan.rungs[0]!.line) fans.push({ line, share: value });
  }
  plan.rungs.forEach(({ line, set }, i) => {
    const until = plan.rungs[i + 1]?.line ?? Infinity;
    const own = fans.filter((one) => one.line >= line && one.line < until && one.share > 0);
    for (const { share } of own) expect(share).toBeCloseTo(set.bridgeFan!, 2);
    // The last deck has what was set before it, where that is the same.
    if (own.length > 0) expect(lines[own[0]!.line]).toBe('G4 P4000');
  });
  expect(fans.filter(({ share }) => share > 0).length).toBeGreaterThanOrEqual(2);
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
