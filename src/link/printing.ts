/** What prints on a held machine: one job at a time, kept as it goes, nudged, steered. */

import type { Bench } from '../core/bench/bench';
import { valuesOf } from '../core/bench/reported';
import type { Values } from '../core/bench/settings';
import { firmwareOf, settingLine } from '../core/dialect/dialect';
import { Lines } from '../core/gcode/lines';
import type { Wish } from '../core/job-states';
import type { HeatRow, LinkState, Progress } from '../core/link-state';
import type { Floor, Nudge } from '../core/plan/nudged';
import { fail, ok, problem, type Result } from '../core/result';
import type { Ground } from './ground';
import { Job } from './job';
import { KeptJob } from './kept-job';
import type { Listener, Machine } from './machine';
import { againstNudge } from './nudging';
import type { ActOf } from './protocol';
import { notPrinting } from './refusals';
import type { Records } from './records';
import { readSettings } from './settings';
import { inTime } from './turns';

type Asked = Omit<ActOf<'print'>, 'act' | 'machine'>;

const now = (): string => new Date().toISOString();

export class Printing {
  private running: Job | null = null;
  private kept: KeptJob | null = null;
  /** How low what prints may be nudged. */
  private floors: readonly Floor[] | null = null;

  constructor(
    private readonly ground: Ground,
    private readonly records: Records,
    private readonly over: (machine: Machine, end: Progress) => void,
  ) {}

  /** What is under way; null where nothing is. */
  get job(): Job | null {
    return this.running;
  }

  /** What is under way, or was last. */
  get shown(): LinkState['job'] {
    return this.kept?.shown ?? null;
  }

  /** What a simulated machine has in force: what it prints is worked out with that. */
  private async has(machine: Machine, bench: Bench): Promise<Values> {
    const has = await readSettings(machine, bench.machine.dialect, false);
    return has.ok ? valuesOf(has.value.settings) : {};
  }

  print(asked: Asked): Promise<Result<number>> {
    return this.ground.idle('print', async (machine) => {
      const had = this.ground.simulated() ? await this.has(machine, asked.bench) : null;
      return this.begin(machine, asked, had);
    });
  }

  private begin(
    machine: Machine,
    { bench, file, kept, name, floors }: Asked,
    had: Values | null,
  ): Result<number> {
    const { records, ground } = this;
    const bytes = records.bytes(file, kept);
    if (!bytes) return fail(problem('file', 'This file is not kept any more.', 'Make it again.'));
    const lines = new Lines(bytes);
    const startedAt = now();
    const simulated = ground.simulated();
    const id = records.begin({
      machine: ground.id,
      file,
      kept,
      name,
      lines: lines.count,
      simulated: simulated && JSON.stringify(simulated),
      had: had && JSON.stringify(had),
      at: startedAt,
    });
    ground.willBeWarm();
    this.floors = floors ?? null;
    const running = (this.kept = new KeptJob({ id, name, file, startedAt }, records, ground.tell));
    const job = (this.running = new Job(machine, lines, {
      firmware: firmwareOf(bench.machine.dialect),
      stands: true,
      changed: (progress) => running.show(progress),
      nudgeLine: (dz) => settingLine(bench.machine.dialect, 'nudge', { dz }),
      nudged: (made) => void running.nudged(made, now()),
    }));
    const listener: Listener = { heat: (heat) => running.warmth(heat) };
    machine.listeners.add(listener);
    void job
      .run()
      .catch((error: Error) => {
        process.stderr.write(`${error.stack}\n`);
        return job.progress;
      })
      .then((end) => {
        machine.listeners.delete(listener);
        running.end(end, now());
        this.running = null;
        ground.touched();
        this.over(machine, end);
        ground.tell();
      });
    return ok(id);
  }

  /** Moves the nozzle of what prints, mm upward, as far as nothing touches the bed. */
  async nudge(mm: number): Promise<Result<Nudge>> {
    const { running, kept, floors } = this;
    if (!running || !kept) return fail(notPrinting);
    const against = againstNudge(running, floors, mm);
    if (against) return fail(against);
    this.ground.touched();
    const done = await inTime('nudge', running.nudge(mm));
    return done.ok ? ok(kept.nudged(done.value, now())) : done;
  }

  /** Temperatures of the print that is under way, or was last. */
  get heatRows(): readonly HeatRow[] {
    return this.kept?.heatRows ?? [];
  }

  steer(wish: Wish): Result<null> {
    if (!this.running) return fail(notPrinting);
    this.ground.touched();
    this.running[wish]();
    this.ground.tell();
    return ok(null);
  }
}
