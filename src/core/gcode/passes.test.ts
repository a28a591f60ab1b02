/** Passes of filament through the gear: counted both ways, piece by piece, each filament by itself. */

import { benchFor, makeOn } from '../testing';
import { audit } from './audit';
import { passesOf } from './passes';
import { readText } from './read';

const hops = (count: number, fed: number, back = 5) =>
  [
    'M83',
    ...Array.from(
      { length: count },
      (_, i) => `G1 E-${back} F2400\nG0 X${i % 2} F6000\nG1 E${back}\nG1 X${50 + i} E${fed}`,
    ),
  ].join('\n');

test('what is fed once passes once, however long the file', () => {
  expect(passesOf(readText('M83\nG1 X10 E1\nG1 X20 E1\nG1 X30 E40')).most).toBe(1);
});

test('each way back and forth counts two, and where it was the last time is told', () => {
  const trace = readText('M83\nG1 X10 E10\nG1 E-2\nG1 E2\nG1 E-2\nG1 E2\nG1 X20 E10');
  expect(passesOf(trace)).toMatchObject({ most: 5, line: 6, tool: 0 });
});

test.each([1, 2, 4])(
  'with %d mm fed between, passes are twice the way back by it, and one',
  (fed) => {
    const { most } = passesOf(readText(hops(60, fed)));
    expect(Math.abs(most - (1 + 2 * Math.ceil(5 / fed)))).toBeLessThanOrEqual(2);
  },
);

test('what is drawn back before anything was fed counts too; each filament by itself', () => {
  expect(passesOf(readText('M83\nG1 E-5\nG1 E5\nG1 E-5\nG1 E5')).most).toBe(4);
  const two = 'M83\nT0\nG1 E5\nG1 E-5\nG1 E5\nT1\nG1 E5\nG1 E-5\nG1 E5\nG1 E-5\nG1 E5';
  expect(passesOf(readText(two))).toMatchObject({ most: 5, tool: 1 });
  expect(passesOf(readText('M104 S0'))).toMatchObject({ most: 0, line: null });
});

test('numbers that no spool holds are counted in longer pieces, and at once', () => {
  const far = Array.from({ length: 500 }, () => 'G1 E900000\nG1 E-900000').join('\n');
  expect(passesOf(readText(`M83\n${far}`)).most).toBe(1000);
  const beyond = '9'.repeat(60);
  expect(passesOf(readText(`M83\nG1 E${beyond}\nG1 E-${beyond}\nG1 E1`)).most).toBeLessThanOrEqual(
    3,
  );
});

test.each<[number, string | undefined]>([
  [2, undefined],
  [0.3, 'warning'],
  [0.1, 'stop'],
])('a file from elsewhere that feeds %d mm between its ways back: %s', (fed, grade) => {
  const bench = benchFor();
  const found = audit(readText(hops(80, fed), bench.machine), bench).findings.find(
    ({ code }) => code === 'filament-chewed',
  );
  expect(found?.grade).toBe(grade);
});

// Forms with arms were filled from arm to arm, and posts were thinner than what is drawn back for them.
test.each([
  'bridge-flow-speed',
  'bridge-speed-fan',
  'bridge-flow',
  'lean-fan',
  'retraction-pair',
  'retraction',
])('%s on a tube-fed machine chews nothing', (kind) => {
  const { trace } = makeOn(benchFor('heron'), kind);
  expect(passesOf(trace).most).toBeLessThanOrEqual(20);
});
