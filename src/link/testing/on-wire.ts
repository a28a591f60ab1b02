/** A simulated machine on a wire and the host's hold of it, for tests. */

import type { Bench } from '../../core/bench/bench';
import { Lines } from '../../core/gcode/lines';
import { firmwareOf } from '../../core/dialect/dialect';
import { Job, type JobOptions } from '../job';
import { Machine } from '../machine';
import { Firmware, type Workings } from '../../understudy/firmware';
import { drawTruths } from '../../understudy/truths';
import { NO_FAULTS, serveWire, type Faults } from '../../understudy/wire';

const open: (() => Promise<void>)[] = [];

/** Nothing of a test runs on after it, whichever way it ended. */
export async function closeAll(): Promise<void> {
  for (const close of open.splice(0)) await close();
}

export async function onWire(bench: Bench, workings: Workings = {}, faults: Partial<Faults> = {}) {
  const executed: string[] = [];
  const firmware = new Firmware(bench, drawTruths(bench, 7), { executed, ...workings });
  const wire = await serveWire(firmware, { faults: { ...NO_FAULTS, ...faults } });
  const found = await Machine.find(
    { by: 'tcp', host: '127.0.0.1', port: wire.port },
    { patienceMs: 20 },
  );
  if (!found.ok) throw new Error(found.problems[0]!.what);
  const machine = found.value;
  open.push(async () => {
    await machine.close();
    await wire.close();
  });
  return {
    executed,
    firmware,
    wire,
    machine,
    /** What a machine was told beside questions. */
    told: () => executed.filter((line) => !/^(?:M105|M115|.*M110)\b/.test(line)),
    job: (text: string, options: Partial<JobOptions> = {}) =>
      new Job(machine, new Lines(new TextEncoder().encode(text)), {
        firmware: firmwareOf(bench.machine.dialect),
        stands: true,
        ...options,
      }),
  };
}

/** Waits until something is so. */
export async function until(so: () => boolean, withinMs = 10_000): Promise<void> {
  const end = performance.now() + withinMs;
  while (!so()) {
    if (performance.now() > end) throw new Error(`It was not so within ${withinMs} ms.`);
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
}
