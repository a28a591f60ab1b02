/**
 * `npm run wire-runs -- --runs 100 --lines 20000 --cuts 200`: files sent to the understudy over a wire with every fault
 * at once, and over one that is cut at random places. Every line must be executed once and in order. Then short jobs on
 * a machine that goes silent, closes, resets or restarts at every single line, with every wish at every place
 * (`--places none` leaves them out): each must come to one end, cold or said not to be.
 */

import { parseArgs } from 'node:util';
import { stripLine } from '../src/core/dialect/command';
import { seeded } from '../src/core/random';
import { benchFor, makeTemperature } from '../src/core/testing';
import { allCuts, allWishes, runCuts } from '../src/link/testing/cut-run';
import { runHeldCuts } from '../src/link/testing/held-cut';
import { closeAll, onWire, until } from '../src/link/testing/on-wire';
import { sendFaulty } from '../src/rehearsal/wire-run';
import { drawTruths } from '../src/understudy/truths';

const { values } = parseArgs({
  options: {
    runs: { type: 'string', default: '100' },
    lines: { type: 'string', default: '20000' },
    cuts: { type: 'string', default: '200' },
    places: { type: 'string', default: 'all' },
  },
});
const [runs, count, cuts] = [Number(values.runs), Number(values.lines), Number(values.cuts)];
const bench = benchFor();
const on = { bench, truths: drawTruths(bench, 7) };
const source = makeTemperature().text.split('\n').map(stripLine).filter(Boolean);
const commands = Array.from({ length: count }, (_, i) => source[i % source.length]!);
const THIRD = 0.01 / 3;
const FAULTS = {
  lost: THIRD,
  doubled: THIRD,
  corrupted: THIRD,
  lostLines: 0.005,
  lostAnswers: 0.005,
  doubledAnswers: 0.005,
};

const same = (a: readonly string[], b: readonly string[]) =>
  a.length === b.length && a.every((line, i) => line === b[i]);
const say = (text: string) => process.stdout.write(`${text}\n`);

let exact = 0;
for (let seed = 1; seed <= runs; seed++) {
  const late = seed % 10 === 0 ? 1 : 0;
  const run = await sendFaulty(commands, on, { ...FAULTS, lateMs: late }, seed, {
    tellsRoom: seed % 2 === 0,
    refusesRepeats: seed % 3 === 0,
    curt: seed % 5 === 0,
  });
  const good = run.end === null && run.sure === count && same(run.executed, commands);
  if (good) exact++;
  say(
    `run ${seed}: ${good ? 'once and in order' : `NOT SO (${run.end?.text ?? 'another order'})`}, ${run.resends} sent again, ${run.seconds.toFixed(1)} s`,
  );
}
say(`${exact} of ${runs} runs of ${count} lines: once and in order`);

let kept = 0;
const chance = seeded(15);
const FEW = 300;
for (let cut = 1; cut <= cuts; cut++) {
  const file = commands.slice(0, FEW);
  const after = 5 + Math.floor(chance() * (FEW - 10));
  const wired = await onWire(bench, { speed: 3000 }, { cutAfter: after });
  const job = wired.job(`${file.join('\n')}\n`);
  const end = job.run();
  await until(() => job.over || /is back/.test(job.why ?? ''), 20_000);
  job.go();
  const { state } = await end;
  // Where it stands for a while it moves aside and back: that is none of the file.
  const aside = /^G1 (?:E-?2 F1800|Z-?5 F600|F\S+)$/;
  const moves = (lines: readonly string[]) =>
    lines.filter((line) => /^G[0-3] /.test(line) && !aside.test(line));
  const good = state === 'finished' && same(moves(wired.told()), moves(file));
  if (good) kept++;
  else say(`cut after ${after}: NOT SO (${state}, ${job.why})`);
  await closeAll();
}
say(`${kept} of ${cuts} cuts: gone on with, no line twice, none left out`);

const places = values.places === 'none' ? [] : [...allCuts(), ...allWishes()];
const { runs: ended, wrong } = await runCuts(places, 24);
for (const one of wrong) say(`NOT SO: ${one}`);
say(
  `${ended} short jobs with trouble at every line and every wish at every place: ${wrong.length} did not end as they should`,
);
const chores = values.places === 'none' ? { runs: 0, wrong: [] } : await runHeldCuts(bench, 10);
for (const one of chores.wrong) say(`NOT SO: ${one}`);
say(
  `${chores.runs} times heating, tuning, feeding, reading or parting with trouble in the middle: ${chores.wrong.length} did not end as they should`,
);
wrong.push(...chores.wrong);
process.exitCode = exact === runs && kept === cuts && wrong.length === 0 ? 0 : 1;
