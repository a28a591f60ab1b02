import fc from 'fast-check';
import { makeTemperature } from '../testing';
import { checksum, LONGEST_LINE, Reader, readText } from './read';
import { changeAt, MOVE, type Trace } from './trace';

const encode = (text: string) => new TextEncoder().encode(text);

/** All moves as rows of plain numbers. */
const rows = ({ moves }: Trace) =>
  Array.from({ length: moves.count }, (_, i) => [
    moves.x[i],
    moves.y[i],
    moves.z[i],
    moves.e[i],
    moves.speed[i],
    moves.line[i],
    moves.kind[i],
  ]);
const changes = (trace: Trace) =>
  Array.from({ length: trace.changes.count }, (_, i) => changeAt(trace, i));

/** Ends of the moves, three decimals. */
const places = (text: string) =>
  rows(readText(text)).map((row) => row.slice(0, 3).map((v) => Math.round(v! * 1000) / 1000));

test('absolute and relative places, units and shifted origins', () => {
  expect(places('G1 X10 Y5\nG91\nG1 X1\nG90\nG1 X1 Z2')).toEqual([
    [10, 5, 0],
    [11, 5, 0],
    [1, 5, 2],
  ]);
  expect(places('G20\nG1 X1\nG21\nG1 X1')).toEqual([
    [25.4, 0, 0],
    [1, 0, 0],
  ]);
  expect(places('G1 X10\nG92 X0\nG1 X5')).toEqual([
    [10, 0, 0],
    [15, 0, 0],
  ]);
});

test('absolute and relative extrusion give the same filament', () => {
  const absolute = readText('M82\nG92 E0\nG1 X1 E1\nG1 X2 E3\nG92 E0\nG1 X3 E0.5');
  const relative = readText('M83\nG1 X1 E1\nG1 X2 E2\nG1 X3 E0.5');
  expect([...absolute.moves.e]).toEqual([...relative.moves.e]);
});

test('odd spellings mean the same move', () => {
  const plain = places('G1 X1 Y2');
  const sum = checksum('N3 G1 X1 Y2');
  for (const odd of [
    'g1x1y2',
    'G01 X1.000 Y+2',
    '  G1 X1Y2 ; to the corner',
    'G1 (left) X1 Y2',
    'G1 X1 Y2\r',
    `N3 G1 X1 Y2*${sum}`,
  ])
    expect(places(odd)).toEqual(plain);
});

test('a damaged checksum is told with its line', () => {
  const { problems } = readText('G28\nN3 G1 X1 Y2*17');
  expect(problems.map(({ where }) => where)).toEqual(['line 2']);
});

test.each(['G1 X1.2.3', 'G1 Xnan', 'G1 X99999999', 'G1 X'])('%j is no place', (line) => {
  const trace = readText(line);
  expect(trace.problemCount).toBe(1);
  expect(trace.moves.count).toBe(0);
});

test('a line over the limit is reported and passed over', () => {
  const trace = readText(`G1 X1\n${'x'.repeat(LONGEST_LINE + 10)}\nG1 X2`);
  expect(trace.problems[0]!.where).toBe('line 2');
  expect(trace.moves.count).toBe(2);
});

test('an arc ends where it says, its chords on the circle', () => {
  const trace = readText('G1 X10 Y0\nG3 X0 Y10 I-10 J0 E5');
  const { x, y, e, count } = trace.moves;
  expect([x[count - 1], y[count - 1]]).toEqual([0, 10]);
  for (let i = 0; i < count; i++) expect(Math.hypot(x[i]!, y[i]!)).toBeCloseTo(10, 3);
  expect(e.reduce((sum, fed) => sum + fed, 0)).toBeCloseTo(5, 4);
  const byRadius = readText('G1 X10 Y0\nG3 X0 Y10 R10 E5').moves;
  expect(byRadius.count).toBe(count);
});

