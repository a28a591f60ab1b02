import { MACHINES, type MachinePreset } from '../../bench/presets';
import { MOVE } from '../../gcode/trace';
import { growBox } from '../../bench/bed';
import { benchFor, good, movesOf } from '../../testing';
import { makeLadder } from '../make';
import { rowsOf, type MapSpec } from './cells';
import { advanceMap, partsOf } from './kind';

const kind = advanceMap;
const wren = benchFor('wren');
const made = good(makeLadder('advance-map', {}, wren));

test.each(Object.keys(MACHINES) as MachinePreset[])(
  'on %s every figure of every print has its value, speed and acceleration by the text alone',
  (name) => {
    const bench = benchFor(name);
    const spec = kind.defaults(bench);
    const parts = partsOf(spec, bench);
    const cells = parts.flatMap((_, i) => {
      const { audit, plan, warnings } = good(makeLadder('advance-map', { part: i + 1 }, bench));
      expect(warnings.filter(({ grade }) => grade !== 'note')).toEqual([]);
      expect(audit.findings.filter(({ grade }) => grade !== 'note')).toEqual([]);
      expect(audit.rungs.filter(({ ok }) => !ok)).toEqual([]);
      for (const setting of ['advance', 'wallSpeed', 'acceleration'])
        expect(audit.rungs.filter((row) => row.setting === setting)).toHaveLength(
          plan.rungs.length,
        );
      return plan.axes[1]!.steps.map(({ set }) => `${set.wallSpeed} ${set.acceleration}`);
    });
    // Each cell is on one of the prints.
    const all = rowsOf(spec, bench).flat();
    expect(cells.toSorted()).toEqual(
      all.map(({ speed, acceleration }) => `${speed} ${acceleration}`).toSorted(),
    );
    expect(all).toHaveLength(12);
  },
);

test('the middle of every fast way is run at the speed under test, however gentle the acceleration', () => {
  const { trace, motion, plan } = made;
  const fastest = new Map<number, number>();
  for (const move of movesOf(made, 'extrude')) {
    const set = plan.rungs[move.rung]?.set;
    if (!set || move.speed < set.wallSpeed! - 0.1) continue;
    const i = trace.moves.line.indexOf(move.line);
    fastest.set(move.rung, Math.max(fastest.get(move.rung) ?? 0, motion.top[i]!));
  }
  expect(fastest.size).toBe(plan.rungs.length);
  for (const [rung, speed] of fastest)
    expect(speed).toBeCloseTo(plan.rungs[rung]!.set.wallSpeed!, 1);
});

test('nothing is laid over a sign, and no way crosses one at the height of the layer', () => {
  const { moves } = made.trace;
  const { frame, rungs } = made.plan;
  const figures = rungs.map(({ boxes }) => boxes![0]!);
  /** Whether a point lies in a figure. */
  const inFigure = (x: number, y: number) =>
    figures.some(
      (box) => x >= box.minX - 4 && x <= box.maxX + 2 && y >= box.minY - 4 && y <= box.maxY + 4,
    );
  const signs: { x: number; y: number; line: number }[] = [];
  const low: { from: [number, number]; to: [number, number]; line: number }[] = [];
  const inside = growBox(frame!, -1);
  for (let i = 1; i < moves.count; i++) {
    const [x0, y0, x1, y1] = [moves.x[i - 1]!, moves.y[i - 1]!, moves.x[i]!, moves.y[i]!];
    const long = Math.hypot(x1 - x0, y1 - y0);
    const [mx, my] = [(x0 + x1) / 2, (y0 + y1) / 2];
    const within = mx > inside.minX && mx < inside.maxX && my > inside.minY && my < inside.maxY;
    if (!within || long < 0.5) continue;
    if (moves.kind[i] === MOVE.extrude && !inFigure(mx, my))
      signs.push({ x: mx, y: my, line: moves.line[i]! });
    if (moves.kind[i] === MOVE.travel && moves.z[i]! < 0.5 && long > 6)
      low.push({ from: [x0, y0], to: [x1, y1], line: moves.line[i]! });
  }
  expect(signs.length).toBeGreaterThan(100);
  const near = ({ x, y }: { x: number; y: number }, { from, to }: (typeof low)[number]) => {
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
    const along = ((x - from[0]) * dx + (y - from[1]) * dy) / (dx * dx + dy * dy);
    const at = Math.min(1, Math.max(0, along));
    return Math.hypot(x - from[0] - at * dx, y - from[1] - at * dy) < 0.2;
  };
  for (const way of low)
    expect(signs.filter((sign) => sign.line < way.line && near(sign, way))).toEqual([]);
});

test('a bed that is too small for all cells takes several prints, and says which this is', () => {
  const bench = benchFor('newt');
  const spec = kind.defaults(bench);
  const { length } = partsOf(spec, bench);
  expect(length).toBeGreaterThan(1);
  const [first] = kind.check(spec, bench);
  expect(first).toMatchObject({ code: 'split', offers: [{ patch: { part: 2 } }] });
  const beyond = kind.check({ ...spec, part: length + 1 }, bench);
  expect(beyond.find(({ grade }) => grade === 'stop')).toMatchObject({
    code: 'no-such-part',
    offers: [{ patch: { part: length } }],
  });
  const refused = makeLadder('advance-map', { part: length + 1 }, bench);
  expect(refused.ok).toBe(false);
});

test('values stand around the one that was found, and speeds end where the filament still melts', () => {
  const found = { ...wren, tuned: { advance: 0.04, meltFlow: 6 } };
  const spec = kind.defaults(found);
  expect((spec.from + spec.to) / 2).toBeCloseTo(0.04, 3);
  expect(spec.fastest * 0.0817).toBeLessThanOrEqual(6.05);
  const { plan } = good(makeLadder('advance-map', {}, found));
  const flows = plan.axes[1]!.steps.map(({ label }) => Number.parseFloat(label));
  expect(Math.max(...flows)).toBeLessThanOrEqual(6);
});

test('cells that are not reached, that do not melt, or that the extruder cuts short are told beforehand', () => {
  const codes = (patch: Partial<MapSpec>) =>
    kind.check({ ...kind.defaults(wren), ...patch }, wren).map(({ code }) => code);
  expect(codes({})).toEqual([]);
  expect(codes({ hardest: 90_000 })).toContain('not-reached');
  expect(codes({ fastest: 200 })).toContain('over-melt');
  const heron = benchFor('heron');
  const cut = kind.check({ ...kind.defaults(heron), hardest: 3000 }, heron);
  expect(cut.map(({ code }) => code)).toContain('jerk-cuts-acceleration');
});

test('acceleration and corners stand again as they were after the print', () => {
  const text = made.text.split('\n');
  const { trace } = made;
  expect(trace.moves.count).toBeGreaterThan(500);
  const last = text.findLast((line) => /^(SET_VELOCITY_LIMIT ACCEL|M204)/.test(line));
  expect(last).toContain(String(wren.machine.limits.printAcceleration));
});
