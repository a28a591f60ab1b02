/** A short job on a fake machine with trouble at one place and a wish at another: did it end as it should? */

import { Lines } from '../../core/gcode/lines';
import { good } from '../../core/testing';
import { parseAddress } from '../address';
import { coolDown } from '../cool-down';
import { isOver, type Wish } from '../../core/job-states';
import { Job } from '../job';
import { Machine } from '../machine';
import { FakeMachine, type Manner } from './fake-machine';

export type Cut = {
  file: readonly string[];
  manner: Manner;
  /** Wishes of a person, each once the machine has done so many lines beside questions. */
  wishes: readonly { wish: Wish | 'nudge'; at: number }[];
  /** Whether a person is there who goes on after a pause and after a lost link. */
  stands: boolean;
};

const HEAD = ['M140 S60', 'M104 S200', 'G28', 'G21', 'G90'];
const times = (count: number, line: (i: number) => string): string[] =>
  Array.from({ length: count }, (_, i) => line(i));
/** Every line has a word of its own that no machine minds: what the file said is told from what the link says. */
const marked = (lines: readonly string[]): string[] => lines.map((line, i) => `${line} Q${i}`);
/** Few lines with every mode: relative and absolute extrusion, inches, relative moves. */
export const FILES: Readonly<Record<string, readonly string[]>> = {
  relative: marked([...HEAD, 'M83', ...times(8, (i) => `G1 X${i} Z0.2 E0.1 F600`)]),
  absolute: marked([...HEAD, 'M82', ...times(8, (i) => `G1 X${i} Z0.2 E${i}.5 F600`)]),
  inches: marked([...HEAD, 'G20', 'M83', ...times(5, (i) => `G1 X${i} Z.01 E.01`)]),
  steps: marked([...HEAD, 'M83', 'G1 Z0.2 F600', 'G91', ...times(5, (i) => `G1 X1 Z0.${i + 1}`)]),
};
/** How far a machine may be from its ending, ms: everything here is hurried. */
const ENDS_WITHIN_MS = 60_000;
/** Divides what the table of waits says. */
const HURRY = 150;

const sameMoves = (a: FakeMachine['moves'], b: FakeMachine['moves']): boolean =>
  a.every((one, i) => {
    const other = b[i];
    return (
      other !== undefined &&
      one.line === other.line &&
      Math.abs(one.z - other.z) < 1e-9 &&
      Math.abs(one.e - other.e) < 1e-9
    );
  });

const own = (file: readonly string[], fake: FakeMachine) => ({
  done: fake.done.filter((line) => file.includes(line)),
  moves: fake.moves.filter(({ line }) => file.includes(line)),
});

/** What a machine has done that prints a file without any trouble. */
const undisturbed = new Map<readonly string[], Promise<FakeMachine['moves']>>();
function reference(file: readonly string[]): Promise<FakeMachine['moves']> {
  const known = undisturbed.get(file);
  if (known) return known;
  const made = (async () => {
    const fake = await new FakeMachine().listen();
    const machine = good(await Machine.find(good(parseAddress(fake.address)), { everyMs: 100 }));
    await machine.each(file);
    await machine.close();
    await fake.close();
    return own(file, fake).moves;
  })();
  undisturbed.set(file, made);
  return made;
}

