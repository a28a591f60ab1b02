import { good, benchFor } from '../../testing';
import { beadArea } from '../../deposit/bead';
import { beadWidthOf, surelyMelted } from '../../deposit/conditions';
import { MOVE } from '../../gcode/trace';
import { findValue } from '../../reading/find-value';
import type { Score } from '../../reading/types';
import { makeLadder } from '../make';
import type { LadderKind } from '../types';
import { meltFlow } from './kind';

const kind = meltFlow as unknown as LadderKind;
const bench = benchFor();
const made = good(makeLadder('melt-flow', {}, bench));

test('every wall is fed at its melt flow by what its moves say, and nothing else climbs', () => {
  const { trace, plan, audit } = made;
  expect(audit.rungs.every(({ ok }) => ok)).toBe(true);
  const { moves } = trace;
  const strand = (Math.PI / 4) * bench.filament.diameter ** 2;
  for (const { set, boxes, z } of plan.rungs) {
    const [box] = boxes!;
    const seen = new Set<string>();
    const sections = new Set<string>();
    for (let i = 1; i < moves.count; i++) {
      const inside =
        moves.y[i]! > box!.minY &&
        moves.y[i]! < box!.maxY &&
        moves.z[i]! > z.from &&
        moves.z[i]! <= z.to;
      const long = Math.hypot(moves.x[i]! - moves.x[i - 1]!, moves.y[i]! - moves.y[i - 1]!);
      if (moves.kind[i] !== MOVE.extrude || !inside || long < 50) continue;
      const section = (moves.e[i]! * strand) / long;
      sections.add(section.toFixed(3));
      seen.add((section * moves.speed[i]!).toFixed(1));
    }
    expect([...seen]).toEqual([set.meltFlow!.toFixed(1)]);
    expect(sections.size).toBe(1);
  }
});

test('more plastic by flow is laid slower, so that the melt flow stays what is said', () => {
  const { plan, audit } = good(makeLadder('melt-flow', {}, { ...bench, tuned: { flow: 0.9 } }));
  expect(audit.rungs.every(({ ok }) => ok)).toBe(true);
  expect(plan.rungs.length).toBeGreaterThan(4);
});

test('its value becomes the largest speed of usual layers and lines', () => {
  const { heads, rows } = kind.table!(12, bench);
  expect(heads).toEqual(['layer', '0.4 mm wide', '0.45 mm wide', '0.5 mm wide', '0.6 mm wide']);
  expect(rows.map(([name]) => name)).toEqual(['0.1 mm', '0.2 mm', '0.3 mm']);
  expect(Number(rows[1]![2])).toBe(Math.floor(12 / beadArea(0.45, 0.2)));
});

test('every designer keeps under what was found', () => {
  const area = beadArea(beadWidthOf(0.4), 0.2);
  const found = { ...bench, tuned: { meltFlow: 4 } };
  expect(surelyMelted(area, found)).toBe(Math.floor(4 / area));
  const speed = (of: typeof found | typeof bench) =>
    (good(makeLadder('retraction', {}, of)).plan.spec as { speed: number }).speed;
  expect(speed(found)).toBe(Math.floor(4 / area));
  expect(speed(bench)).toBeGreaterThan(speed(found));
});

test('the most that is still closed is proposed, and what was weighed is held against what was fed', () => {
  const { plan } = made;
  const gaps = plan.rungs.map(({ set }): Score =>
    set.meltFlow! < 11 ? 4 : set.meltFlow! < 13 ? 2 : 0,
  );
  const found = (grams: number) =>
    good(findValue(kind, plan, bench, { readings: [{ gaps }], measured: [{ weighed: [grams] }] }));
  const [{ setting, value }] = found(5).values;
  expect(setting).toBe('meltFlow');
  expect(value!).toBeGreaterThan(9);
  expect(value!).toBeLessThan(13);
  expect(found(3).notes.join()).toContain('Some of it did not come out');
  expect(found(9).notes.join()).toContain('All of it came out');
});

test('speeds that the middle of a wall does not reach are told before', () => {
  const codes = good(makeLadder('melt-flow', { from: 10, to: 40, step: 6 }, bench)).warnings.map(
    ({ code }) => code,
  );
  expect(codes).toContain('not-reached');
});

test('walls that are typed faster than was found to melt are told, with the speed that is not', () => {
  const found = { ...bench, tuned: { meltFlow: 4 } };
  const slow = Math.floor(4 / beadArea(beadWidthOf(0.4), 0.2));
  const over = (speed: number) =>
    good(makeLadder('retraction', { speed }, found)).warnings.find(
      ({ code }) => code === 'over-melt',
    );
  expect(over(slow + 10)!.offers![0]!.patch).toEqual({ speed: slow });
  expect(over(slow)).toBeUndefined();
  expect(good(makeLadder('temperature', {}, found)).warnings.map(({ code }) => code)).not.toContain(
    'over-melt',
  );
});
