/** `ash send`: a file printed on a machine from a terminal, steered by single letters, cold at its end or said not to be. */

import type { Command } from 'commander';
import { firmwareOf } from '../core/dialect/dialect';
import { askedFor } from '../core/gcode/asked';
import { audit } from '../core/gcode/audit';
import { Lines } from '../core/gcode/lines';
import { readBytes } from '../core/gcode/read';
import type { JobState } from '../core/job-states';
import type { Progress } from '../core/link-state';
import { parsePlan } from '../core/plan/plan';
import { parseAddress } from '../link/address';
import { coolDown } from '../link/cool-down';
import { heatersOf } from '../link/cooling';
import { Job } from '../link/job';
import { Machine } from '../link/machine';
import { Exit, FINDINGS, MAY_BE_HOT, must, print, readBench, readBytesOf, say } from './io';
import { letters } from './letters';

type SendOptions = { bench: string; to: string; json?: true };

/** A lost machine is looked for so long, s: with what its silence took before, it is given up within two minutes. */
const FIND_AGAIN_S = 25;
/** And so long after its last word, ms, nothing is tried any more. */
const GIVEN_UP_MS = 100_000;
/** So long temperatures are waited for to fall, ms. */
const FALLS_WITHIN_MS = 60_000;

type Told = 'printing' | 'pausing' | 'paused' | 'stopping' | 'stopped' | 'done' | 'lost' | 'failed';
const TOLD: Readonly<Record<JobState, Told>> = {
  printing: 'printing',
  pausing: 'pausing',
  paused: 'paused',
  stopping: 'stopping',
  stopped: 'stopped',
  finished: 'done',
  lost: 'lost',
  failed: 'failed',
};
const HOT = 'The machine may be hot: look at it, and switch it off by hand if need be.';

/** A change of state, as a line for people and as an object for programs. */
type Change = { state: Told; line: number; of: number; why?: string; hot?: true };
const changeOf = (state: Told, { line, lines, why }: Progress, hot: boolean): Change => ({
  state,
  line,
  of: lines,
  ...(why === null ? {} : { why }),
  ...(hot ? { hot } : {}),
});

class Teller {
  private last = '';
  private tenth = 0;

  constructor(private readonly json: boolean) {}

  tell(change: Change, more: object = {}): void {
    const { state, line, of, why, hot } = change;
    const key = `${state} ${why ?? ''}`;
    if (key === this.last && Object.keys(more).length === 0) return this.pace(line, of);
    this.last = key;
    say(`${state}: line ${line} of ${of}${why ? `. ${why}` : ''}${hot ? `. ${HOT}` : ''}`);
    if (this.json) print(JSON.stringify({ ...change, ...more }));
  }

  private pace(line: number, of: number): void {
    const tenth = Math.floor((10 * line) / Math.max(1, of));
    if (tenth <= this.tenth || tenth >= 10) return;
    this.tenth = tenth;
    say(`${10 * tenth} %: line ${line} of ${of}`);
  }
}

/** What stands against a file is said; whoever sends it from the command line has decided. */
function sayAudit(bytes: Uint8Array, bench: Parameters<typeof audit>[1]): void {
  const trace = readBytes(bytes, bench.machine);
  const plan = trace.planText === null ? null : parsePlan(trace.planText);
  const checked = audit(trace, bench, plan?.ok ? askedFor(plan.value) : undefined);
  for (const { grade, line, what } of checked.findings)
    if (grade === 'stop') say(`audit, line ${line}: ${what}`);
}

/** Brings what ended to where it is seen to cool. @returns whether it may still be hot */
async function mayBeHot(machine: Machine, end: Progress, gone: boolean): Promise<boolean> {
  const clean = end.state === 'finished' && !end.hot;
  if (clean && heatersOf(machine.heat).every(({ target }) => !(target > 0))) return false;
  // One that stopped itself takes nothing any more.
  if (machine.wire.over?.why === 'halted') return true;
  // One that is gone is looked for once more, as long as it is not given up anyway.
  const until = gone ? machine.wire.heardAt + GIVEN_UP_MS : performance.now() + FALLS_WITHIN_MS;
  return (await coolDown(machine, until)) !== 'falls';
}

/** `ash send t.gcode --bench b.json --to tcp:127.0.0.1:4000` */
export function addSend(program: Command): void {
  program
    .command('send <file>')
    .description(
      'prints a file on a machine, line by line. While it prints: p pause, g go on, s stop and cool, Ctrl-C too; twice gives up. Exit 1 when it did not come to its end, 3 when it was given up and may be hot',
    )
    .requiredOption('--bench <file>', 'bench as JSON')
    .requiredOption('--to <address>', 'tcp:HOST:PORT or serial:PATH[@SPEED]')
    .option('--json', 'one JSON object a line, for each change of state')
    .action(async (path: string, { bench: benchPath, to, json }: SendOptions) => {
      const address = must(parseAddress(to));
      const bench = must(readBench(benchPath));
      const bytes = must(readBytesOf(path));
      sayAudit(bytes, bench);
      const began = performance.now();
      const teller = new Teller(json === true);
      // Pressed before a machine is found, it just ends.
      const machine = must(await Machine.find(address), FINDINGS);
      machine.tools = bench.machine.extruder.tools;
      const job = new Job(machine, new Lines(bytes), {
        firmware: firmwareOf(bench.machine.dialect),
        findAgainS: FIND_AGAIN_S,
        changed: (progress) => {
          // The ending is told once it is known whether it is cold.
          if (!job.over) teller.tell(changeOf(TOLD[progress.state], progress, false));
        },
      });
      let waits = false;
      machine.listeners.add({
        person: () => {
          if (!waits) say('The machine waits for a button to be pressed.');
          waits = true;
        },
      });
      let interrupts = 0;
      const interrupt = () => {
        if (++interrupts === 1) {
          say('Stopping, and cooling. Once more gives up and leaves the machine as it is.');
          return job.stop();
        }
        const state = TOLD[job.state];
        const why = 'It was given up from the keyboard.';
        teller.tell(changeOf(state === 'done' ? state : 'failed', { ...job.progress, why }, true), {
          ok: false,
        });
        process.exit(MAY_BE_HOT);
      };
      process.on('SIGINT', interrupt);
      process.on('SIGTERM', interrupt);
      // A terminal that is shut, or a reader that has gone, leaves no machine hot.
      const shut = () => job.stop();
      process.on('SIGHUP', shut);
      const unheard = () => undefined;
      for (const stream of [process.stdout, process.stderr]) stream.on('error', unheard);
      const keys = letters(process.stdin, {
        p: () => job.pause(),
        g: () => job.go(),
        s: () => job.stop(),
        interrupt,
      });
      try {
        const end = await job.run();
        const hot = await mayBeHot(machine, end, job.isGone);
        const state = job.isGone ? 'lost' : TOLD[end.state];
        const done = end.state === 'finished';
        teller.tell(changeOf(state, end, hot), {
          ok: done,
          sure: done ? end.lines : end.sure,
          resends: machine.wire.resends,
          seconds: Number(((performance.now() - began) / 1000).toFixed(1)),
        });
        if (done && !json) print(`Printed: ${end.lines} lines.`);
        if (done && !hot) return;
        if (!done) say(`The last sure line is ${end.sure}.`);
        throw new Exit(FINDINGS);
      } finally {
        keys.end();
        process.off('SIGINT', interrupt);
        process.off('SIGTERM', interrupt);
        process.off('SIGHUP', shut);
        await machine.close();
      }
    });
}
