/** How often a page asks the store: as often for a hundred prints as for one. */

import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FILAMENTS, MACHINES } from '@/core/bench/presets';
import { makeTemperature } from '@/core/testing';
import type { Ladder } from '@/store/ladders';
import { copiesOf, groupsOf } from './ladder';
import { findingOf, groupFor } from './finding';
import { echoesOf } from './shakes';
import { store } from './store';
import { underwayOf } from './underway';

jest.mock('server-only', () => ({}));
jest.mock('next/navigation', () => ({ notFound: () => undefined }));
jest.mock('./threads', () => ({ inThread: () => Promise.resolve({ ok: false, problems: [] }) }));

const AT = '2026-11-02T08:00:00.000Z';
const folder = mkdtempSync(join(tmpdir(), 'ash-queries-'));
process.env.ASH_DATA = folder;
afterAll(() => {
  store().db.close();
  rmSync(folder, { recursive: true, force: true });
});

let count = 0;
/** Counts whatever is asked of the store from here on. */
function counts(): void {
  const statement = Object.getPrototypeOf(store().db.prepare('select 1')) as Record<
    string,
    unknown
  >;
  for (const name of ['get', 'all', 'iterate', 'run']) {
    const plain = statement[name] as (...of: unknown[]) => unknown;
    statement[name] = function (this: unknown, ...of: unknown[]) {
      count++;
      return plain.apply(this, of);
    };
  }
}

/** Ladders of one bench, two or more, each with scored prints. */
function filled(copies: number): Ladder {
  const { machines, filaments, benches, ladders, files, prints, readings } = store();
  const bench = benches.join(
    machines.add({ ...MACHINES.heron, name: `Heron ${copies}` }),
    0.4,
    filaments.add(FILAMENTS.moss),
    AT,
  );
  const made = makeTemperature({ from: 205, to: 200 });
  let newest = 0;
  for (let n = 0; n < Math.max(2, copies / 10); n++) {
    newest = ladders.add({
      benchId: bench,
      kind: 'temperature',
      spec: made.plan.spec as Record<string, number>,
      weights: {},
      createdAt: AT,
    });
    const file = files.keep(newest, made.text, made.plan, AT);
    for (let i = 0; i < Math.min(copies, 10); i++) {
      const reading = readings.start(prints.add(file, AT), '', AT);
      readings.score(reading, { rung: 0, criterion: 'stringing', score: 2 }, AT);
    }
  }
  return ladders.get(newest)!;
}

test.each([
  ['copies and their readings', (ladder: Ladder) => void copiesOf(ladder.id)],
  [
    'a finding with those before it',
    async (ladder: Ladder) => {
      const bench = store().benches.get(ladder.benchId)!;
      await findingOf(ladder, bench.bench, groupFor(groupsOf(copiesOf(ladder.id))));
    },
  ],
  ['what is under way on a bench', (ladder: Ladder) => void underwayOf(ladder.benchId)],
  ['echoes on a bench', (ladder: Ladder) => void echoesOf(ladder.benchId, 'x')],
])('%s: asked as often at 100 prints as at 1', async (_, look) => {
  const [one, hundred] = [filled(1), filled(100)];
  if (count === 0) counts();
  const asked = async (ladder: Ladder) => {
    count = 1;
    await look(ladder);
    return count - 1;
  };
  const few = await asked(one);
  expect(few).toBeGreaterThan(0);
  expect(await asked(hundred)).toBeLessThanOrEqual(few + 1);
});
