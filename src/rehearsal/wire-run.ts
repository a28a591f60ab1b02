/** A file sent to the understudy over a wire with faults: did every line arrive once and in order? */

import type { Bench } from '../core/bench/bench';
import { meet } from '../link/meeting';
import { openTransport } from '../link/transport';
import type { End } from '../link/outcome';
import { Wire } from '../link/wire';
import { Firmware, type Workings } from '../understudy/firmware';
import type { Truths } from '../understudy/truths';
import { NO_FAULTS, serveWire, type Faults } from '../understudy/wire';

export type Run = {
  /** What the machine executed, beside questions. */
  executed: string[];
  /** Highest line that the host knows to be taken. */
  sure: number;
  resends: number;
  seconds: number;
  end: End | null;
};

/** Numbering begins unguarded: a machine that counts no lines yet takes a damaged `N0 M110 N0` as it comes. */
const QUESTION = /^M1(?:05|15)\b|M110\b/;
/** A wire with faults answers within ms here, so it is asked early. */
const PATIENCE_MS = 8;

/** @param on what the machine is and what is hidden in it */
export async function sendFaulty(
  commands: readonly string[],
  on: { bench: Bench; truths: Truths },
  faults: Partial<Faults>,
  seed: number,
  workings: Workings = {},
): Promise<Run> {
  const executed: string[] = [];
  const machine = new Firmware(on.bench, on.truths, { executed, ...workings });
  const server = await serveWire(machine, { faults: { ...NO_FAULTS, ...faults }, seed });
  const opened = await openTransport({ by: 'tcp', host: '127.0.0.1', port: server.port });
  if (!opened.ok) throw new Error(opened.problems[0]!.what);
  const met = await meet(opened.value, { withinMs: 20_000, everyMs: 100 });
  if (met.kind !== 'counts') throw new Error(`The machine did not answer as one: ${met.kind}.`);
  const wire = new Wire(opened.value, { patienceMs: PATIENCE_MS }, met.expects);
  const began = performance.now();
  for (const command of commands) {
    if (wire.room === 0) await wire.space();
    if (wire.over) break;
    void wire.send(command);
  }
  await wire.settle();
  const { over: end, sure, resends } = wire;
  const seconds = (performance.now() - began) / 1000;
  await wire.close();
  await server.close();
  return { executed: executed.filter((line) => !QUESTION.test(line)), sure, resends, seconds, end };
}
