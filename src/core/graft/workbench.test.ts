import { readBytes } from '../gcode/read';
import { seeded } from '../random';
import { benchFor } from '../testing';
import { Wish } from './recipe';
import { rectangle, SECTIONS, slice, towerOf } from './testing/slicer';
import { heightsOf } from './wishes';
import { Workbench } from './workbench';

const heron = benchFor('heron');
const TOWER = { base: 1.4, section: 5, count: 4, cap: 0 };
const bytes = new TextEncoder().encode(
  slice(
    towerOf(TOWER, SECTIONS.window!(0.6, seeded(1)), [rectangle(-4, -4, 50, 26)], () => []),
    { infill: 0, accelerations: true, meddles: [9], start: ['M502', 'G28', 'M109 S215', 'G90'] },
  ),
);
const bench = new Workbench('post.gcode', bytes, readBytes(bytes, heron.machine), heron);
const opened = bench.opened();

test('an opened file tells its sections, what can climb in it, and what to know of it', () => {
  expect(opened.candidates[0]!.count).toBe(4);
  expect(opened.strip.top).toHaveLength(107);
  const offered = new Map(opened.offered.map((one) => [one.setting, one]));
  expect(offered.get('flow')!.ways).toEqual(['command', 'moves']);
  expect(offered.get('retraction')!.ways).toEqual(['moves']);
  // This machine corners by jerk.
  expect(offered.has('square')).toBe(false);
  for (const { usual, ends } of opened.offered) {
    expect(Math.min(usual.from, usual.to)).toBeGreaterThanOrEqual(ends.min);
    expect(usual.step).toBeGreaterThan(0);
  }
  expect(opened.remarks.map(({ code }) => code)).toContain('reaches-resets');
  expect(opened.blocks[0]!.now).toContain('M502');
  expect(opened.blocks[1]!.now).toContain('M104 S0');
});

test('a wish is told before anything is made: where it begins, what sets it, what is in the way', () => {
  const rows = heightsOf(TOWER).map((from, i) => ({ from, set: { nozzle: 220 - 5 * i } }));
  const { sections, obstacles, picture, problems, hasty } = bench.tried(Wish.parse({ rows }));
  expect(problems).toEqual([]);
  expect(sections.map(({ command }) => command)).toEqual([
    'M104 S220',
    'M104 S215',
    'M104 S210',
    'M104 S205',
  ]);
  expect(sections[0]!.from).toBeCloseTo(1.4, 6);
  for (const { settles, from, to } of sections) {
    expect(settles).toBeGreaterThan(0.1);
    expect(settles).toBeLessThan(to - from);
  }
  expect(hasty).toBe(0);
  const [heat, speedUp] = obstacles;
  expect(heat).toMatchObject({ kind: 'temperature', climbs: true, mends: ['lift'] });
  expect(obstacles.find(({ kind }) => kind === 'acceleration')).toMatchObject({
    climbs: false,
    values: [2000, 1000],
  });
  expect(speedUp!.lines[0]).toBeGreaterThan(0);
  // Each section has a colour of its own.
  const colours = new Set<string>();
  for (let i = 0; i < picture.rgba.length; i += 4)
    if (picture.rgba[i + 3]! > 0) colours.add(picture.rgba.slice(i, i + 3).join());
  expect(colours.size).toBeGreaterThan(20);
});

test('what cannot be is said', () => {
  const hot = Wish.parse({ rows: [{ from: 1.4, set: { nozzle: 500 } }] });
  expect(bench.tried(hot).problems[0]!.what).toContain('500');
});