test('an arc without a fitting centre is a problem, not a guess', () => {
  expect(readText('G1 X10\nG2 X50 R1').problemCount).toBe(1);
});

test('firmware retraction draws back once and pushes once', () => {
  const { moves } = readText('M207 S2 F1800\nG10\nG10\nG11\nG11');
  expect([...moves.e]).toEqual([-2, 2]);
  expect([...moves.kind]).toEqual([MOVE.retract, MOVE.restart]);
});

test('settings of all four columns are read', () => {
  const text = [
    'M104 S205',
    'M140 S60',
    'M106 S127.5',
    'M900 K0.05',
    'M572 D0 S0.06',
    'SET_PRESSURE_ADVANCE ADVANCE=0.07',
    'M204 P500 T900',
    'M205 X8 Y9',
    'M205 J0.02',
    'M566 X600 Y480',
    'SET_VELOCITY_LIMIT ACCEL=3000',
    'SET_VELOCITY_LIMIT SQUARE_CORNER_VELOCITY=6',
    'M221 S95',
  ].join('\n');
  const seen = changes(readText(text)).map(({ name, value }) => `${name} ${value}`);
  expect(seen).toEqual(
    (
      'nozzle 205,bed 60,fan 0.5,advance 0.05,advance 0.06,advance 0.07,print 500,travel 900,x 8,y 9,' +
      'deviation 0.02,x 10,y 8,print 3000,square 6,flow 0.95'
    ).split(','),
  );
});

test('unknown commands are counted, harmless ones are not', () => {
  const { unknown } = readText('START_IT\nM117 hello; there\nSTART_IT\nM8675');
  expect([...unknown]).toEqual([
    ['START_IT', { count: 2, line: 1 }],
    ['M8675', { count: 1, line: 4 }],
  ]);
});

test('a message is never taken for a command', () => {
  expect(changes(readText('M117 M104 S300'))).toEqual([]);
});

test('the quick path, the plain path and any cutting into pieces agree on a real file', () => {
  const { text } = makeTemperature({ from: 205, to: 200 });
  const whole = readText(text);
  const plain = new Reader(null, true);
  plain.push(encode(text));
  expect(rows(plain.end())).toEqual(rows(whole));
  const bytes = encode(text);
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 5000 }), (size) => {
      const reader = new Reader();
      for (let i = 0; i < bytes.length; i += size) reader.push(bytes.subarray(i, i + size));
      const cut = reader.end();
      expect(cut.moves.count).toBe(whole.moves.count);
      expect(cut.planText).toBe(whole.planText);
      expect(cut.moves.x[cut.moves.count - 1]).toBe(whole.moves.x[whole.moves.count - 1]);
    }),
    { seed: 31, numRuns: 12 },
  );
});

const token = fc.oneof(
  fc.constantFrom(
    'G0',
    'G1',
    'G2',
    'G3',
    'G92',
    'G10',
    'M104',
    'M109',
    'N1',
    'T1',
    ';',
    '(',
    '*',
    'SET_X',
  ),
  fc.constantFrom('X', 'Y', 'Z', 'E', 'F', 'I', 'J', 'R', 'S', 'P', 'K'),
  fc.double({ noNaN: false }).map(String),
  fc.integer().map(String),
  fc.string({ maxLength: 6 }),
);

test('nothing that is fed to it throws, and every place stays finite', () => {
  fc.assert(
    fc.property(fc.array(fc.array(token, { maxLength: 8 }), { maxLength: 12 }), (lines) => {
      const text = lines.map((parts) => parts.join(' ')).join('\n');
      const trace = readText(text);
      for (const column of [trace.moves.x, trace.moves.y, trace.moves.z])
        for (const value of column) expect(Number.isFinite(value)).toBe(true);
      const plain = new Reader(null, true);
      plain.push(encode(text));
      expect(rows(plain.end())).toEqual(rows(trace));
    }),
    { seed: 32, numRuns: 1500 },
  );
});
