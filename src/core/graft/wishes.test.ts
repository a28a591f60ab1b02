import { benchFor, good } from '../testing';
import { Wish } from './recipe';
import { climbOf, evenValues, heightsOf, overRange, rowsOf, tableOf } from './wishes';

const heron = benchFor('heron');
const problemOf = (result: { ok: boolean; problems?: { what: string }[] }) =>
  result.ok ? '' : result.problems![0]!.what;

test.each([
  ['nozzle', 'nozzle'],
  ['Temperature', 'nozzle'],
  ['speed', 'pace'],
  ['extra-restart', 'restartExtra'],
  ['retract speed', 'retractSpeed'],
  ['pressure_advance', 'advance'],
])('%s is understood as %s', (word, setting) => {
  expect(good(climbOf(word, heron))).toBe(setting);
});

test('cornering is what the machine of the bench has', () => {
  expect(good(climbOf('cornering', heron))).toBe('jerk');
  expect(good(climbOf('cornering', benchFor('otter')))).toBe('deviation');
  expect(good(climbOf('cornering', benchFor('wren')))).toBe('square');
  expect(problemOf(climbOf('colour', heron))).toContain('"colour"');
});

test('a range gives each section its value, and says what does not fit', () => {
  const heights = heightsOf({ base: 1.4, section: 10, count: 3 });
  expect(heights).toEqual([1.4, 11.4, 21.4]);
  const { rows, note } = good(rowsOf('nozzle', { from: 220, to: 210, step: 5 }, heights));
  expect(rows.map(({ set }) => set.nozzle)).toEqual([220, 215, 210]);
  expect(note).toBeNull();
  expect(good(rowsOf('nozzle', { from: 220, to: 200, step: 5 }, heights)).note).toContain(
    '2 are left out',
  );
  expect(problemOf(rowsOf('nozzle', { from: 220, to: 215, step: 5 }, heights))).toContain(
    '2 values',
  );
  expect(problemOf(rowsOf('nozzle', { from: 220, to: 200, step: 0 }, heights))).toContain('step');
  expect(problemOf(rowsOf('nozzle', { from: 0, to: 300, step: 0.1 }, heights))).toContain(
    'over 30',
  );
});

test('the next ladder spans its whole range with the sections there are', () => {
  const wish = Wish.parse({
    rows: [1, 5, 9, 13].map((from, i) => ({ from, set: { nozzle: 220 - 10 * i, fan: 0.5 } })),
  });
  const next = overRange(wish, { from: 204, to: 212, step: 1 });
  expect(next.rows.map(({ set }) => set.nozzle)).toEqual([204, 206.7, 209.3, 212]);
  expect(next.rows.map(({ from }) => from)).toEqual([1, 5, 9, 13]);
  expect(next.rows[1]!.set.fan).toBe(0.5);
  // Fewer steps than sections leave the top out; what is no range changes nothing.
  expect(overRange(wish, { from: 204, to: 205, step: 1 }).rows).toHaveLength(2);
  for (const range of [
    { from: NaN, to: 2, step: 1 },
    { from: 1, to: 2, step: 0 },
  ])
    expect(overRange(wish, range)).toBe(wish);
});

test('values between two ends are as fine as they are shown', () => {
  expect(evenValues('flow', 0.9, 1.1, 3)).toEqual([0.9, 1, 1.1]);
  expect(evenValues('advance', 0, 0.1, 4)).toEqual([0, 0.0333, 0.0667, 0.1]);
  expect(evenValues('nozzle', 210, 230, 1)).toEqual([210]);
});

test.each([
  ['', 'no rows'],
  ['height\n1\n', 'no setting'],
  ['height,nozzle,temperature\n1,2,3\n', 'two columns'],
  ['height,nozzle\n1,2,3\n', '3 cells'],
  ['height,nozzle\n,200\n', 'no height'],
  ['height,nozzle\n1,1e3\n', '"1e3"'],
  ['height,nozzle\n5,200\n5,210\n', 'does not stand above'],
  [`height,nozzle\n${[...Array(31).keys()].map((i) => `${i},200`).join('\n')}`, '31 rows'],
])('a table such as %j is refused with words', (text, said) => {
  expect(problemOf(tableOf(text, heron))).toContain(said);
});

test('a table is taken with commas, semicolons or tabs, remarks and empty cells', () => {
  const rows = [
    { from: 1, set: { nozzle: 220, flow: 1 } },
    { from: 6, set: { nozzle: 210, flow: 1 } },
  ];
  for (const mark of [',', ';', '\t'])
    expect(
      good(
        tableOf(
          `# of Ines\r\nheight,nozzle,flow\r\n1,220,1\r\n\r\n6,210,\r\n`.replaceAll(',', mark),
          heron,
        ),
      ),
    ).toEqual(rows);
});
