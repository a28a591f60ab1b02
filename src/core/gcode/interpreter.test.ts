import { readText } from './read';
import { changeAt, MOVE, type Trace } from './trace';

const changes = (text: string) => {
  const trace = readText(text);
  return Array.from({ length: trace.changes.count }, (_, i) => changeAt(trace, i));
};
const said = (text: string) =>
  changes(text).map(({ name, value, tool }) => `${name} ${value} T${tool}`);
const ends = ({ moves }: Trace) =>
  Array.from({ length: moves.count }, (_, i) => [moves.x[i], moves.y[i], moves.z[i]]);

test('a temperature without a tool is for the tool in hand', () => {
  expect(said('T1\nM104 S200\nM104 T0 S180')).toEqual([
    'tool 1 T1',
    'nozzle 200 T1',
    'nozzle 180 T0',
  ]);
});

test('waiting sets the target and waits for it, with S and with R', () => {
  expect(said('M109 S210\nM190 R60')).toEqual([
    'nozzle 210 T0',
    'wait-nozzle 210 T0',
    'bed 60 T0',
    'wait-bed 60 T0',
  ]);
});

test('a heater command without a value changes nothing', () => {
  expect(said('M104\nM140\nM109')).toEqual([]);
});

test('only the print fan counts, and it knows no more than full', () => {
  expect(said('M106\nM106 P1 S255\nM106 S300\nM107 P1\nM107')).toEqual([
    'fan 1 T0',
    'fan 1 T0',
    'fan 0 T0',
  ]);
});

test('dwell is in milliseconds with P, in seconds with S', () => {
  expect(changes('G4 P250\nG4 S2').map(({ value }) => value)).toEqual([0.25, 2]);
});

test('homing tells its axes and brings them to their origin', () => {
  const trace = readText('G1 X50 Y40 Z30\nG28 X\nG1 Y41\nG28');
  expect(ends(trace)).toEqual([
    [50, 40, 30],
    [0, 40, 30],
    [0, 41, 30],
    [0, 0, 0],
  ]);
  expect(trace.moves.kind[1]).toBe(MOVE.home);
  expect(changes('G28 X\nG28 Y Z\nG28').map(({ value }) => value)).toEqual([1, 6, 7]);
});

test('homing forgets a shifted origin', () => {
  expect(ends(readText('G1 X50\nG92 X0\nG28 X\nG1 X10')).at(-1)).toEqual([10, 0, 0]);
});

test('G92 without an axis sets all of them to zero', () => {
  expect(ends(readText('G1 X50 Y50 Z5\nG92\nG1 X1 Y1 Z1')).at(-1)).toEqual([51, 51, 6]);
});

test('speed and flow factors act on what follows', () => {
  const { moves } = readText('M83\nG1 X10 E1 F600\nM220 S50\nM221 S80\nG1 X20 E1');
  expect([...moves.speed]).toEqual([10, 5]);
  expect(moves.e[0]).toBeCloseTo(1, 6);
  expect(moves.e[1]).toBeCloseTo(0.8, 6);
});

test('one value of M204 is for printing and travel', () => {
  expect(said('M204 S900')).toEqual(['print 900 T0', 'travel 900 T0']);
});

test('an idle time is no switching off', () => {
  expect(said('M84 S60\nM84\nM18')).toEqual(['motors-off 1 T0', 'motors-off 1 T0']);
});

test('all heaters off is off for both nozzles and the bed', () => {
  expect(said('TURN_OFF_HEATERS')).toEqual(['nozzle 0 T0', 'nozzle 0 T1', 'bed 0 T0']);
});

test('tool offsets are no retraction, and a retraction without a length is none', () => {
  expect(readText('G10 P1 X5').moves.count).toBe(0);
  expect(readText('G10\nG11').moves.count).toBe(0);
});

test('firmware retraction lifts and comes down by its own height', () => {
  expect(ends(readText('M207 S1 F1800 Z0.4\nG1 Z1\nG10\nG11')).map(([, , z]) => z)).toEqual([
    1, 1, 1.4, 1, 1,
  ]);
});

test('feeding on the spot is drawing back or pushing, moving with it is laying', () => {
  const { moves } = readText('M83\nG1 E-2\nG1 E2\nG1 X5 E1\nG1 X6 E-0.1\nG1 X7');
  expect([...moves.kind]).toEqual([
    MOVE.retract,
    MOVE.restart,
    MOVE.extrude,
    MOVE.travel,
    MOVE.travel,
  ]);
});

test('a move to where the nozzle stands is no move', () => {
  expect(readText('G1 X5\nG1 X5\nG1 F900').moves.count).toBe(1);
});

test('a change knows the move that it stands before', () => {
  expect(changes('G1 X5\nM104 S200\nG1 X6\nM106').map(({ move, line }) => [move, line])).toEqual([
    [1, 2],
    [2, 4],
  ]);
});

test('while firmware retraction holds the head up, heights of the file are those below it', () => {
  const { moves } = readText(
    'G28\nM83\nM207 S2 F1800 Z0.4\nM208 S0.1 F1200\nG1 Z0.2 F600\nG1 X10 E1\nG10\nG0 X20\nG0 Z0.6\nG11\nG1 X30 E1\n',
  );
  const z = [...moves.z.subarray(0, moves.count)].map((one) => Number(one.toFixed(3)));
  expect(z).toEqual([0, 0.2, 0.2, 0.2, 0.6, 0.6, 1, 0.6, 0.6, 0.6]);
  const fed = [...moves.e.subarray(0, moves.count)].map((one) => Number(one.toFixed(3)));
  expect(fed).toEqual([0, 0, 1, -2, 0, 0, 0, 0, 2.1, 1]);
  expect(moves.speed[8]).toBeCloseTo(20, 6);
});
