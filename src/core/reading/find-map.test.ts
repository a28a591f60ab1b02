import { benchFor, good } from '../testing';
import { makeLadder } from '../ladders/make';
import { advanceMap } from '../ladders/map/kind';
import { BEST_ROWS, type LadderKind } from '../ladders/types';
import type { Plan } from '../plan/plan';
import { findValue } from './find-value';
import { rowsCsv, rowsText, RowStyle, USUAL_STYLE } from './rows';

const kind = advanceMap as unknown as LadderKind;
const bench = { ...benchFor('wren'), tuned: { advance: 0.05 } };
const { plan } = good(makeLadder('advance-map', {}, bench));
const strip = plan.axes[0]!.steps.map(({ set }) => set.advance!);

/** The figure of each cell that is nearest to a value. */
function tapped(of: Plan, valueOf: (speed: number, acceleration: number) => number): number[] {
  return of.axes[1]!.steps.map(({ set }, cell) => {
    const value = valueOf(set.wallSpeed!, set.acceleration!);
    const figures = of.rungs.filter(({ at }) => at[1] === cell);
    const far = (rung: (typeof figures)[number]) => Math.abs(rung.set.advance! - value);
    return figures.reduce((a, b) => (far(b) < far(a) ? b : a)).index;
  });
}
const falling = (speed: number, acceleration: number) =>
  (0.085 / (1 + speed / 120)) * (acceleration / 2500) ** -0.1;
const find = (chosen: number[], of = plan, rest = {}) =>
  findValue(kind, of, bench, { readings: [], measured: [{ [BEST_ROWS]: chosen }], ...rest });

test('the best figures of all cells become a value for each, falling with flow and acceleration', () => {
  const { map, verdict, values } = good(find(tapped(plan, falling)));
  expect(verdict).toBe('value');
  expect(map!.rows).toHaveLength(12);
  for (const { advance, speed, acceleration, range, flow } of map!.rows) {
    expect(Math.abs(advance / falling(speed, acceleration) - 1)).toBeLessThan(0.1);
    expect(range[0]).toBeLessThan(advance);
    expect(range[1]).toBeGreaterThan(advance);
    expect(flow).toBeCloseTo(speed * 0.0817, 1);
  }
  const all = map!.rows.map(({ advance }) => advance);
  expect(values[0].value).toBeGreaterThan(Math.min(...all));
  expect(values[0].value).toBeLessThan(Math.max(...all));
  expect(map!.harm.single).toBeGreaterThan(map!.harm.map);
});

test('the one value puts less plastic in the wrong place than any other', () => {
  const { map, values } = good(find(tapped(plan, falling)));
  const harm = (value: number) =>
    map!.rows.reduce((sum, { advance, flow }) => sum + ((advance - value) * flow) ** 2, 0);
  for (const by of [-0.002, 0.002])
    expect(harm(values[0].value!)).toBeLessThan(harm(values[0].value! + by));
});

test('cells that were not read are filled from the fit, and marked', () => {
  const chosen = tapped(plan, falling).filter((_, cell) => cell % 3 !== 1);
  const { map, notes } = good(find(chosen));
  const filled = map!.rows.filter(({ read }) => read === null);
  expect(filled).toHaveLength(4);
  for (const { advance, speed, acceleration } of filled)
    expect(Math.abs(advance / falling(speed, acceleration) - 1)).toBeLessThan(0.15);
  expect(notes.join()).toContain('4 of 12 cells were not read');
});

test('a cell far from all others is told and hardly counts', () => {
  const chosen = tapped(plan, falling);
  const cell = plan.rungs[chosen[4]!]!.at[1];
  const lowest = plan.rungs.find(({ at }) => at[1] === cell && at[0] === 1)!;
  const { map, notes } = good(find([...chosen.filter((_, i) => i !== 4), lowest.index]));
  expect(map!.rows.filter(({ outlier }) => outlier)).toHaveLength(1);
  expect(notes.join()).toContain('far from all others');
});

test('most cells best at the last figure: the next map goes on beyond it', () => {
  const { verdict, next, values } = good(find(tapped(plan, () => 1)));
  expect(verdict).toBe('edge');
  expect(values[0].value).toBeNull();
  expect(next!.ranges.advance!.to).toBeGreaterThan(strip.at(-1)!);
  expect(next!.ranges.advance!.from).toBeGreaterThan(strip[2]!);
});

test('the same everywhere: one value does', () => {
  const { map, reason } = good(find(tapped(plan, () => 0.05)));
  expect(map!.falls).toEqual({ flow: false, acceleration: false });
  expect(reason).toContain('One value does');
});

test('scores do where nobody tapped', () => {
  const evenness = plan.rungs.map(({ set }) => {
    const off = Math.abs(set.advance! - falling(set.wallSpeed!, set.acceleration!));
    return Math.max(0, Math.min(4, Math.round(4 - off / 0.008))) as 0 | 1 | 2 | 3 | 4;
  });
  const { map } = good(findValue(kind, plan, bench, { readings: [{ evenness }] }));
  for (const { advance, speed, acceleration } of map!.rows)
    expect(Math.abs(advance / falling(speed, acceleration) - 1)).toBeLessThan(0.15);
});

test('a map of two prints is one, whichever was read last', () => {
  const small = { ...benchFor('newt'), tuned: { advance: 0.05 } };
  const plans = [1, 2].map((part) => good(makeLadder('advance-map', { part }, small)).plan);
  const [first, second] = plans.map((of) => ({
    plan: of,
    readings: [],
    measured: [{ [BEST_ROWS]: tapped(of, falling) }],
  }));
  const { map, notes } = good(
    findValue(kind, second!.plan, small, { ...second!, earlier: [first!] }),
  );
  const cells = plans.reduce((sum, { axes }) => sum + axes[1]!.steps.length, 0);
  expect(map!.rows).toHaveLength(cells);
  expect(notes.join()).toContain('2 prints make this map');
});

test('too few cells, two figures of a cell, and figures that are not there are refused in words', () => {
  const chosen = tapped(plan, falling);
  const few = find(chosen.slice(0, 3));
  expect(few.ok ? '' : few.problems[0]!.what).toContain('3 of 12 cells');
  const other = plan.rungs.find(({ at, index }) => at[1] === 0 && index !== chosen[0])!;
  const twice = find([...chosen, other.index]);
  expect(twice.ok ? '' : twice.problems[0]!.what).toBe(
    'Two figures of cell 1 were chosen as its best.',
  );
  const absent = find([...chosen.slice(1), 999]);
  expect(absent.ok ? '' : absent.problems[0]!.what).toContain('figures 0 to 83');
});

test('rows are written as they were chosen to be, and a CSV has all columns with heads', () => {
  const rows = [{ advance: 0.0625, flow: 3.2, acceleration: 1200, speed: 39 }];
  expect(rowsText(rows, USUAL_STYLE)).toBe('0.063, 3.2, 1200');
  expect(
    rowsText([...rows, ...rows], { columns: ['acceleration', 'advance'], separator: 'semicolon' }),
  ).toBe('1200;0.063\n1200;0.063');
  expect(rowsCsv(rows)).toBe(
    'Pressure advance (s),Melt flow (mm³/s),Acceleration (mm/s²),Speed (mm/s)\r\n0.063,3.2,1200,39\r\n',
  );
  for (const odd of [
    { columns: [], separator: 'comma' },
    { columns: ['flow', 'flow'], separator: 'comma' },
    { columns: ['flow'], separator: 'pipe' },
  ])
    expect(RowStyle.safeParse(odd).success).toBe(false);
});
