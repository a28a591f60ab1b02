/**
 * `npm run understudy -- --machine heron --seed 7 --port 0`: a simulated machine on a socket. With `--all`, one of each
 * demo machine, told as JSON, until standard input closes.
 */

import { existsSync, readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { benchNamed } from '../src/cli/loop';
import { MACHINES, type MachinePreset } from '../src/core/bench/presets';
import { problemLine } from '../src/core/result';
import type { Speed } from '../src/understudy/clock';
import { Firmware } from '../src/understudy/firmware';
import { drawTruths } from '../src/understudy/truths';
import { demoBench, MOST_SEED, READY } from '../src/understudy/understudies';
import { NO_FAULTS, serveWire } from '../src/understudy/wire';

const { values } = parseArgs({
  options: {
    all: { type: 'boolean', default: false },
    machine: { type: 'string', default: 'heron' },
    seed: { type: 'string', default: '1' },
    port: { type: 'string', default: '0' },
    lost: { type: 'string', default: '0' },
    doubled: { type: 'string', default: '0' },
    corrupted: { type: 'string', default: '0' },
    'late-ms': { type: 'string', default: '0' },
    'cut-after': { type: 'string' },
    'lost-lines': { type: 'string', default: '0' },
    'lost-answers': { type: 'string', default: '0' },
    'doubled-answers': { type: 'string', default: '0' },
    'broken-heater': { type: 'boolean', default: false },
    speed: { type: 'string', default: '1' },
    'tells-room': { type: 'boolean', default: false },
  },
});
const stop = (text: string): never => {
  process.stderr.write(`${text}\n`);
  process.exit(2);
};
const number = (name: keyof typeof values, most: number): number => {
  const value = Number(values[name]);
  if (!(value >= 0 && value <= most))
    stop(`--${name} "${values[name]}" is no number from 0 to ${most}. Give one.`);
  return value;
};
/** How many times as fast as a real machine those of the demo are: a ladder of half an hour takes two minutes. */
const DEMO_SPEED = 15;

const SPEED_LOOK_MS = 50;

/**
 * A speed, or a file that says at any moment how fast they live, and how fast they heat and home: what must be caught
 * in the middle is held there.
 */
function speedFrom(text: string): Speed {
  if (!text.includes('/')) return Number(text) || DEMO_SPEED;
  let [speed, ready] = [DEMO_SPEED, DEMO_SPEED];
  const look = () => {
    // Gone with the folder of its test: it stays as it was.
    if (!existsSync(text)) return;
    const [lives = DEMO_SPEED, readies = lives] = readFileSync(text, 'utf8').split(' ').map(Number);
    [speed, ready] = [lives, readies];
  };
  look();
  setInterval(look, SPEED_LOOK_MS).unref();
  return (readies) => (readies ? ready : speed);
}

/** One of each demo machine, until the other side lets go. */
async function standAll(): Promise<void> {
  const speed = speedFrom(process.env.ASH_UNDERSTUDY_SPEED ?? '');
  const stand = await Promise.all(
    (Object.keys(MACHINES) as MachinePreset[]).map(async (preset, i) => {
      const { name, seed } = READY[i % READY.length]!;
      const bench = demoBench(preset);
      const firmware = new Firmware(bench, drawTruths(bench, seed), { speed });
      const { port } = await serveWire(firmware);
      return { machine: bench.machine.name, address: `tcp:127.0.0.1:${port}`, name, seed };
    }),
  );
  process.stdout.write(`${JSON.stringify(stand)}\n`);
  process.stdin.resume();
  process.stdin.on('end', () => process.exit(0));
}

async function standOne(): Promise<void> {
  const bench = benchNamed(values.machine);
  if (!bench.ok) stop(bench.problems.map(problemLine).join('\n'));
  else {
    const truths = drawTruths(bench.value, number('seed', MOST_SEED));
    const machine = new Firmware(bench.value, truths, {
      heater: values['broken-heater'],
      speed: number('speed', 10_000) || 1,
      tellsRoom: values['tells-room'],
    });
    const wire = await serveWire(machine, {
      port: number('port', 65_535),
      faults: {
        ...NO_FAULTS,
        lost: number('lost', 1),
        doubled: number('doubled', 1),
        corrupted: number('corrupted', 1),
        lostLines: number('lost-lines', 1),
        lostAnswers: number('lost-answers', 1),
        doubledAnswers: number('doubled-answers', 1),
        lateMs: number('late-ms', 60_000),
        cutAfter: values['cut-after'] === undefined ? null : number('cut-after', 1e9),
      },
    }).catch((error: NodeJS.ErrnoException) =>
      stop(`Port ${values.port} cannot be had (${error.code}). Give another, or 0 for a free one.`),
    );
    process.stdout.write(`Understudy of ${bench.value.machine.name} at 127.0.0.1:${wire.port}\n`);
    process.on('SIGINT', () => void wire.close().then(() => process.exit(0)));
    process.on('SIGTERM', () => void wire.close().then(() => process.exit(0)));
  }
}

await (values.all ? standAll() : standOne());
