import { stripLine } from '../core/dialect/command';
import { benchFor, makeTemperature } from '../core/testing';
import { drawTruths } from '../understudy/truths';
import { sendFaulty } from '../rehearsal/wire-run';

const bench = benchFor();
const on = { bench, truths: drawTruths(bench, 7) };

/** Commands of a real ladder, as many as are wanted. */
function commandsOf(count: number): string[] {
  const lines = makeTemperature().text.split('\n').map(stripLine).filter(Boolean);
  return Array.from({ length: count }, (_, i) => lines[i % lines.length]!);
}

const WORST = {
  lost: 0.01 / 3,
  doubled: 0.01 / 3,
  corrupted: 0.01 / 3,
  lostLines: 0.005,
  lostAnswers: 0.005,
  doubledAnswers: 0.005,
};

test('whatever the wire does, every line arrives once and in order, whether the machine tells its room or not', async () => {
  // Twenty thousand lines, a hundred times over: `npm run wire-runs`.
  const commands = commandsOf(3000);
  const runs = Array.from({ length: 4 }, (_, i) =>
    sendFaulty(commands, on, WORST, i + 1, { tellsRoom: i % 2 === 0 }),
  );
  for (const { executed, sure, resends, end } of await Promise.all(runs)) {
    expect(end).toBeNull();
    expect(executed).toEqual(commands);
    expect(sure).toBe(commands.length);
    expect(resends).toBeGreaterThan(150);
  }
}, 240_000);

test('answers that come late change nothing', async () => {
  const commands = commandsOf(400);
  const { executed, end } = await sendFaulty(commands, on, { ...WORST, lateMs: 2 }, 3);
  expect(end).toBeNull();
  expect(executed).toEqual(commands);
}, 60_000);

long.each([
  ['takes a repeated line for a damaged one', { refusesRepeats: true }],
  ['says no ok after a wish', { curt: true }],
  ['does both, and tells its room', { curt: true, refusesRepeats: true, tellsRoom: true }],
])(
  'a machine that %s gets every line once as well',
  async (_, workings) => {
    const commands = commandsOf(1500);
    const { executed, sure, end } = await sendFaulty(commands, on, WORST, 11, workings);
    expect(end).toBeNull();
    expect(executed).toEqual(commands);
    expect(sure).toBe(commands.length);
  },
  60_000,
);

long(
  'answers that come damaged are not believed for long',
  async () => {
    const commands = commandsOf(1200);
    for (const seed of [1, 2]) {
      const faults = { ...WORST, corruptedBack: 0.01 };
      const { executed, sure, end } = await sendFaulty(commands, on, faults, seed, {
        tellsRoom: seed === 2,
      });
      expect(end).toBeNull();
      expect(executed).toEqual(commands);
      expect(sure).toBe(commands.length);
    }
  },
  120_000,
);
