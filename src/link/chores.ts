/** What takes a machine minutes beside printing: it tunes its heater, and feeds filament to be measured. */

import { tooCold } from '../core/bench/feeding';
import type { Feeding, Tuning } from '../core/link-state';
import { fail, ok, problem, type Result } from '../core/result';
import { FED_AFTER, feedLines } from './feeding';
import type { Ground } from './ground';
import type { Machine } from './machine';
import type { ActOf } from './protocol';
import { notThere } from './refusals';
import { applyGains, presentGains, tuneHeater } from './tuning';

export class Chores {
  private nowTuning: Tuning | null = null;
  private nowFeeding: Feeding | null = null;
  private feeds = 0;
  /** A feeding was cut short: the machine may still take lengths as it did. */
  private strange = false;

  constructor(private readonly ground: Ground) {}

  get tuning(): Tuning | null {
    return this.nowTuning;
  }

  get feeding(): Feeding | null {
    return this.nowFeeding;
  }

  get isRunning(): boolean {
    return this.nowTuning?.state === 'running' || this.nowFeeding?.state === 'running';
  }

  forgetFeeding(): void {
    this.nowFeeding = null;
  }

  /** Puts back what was changed for the time of something that was cut short. */
  async undo(machine: Machine): Promise<void> {
    if (this.strange && (await machine.each(FED_AFTER)).ok) this.strange = false;
  }

  /** Begins the machine's own tuning; how it goes is seen in the state. */
  tune({ bench, celsius }: Pick<ActOf<'tune'>, 'bench' | 'celsius'>): Result<null> {
    const machine = this.ground.machine();
    if (!machine) return fail(notThere);
    const busy = this.ground.busy();
    if (busy) return fail(busy);
    const { dialect } = bench.machine;
    const tuning: Tuning = (this.nowTuning = {
      celsius,
      state: 'running',
      before: null,
      found: null,
      why: null,
    });
    const over = (told: Partial<Tuning>) => {
      this.nowTuning = { ...tuning, ...told };
      this.ground.tell();
    };
    void this.ground
      .queue('tune', async (there) => {
        this.ground.willBeWarm();
        const before = await presentGains(there, dialect);
        if (before.ok) tuning.before = before.value;
        this.ground.tell();
        const found = await tuneHeater(there, celsius, dialect);
        over(
          found.ok
            ? { state: 'found', found: found.value }
            : { state: 'failed', why: found.problems[0]!.what },
        );
        return found;
      })
      .then((done) => {
        if (!done.ok && this.nowTuning?.state === 'running')
          over({ state: 'failed', why: done.problems[0]!.what });
      });
    this.ground.tell();
    return ok(null);
  }

  /** Begins to feed filament slowly through a hot nozzle, mm at mm/s; how it goes is seen in the state. */
  feed({ mm, speed, coldest }: Omit<ActOf<'feed'>, 'act' | 'machine'>): Result<null> {
    const machine = this.ground.machine();
    if (!machine) return fail(notThere);
    const busy = this.ground.busy();
    if (busy) return fail(busy);
    const cold = tooCold(machine.heat.nozzle, coldest);
    if (cold) return fail(cold);
    const begun: Feeding = { mm, state: 'running', n: ++this.feeds, why: null };
    this.nowFeeding = begun;
    void this.ground
      .queue('feed', async (there) => {
        this.strange = true;
        const fed = await there.each(feedLines(mm, speed));
        if (fed.ok) this.strange = false;
        return fed;
      })
      .then((done) => {
        this.nowFeeding = done.ok
          ? { ...begun, state: 'done' }
          : { ...begun, state: 'failed', why: done.problems[0]!.what };
        this.ground.touched();
        this.ground.tell();
      });
    this.ground.tell();
    return ok(null);
  }

  applyTuning({ bench }: Pick<ActOf<'apply-tuning'>, 'bench'>): Promise<Result<unknown>> {
    const tuning = this.nowTuning;
    if (!tuning?.found)
      return Promise.resolve(fail(problem('heater', 'Nothing was found yet.', 'Tune it first.')));
    return this.ground.idle('apply-tuning', async (there) => {
      const done = await applyGains(there, tuning.found!, bench.machine.dialect);
      if (done.ok) this.nowTuning = { ...tuning, state: 'applied' };
      return done;
    });
  }
}