/** @returns what is wrong with how it ended; nothing where all is well */
export async function runCut({ file, manner, wishes, stands }: Cut): Promise<string[]> {
  const wanted = await reference(file);
  const fake = await new FakeMachine(manner).listen();
  const found = await Machine.find(good(parseAddress(fake.address)), {
    patienceMs: 15,
    hurry: HURRY,
    everyMs: 60,
    withinMs: 10_000,
  });
  if (!found.ok) {
    await fake.close();
    return [`not met: ${found.problems[0]!.what}`];
  }
  const machine = found.value;
  // Trouble comes among the lines of the job, not among the first words.
  fake.lines = 0;
  const job = new Job(machine, new Lines(new TextEncoder().encode(file.join('\n'))), {
    firmware: 'AB',
    stands,
    findAgainS: 0.5,
    findEveryMs: 10,
    nudgeLine: (mm) => `M290 Z${mm}`,
    changed: ({ state }) => {
      // A person who sees that it stands goes on.
      if (stands && state === 'paused') setTimeout(() => job.go(), 5);
    },
  });
  const left = [...wishes];
  const presses = setInterval(() => {
    while (left[0] && fake.done.length >= left[0].at) {
      const { wish } = left.shift()!;
      if (wish === 'nudge') void job.nudge(0.02);
      else job[wish]();
    }
  }, 1);
  const late = new Promise<null>((resolve) =>
    setTimeout(() => resolve(null), ENDS_WITHIN_MS).unref(),
  );
  const end = await Promise.race([job.run(), late]);
  clearInterval(presses);
  const wrong: string[] = [];
  if (!end) wrong.push(`no end within ${ENDS_WITHIN_MS} ms: ${job.state}`);
  else if (!isOver(end.state)) wrong.push(`ended as ${end.state}`);
  const { done, moves } = own(file, fake);
  const before = done.length;
  if (JSON.stringify(done) !== JSON.stringify(file.slice(0, done.length)))
    wrong.push(`another order: ${done.join(' | ')}`);
  if (!sameMoves(moves, wanted)) wrong.push('moved elsewhere than the file says');
  if (end?.state === 'finished') {
    if (done.length !== file.length) wrong.push(`printed with ${done.length} of ${file.length}`);
    const nudged = fake.done.filter((line) => line.startsWith('M290'));
    const total = nudged.reduce((sum, line) => sum + Number(line.slice(6)), 0);
    // What has restarted has forgotten them.
    if (Math.abs(total) > 1e-9 && end.nudged === 0 && manner.trouble?.kind !== 'restarts')
      wrong.push(`left nudged by ${total}, and not said`);
  }
  if (end && !end.hot && fake.isHot) wrong.push('said to be off, and is hot');
  const dead = manner.trouble?.kind === 'dead';
  const cooled = dead
    ? 'unheard'
    : await coolDown(machine, performance.now() + 20_000, undefined, 5);
  if (cooled !== 'falls' && !dead) wrong.push(`not cooled: ${cooled}`);
  if (!dead && fake.isHot) wrong.push('still hot at the end');
  if (own(file, fake).done.length !== before)
    wrong.push('something of the file was sent after its end');
  await machine.close();
  await fake.close();
  return wrong.map((one) => `${one} (${end?.state}, ${end?.why})`);
}

export const KINDS = ['silent', 'dead', 'closes', 'resets', 'restarts'] as const;
export const WISHES: readonly Cut['wishes'][] = [
  [],
  [{ wish: 'pause', at: 8 }],
  [
    { wish: 'pause', at: 8 },
    { wish: 'go', at: 9 },
  ],
  [{ wish: 'stop', at: 9 }],
  [
    { wish: 'pause', at: 7 },
    { wish: 'stop', at: 11 },
  ],
  [
    { wish: 'nudge', at: 8 },
    { wish: 'nudge', at: 9 },
  ],
];

/** Every place of every kind of trouble, with every wish, on every file. */
export function* allCuts(): Generator<Cut & { name: string }> {
  for (const [name, file] of Object.entries(FILES))
    for (const wishes of WISHES)
      for (const kind of KINDS)
        for (const when of ['before', 'after'] as const)
          for (let at = 1; at <= file.length + 14; at++)
            yield {
              name: `${name}, ${kind} ${when} the answer to line ${at}, ${wishes.map((one) => `${one.wish} at ${one.at}`).join(', ') || 'nobody there'}`,
              file,
              wishes,
              stands: true,
              manner: { trouble: { kind, when, at } },
            };
}

/** Each wish at each place, with trouble at that place and shortly after. */
export function* allWishes(): Generator<Cut & { name: string }> {
  for (const [name, file] of Object.entries(FILES))
    for (const wish of ['pause', 'stop', 'nudge'] as const)
      for (let at = 1; at <= file.length; at++)
        for (const kind of ['silent', 'closes', 'restarts'] as const)
          for (const after of [0, 1, 4])
            yield {
              name: `${name}, ${wish} at line ${at}, ${kind} ${after} lines later`,
              file,
              wishes: [{ wish, at }],
              stands: true,
              manner: { trouble: { kind, when: 'before', at: at + after } },
            };
}

/** Runs several at once. @returns what was wrong, each with the name of its run */
export async function runCuts(
  cuts: Iterable<Cut & { name: string }>,
  beside = 12,
): Promise<{ runs: number; wrong: string[] }> {
  const wrong: string[] = [];
  let runs = 0;
  const all = cuts[Symbol.iterator]();
  await Promise.all(
    Array.from({ length: beside }, async () => {
      for (let next = all.next(); !next.done; next = all.next()) {
        const { name, ...cut } = next.value;
        runs++;
        for (const one of await runCut(cut)) wrong.push(`${name}: ${one}`);
      }
    }),
  );
  return { runs, wrong };
}
