/** A held machine with trouble at one line of something that is not a print: does it end, cold or owed? */

import type { Bench } from '../../core/bench/bench';
import { good } from '../../core/testing';
import type { Result } from '../../core/result';
import { Debts } from '../debts';
import { Held } from '../held';
import { Parting } from '../parting';
import type { Owing, Records } from '../records';
import { FakeMachine, type Manner, type Trouble } from './fake-machine';

/** Looks are as much closer together as they are for people, and silence is borne as much shorter. */
export const HURRY = 100;

/** What the link writes down, in memory. */
export function book(file = 'G28') {
  const owed = new Map<string, Owing>();
  const saved: string[] = [];
  const records = {
    idle: () => null,
    nameOf: () => 'Heron',
    owed: () => [...owed.values()],
    owe: (row: Owing) => void owed.set(row.address, row),
    paid: (address: string) => void owed.delete(address),
    begin: () => saved.push('begun'),
    nudge: () => true,
    bytes: () => new TextEncoder().encode(file),
    save: (_: number, { state }: { state: string }) => saved.push(state) > 0,
  } as unknown as Records;
  return { records, owed, saved };
}

/** A fake machine, held. `end` lets go of everything. */
export async function held(manner: Manner = {}, kept = book()) {
  const fake = await new FakeMachine(manner).listen();
  const debts = new Debts(
    kept.records,
    () => undefined,
    () => '2026-11-29T14:02:00Z',
  );
  const partings: Parting[] = [];
  const one = new Held(7, {
    records: kept.records,
    debts,
    changed: () => undefined,
    hurry: HURRY,
    part: (debt, machine) => void partings.push(new Parting(debt, machine, debts)),
  });
  good(await one.connect({ address: fake.address, simulated: null, tools: 1 }));
  const end = async () => {
    await one.close();
    await Promise.all(partings.map((parting) => parting.end()));
    await fake.close();
  };
  return { fake, held: one, debts, partings, end, ...kept };
}

export const CHORES = ['heat', 'tune', 'feed', 'disconnect', 'settings', 'print'] as const;
type Chore = (typeof CHORES)[number];

const within = async (so: () => boolean, ms: number): Promise<boolean> => {
  for (const until = performance.now() + ms; !so();) {
    if (performance.now() > until) return false;
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
  return true;
};
const ENDS_WITHIN_MS = 20_000;

/** @returns what is wrong; nothing where all is well */
export async function runHeldCut(
  bench: Bench,
  chore: Chore,
  kind: Trouble,
  at: number,
  when: 'before' | 'after',
): Promise<string[]> {
  const trouble = { kind, at, when };
  const { fake, held: one, owed, end } = await held({ trouble }, book('G28\nM104 S200\nG1 X5'));
  const wrong: string[] = [];
  const heat = () => one.heatTo({ nozzle: 205, bed: 60 });
  const acts: Record<Chore, () => Promise<Result<unknown>>> = {
    heat,
    tune: () => Promise.resolve(one.chores.tune({ bench, celsius: 205 })),
    feed: async () => {
      const hot = await heat();
      if (!hot.ok) return hot;
      await within(() => one.state.heat.nozzle?.now === 205, 1000);
      return one.chores.feed({ mm: 40, speed: 5, coldest: 170 });
    },
    disconnect: async () => {
      await heat();
      return one.disconnect();
    },
    settings: () => one.settings({ bench, stored: true }),
    print: () => one.printing.print({ bench, file: 1, kept: null, name: 'a' }),
  };
  const asked = acts[chore]();
  let answered = false;
  void asked.then(() => (answered = true));
  if (!(await within(() => answered, ENDS_WITHIN_MS))) wrong.push('never answered');
  const resting = () =>
    one.busy === null || one.state.job?.state === 'paused' || one.state.job?.state === 'lost';
  if (!(await within(resting, ENDS_WITHIN_MS))) wrong.push('something runs for ever');
  // Who stands there after a lost link ends it.
  if (one.state.job) one.printing.steer('stop');
  if (!(await within(() => one.busy === null, ENDS_WITHIN_MS))) wrong.push('a print runs for ever');
  const isOwed = () => [...owed.values()].some(({ why }) => why !== null);
  const rests = () => fake.isDead || one.state.link !== 'looking';
  if (!(await within(rests, ENDS_WITHIN_MS))) wrong.push('never found again');
  // Warm because somebody told it to be is no trouble: it is told to be off, as by hand.
  if (one.state.link === 'ready' && one.state.owed === null && fake.isHot)
    await one.heatTo({ nozzle: 0, bed: 0 });
  const ended = () => (fake.isDead ? !fake.isHot || isOwed() : !fake.isHot && owed.size === 0);
  if (!(await within(ended, ENDS_WITHIN_MS)))
    wrong.push(`neither cold nor owed: ${JSON.stringify([...owed.values()])}`);
  await end();
  return wrong.map((text) => `${chore}, ${kind} ${when} the answer to line ${at}: ${text}`);
}

/** Every trouble at each of the first lines of everything that is no print. */
export async function runHeldCuts(bench: Bench, most: number, every = 1, beside = 12) {
  const all = CHORES.flatMap((chore) =>
    (['silent', 'dead', 'closes', 'resets', 'restarts'] as const).flatMap((kind) =>
      (['before', 'after'] as const).flatMap((when) =>
        Array.from({ length: most }, (_, i) => ({ chore, kind, when, at: i + 1 })),
      ),
    ),
  ).filter((_, i) => i % every === 0);
  const left = [...all];
  const wrong: string[] = [];
  await Promise.all(
    Array.from({ length: beside }, async () => {
      for (let next = left.shift(); next; next = left.shift())
        wrong.push(...(await runHeldCut(bench, next.chore, next.kind, next.at, next.when)));
    }),
  );
  return { runs: all.length, wrong };
}
