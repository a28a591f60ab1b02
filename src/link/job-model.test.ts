/** A job walked at random: whatever is pressed, cut and found again in whatever order, its states follow the table. */

import fc from 'fast-check';
import { isOver, JOB_NEXT, type JobState } from '../core/job-states';
import { Lines } from '../core/gcode/lines';
import { good } from '../core/testing';
import { parseAddress } from './address';
import { Job } from './job';
import { Machine } from './machine';
import { FakeMachine } from './testing/fake-machine';
import { until } from './testing/on-wire';

const LINES = 30;
const FILE = [
  'G90',
  'M82',
  ...Array.from({ length: LINES }, (_, i) => `G1 X${i} Z0.2 E${i} Q${i}`),
];

type Real = { fake: FakeMachine; job: Job; states: JobState[]; end: Promise<unknown> };
type Step = 'pause' | 'go' | 'stop' | 'nudge' | 'cut' | 'wait' | 'emergency';

/** What must hold after each step, whatever came before. */
function holds({ fake, states }: Real): void {
  states.forEach((state, i) => {
    const before = states[i - 1] ?? 'printing';
    if (state !== before) expect(JOB_NEXT[before]).toContain(state);
  });
  // No line twice, none left out, and never anywhere but where the file says.
  const moved = fake.moves.filter(({ line }) => line.includes('Q'));
  moved.forEach(({ line, z, e }, i) => {
    expect(line).toContain(`Q${i}`);
    expect([z, e]).toEqual([0.2, i]);
  });
}

class Act implements fc.AsyncCommand<object, Real> {
  constructor(private readonly step: Step) {}
  check = () => true;
  async run(_: object, real: Real): Promise<void> {
    const { job, fake } = real;
    if (this.step === 'wait') await new Promise((resolve) => setTimeout(resolve, 8));
    else if (this.step === 'cut') fake.cut();
    else if (this.step === 'nudge') void job.nudge(0.02);
    else job[this.step]();
    await new Promise((resolve) => setTimeout(resolve, 2));
    holds(real);
  }
  toString = () => this.step;
}

const STEPS: Step[] = [
  'pause',
  'go',
  'wait',
  'cut',
  'nudge',
  'pause',
  'go',
  'wait',
  'stop',
  'emergency',
];

long(
  'every walk through the states is in the table, and ends when it is stopped',
  async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.commands(
          STEPS.map((step) => fc.constant(new Act(step))),
          { maxCommands: 14 },
        ),
        async (commands) => {
          const fake = await new FakeMachine({ lateMs: 1 }).listen();
          const found = await Machine.find(good(parseAddress(fake.address)), {
            patienceMs: 15,
            hurry: 100,
            everyMs: 60,
          });
          const machine = good(found);
          const states: JobState[] = [];
          const job = new Job(machine, new Lines(new TextEncoder().encode(FILE.join('\n'))), {
            firmware: 'AB',
            stands: true,
            findEveryMs: 5,
            nudgeLine: (mm) => `M290 Z${mm}`,
            changed: ({ state }) => states.push(state),
          });
          const real: Real = { fake, job, states, end: job.run() };
          try {
            await fc.asyncModelRun(() => ({ model: {}, real }), commands);
            job.stop();
            await until(() => job.over, 15_000);
            await real.end;
            holds(real);
            expect(isOver(states.at(-1)!)).toBe(true);
          } finally {
            await machine.close();
            await fake.close();
          }
        },
      ),
      { numRuns: 25, seed: 30, interruptAfterTimeLimit: 60_000 },
    );
  },
  120_000,
);
