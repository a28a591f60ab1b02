/** One machine that the link holds: its wire, its job, what was said, and whether something is left hot. */

import type { Bench } from '../core/bench/bench';
import { tooCold } from '../core/bench/feeding';
import { valuesOf } from '../core/bench/reported';
import type { Values } from '../core/bench/settings';
import { firmwareOf, settingLine } from '../core/dialect/dialect';
import { Lines } from '../core/gcode/lines';
import type {
  Feeding,
  HeatRow,
  LinkState,
  Progress,
  Simulated,
  TalkLine,
  Tuning,
} from '../core/link-state';
import { plainLine } from '../core/text';
import type { Floor, Nudge } from '../core/plan/nudged';
import { fail, ok, problem, type Result } from '../core/result';
import { parseAddress } from './address';
import { readAnswer } from './answers';
import { feedLines } from './feeding';
import { Job } from './job';
import { ended, Machine, restart, type Listener } from './machine';
import { againstNudge } from './nudging';
import type { ActOf } from './protocol';
import { busyNow, HALTED, notNow, notPrinting, notThere, printing } from './refusals';
import type { Records } from './records';
import { applySetting, readSettings, storeSettings } from './settings';
import { applyGains, presentGains, tuneHeater } from './tuning';

/** How often temperatures are asked for while nothing prints, ms. */
const ASK_MS = 2000;
/** A hot machine that nobody touches is switched off after this, min; it can be chosen. */
const IDLE_MIN = 10;
const MINUTE_MS = 60_000;
const LOOK_EVERY_MS = 3000;
/** How often others are told of changes, ms. */
const TELL_MS = 150;
/** Lines of talk that are kept, and that are told. */
const MOST_TALK = 400;
const TOLD_TALK = 120;
/** Rows of heat that are kept of a job; every second one is thrown away when there are more. */
const MOST_HEAT = 1500;
/** How often a job is written down, ms. */
const SAVE_MS = 500;

/** Harmless at any time: questions, messages, and the shares of speed and flow. */
const ANY_TIME = /^(?:M105|M114|M115|M117|M118|M119|M155|M220|M221|M27|M31|M503)\b/i;

export class Held {
  private machine: Machine | null = null;
  private link: LinkState['link'] = 'off';
  private why: string | null = null;
  private job: (Job & { id?: number }) | null = null;
  private shown: LinkState['job'] = null;
  /** How low what prints may be nudged, and what was. */
  private floors: readonly Floor[] | null = null;
  private nudges: Nudge[] = [];
  private heat: HeatRow[] = [];
  private heatStep = 2;
  private startedAt = 0;
  private talk: TalkLine[] = [];
  private said = 0;
  private revision = 0;
  private telling: NodeJS.Timeout | null = null;
  private touchedAt = performance.now();
  private tools = 1;
  private idleMin = IDLE_MIN;
  private tuning: Tuning | null = null;
  private feeding: Feeding | null = null;
  private feeds = 0;
  private simulated: Simulated | null = null;
  private address: string | null = null;
  private looking: NodeJS.Timeout | null = null;
  /** Counts what is looked for: what was asked for later goes before what is found earlier. */
  private attempts = 0;
  /** One thing after the other on a wire. */
  private turn: Promise<unknown> = Promise.resolve();
  private readonly timer = setInterval(() => this.tend(), ASK_MS);
  /** Where the last link was cut short while something printed: cooled and lifted when it is found again. */
  leftHot = false;

  constructor(
    readonly id: number,
    private readonly records: Records,
    private readonly changed: (id: number, revision: number) => void,
  ) {}

  get state(): LinkState {
    const hot = this.machine !== null && this.job === null && this.isHot;
    const left = Math.round((this.touchedAt + this.idleMin * MINUTE_MS - performance.now()) / 1000);
    return {
      machine: this.id,
      revision: this.revision,
      address: this.address,
      simulated: this.simulated,
      about: this.machine?.about ?? '',
      link: this.link === 'ready' && this.job ? 'busy' : this.link,
      why: this.why,
      heat: this.machine?.heat ?? {},
      idleMin: this.idleMin,
      coolsInS: hot ? Math.max(0, left) : null,
      job: this.shown,
      tuning: this.tuning,
      feeding: this.feeding,
      talk: this.talk.slice(-TOLD_TALK),
    };
  }

  private get isHot(): boolean {
    const { nozzle, bed } = this.machine?.heat ?? {};
    return (nozzle?.target ?? 0) > 0 || (bed?.target ?? 0) > 0;
  }

  /** Says that something is another now, a few times a second at most. */
  private tell(): void {
    this.revision++;
    this.telling ??= setTimeout(() => {
      this.telling = null;
      this.changed(this.id, this.revision);
    }, TELL_MS);
  }

  // ---- The link

  async connect({ address, simulated, tools }: Omit<ActOf<'connect'>, 'act' | 'machine'>) {
    const parsed = parseAddress(address);
    if (!parsed.ok) return parsed;
    if (this.job) return fail(printing);
    this.letGo();
    this.address = address;
    this.simulated = simulated;
    this.tools = tools;
    return this.look(true);
  }

  /** Looks for the machine; where it is not there and nobody waits for an answer, again after a while. */
  private async look(byHand: boolean): Promise<Result<null>> {
    const parsed = parseAddress(this.address ?? '');
    if (!parsed.ok) return parsed;
    this.link = 'looking';
    this.tell();
    const attempt = ++this.attempts;
    let found = await Machine.find(parsed.value);
    // Nobody can reach behind a simulated machine to switch it off and on.
    if (!found.ok && byHand && this.simulated && (await restart(parsed.value)))
      found = await Machine.find(parsed.value);
    if (this.link !== 'looking' || attempt !== this.attempts) {
      if (found.ok) found.value.close();
      return fail(notNow);
    }
    if (!found.ok) {
      this.why = found.problems[0]!.what;
      if (byHand) this.link = 'off';
      else this.again();
      this.tell();
      return found;
    }
    const machine = (this.machine = found.value);
    machine.tools = this.tools;
    const listener: Listener = {
      talk: (text, from) => this.hear(text, from),
      heat: () => this.tell(),
      ended: () => this.lost(),
    };
    machine.listeners.add(listener);
    this.link = 'ready';
    this.why = null;
    this.idleMin = this.records.idle(this.id) ?? IDLE_MIN;
    this.touchedAt = performance.now();
    await machine.ask('M105');
    if (this.leftHot) {
      // What printed when the link ended is not gone on with; nothing of it stays hot.
      this.leftHot = false;
      await machine.cool();
      await machine.each(['G91', 'G1 Z10 F600', 'G90']);
    }
    this.tell();
    return ok(null);
  }

  private again(): void {
    this.link = 'looking';
    if (this.looking) clearTimeout(this.looking);
    this.looking = setTimeout(() => void this.look(false), LOOK_EVERY_MS);
  }

  /** The wire has ended. A job sees to its own. */
  private lost(): void {
    const end = this.machine?.wire.over;
    if (!end || end.why === 'closed') return;
    this.why = end.why === 'halted' ? `${end.text} ${HALTED}` : end.text;
    this.tell();
    if (this.job) return;
    this.machine?.close();
    this.machine = null;
    if (end.why === 'halted') this.link = 'off';
    else this.again();
    this.tell();
  }

  private letGo(): void {
    if (this.looking) clearTimeout(this.looking);
    this.looking = null;
    this.machine?.close();
    this.machine = null;
    this.link = 'off';
    this.why = null;
    this.tell();
  }

  disconnect(): Result<null> {
    if (this.job) return fail(printing);
    this.letGo();
    this.address = null;
    return ok(null);
  }

  /** Begins to look for a machine that was linked when the last link ended. */
  resume(address: string, simulated: Simulated | null, tools: number): void {
    this.address = address;
    this.simulated = simulated;
    this.tools = tools;
    void this.look(false);
  }

  /** How long it may be hot and idle. */
  idleAfter(minutes: number): Result<null> {
    this.idleMin = minutes;
    this.touchedAt = performance.now();
    this.tell();
    return ok(null);
  }

  private hear(text: string, from: TalkLine['from']): void {
    // What a file sends is no talk, nor what is asked every two seconds.
    if (from === 'host' && (this.job || text === 'M105')) return;
    if (this.job && text === 'ok') return;
    const answer = from === 'machine' ? readAnswer(text) : null;
    // Lines that have to be sent again are the wire's own affair.
    if (answer?.kind === 'resend' || answer?.kind === 'spoilt') return;
    const heat = answer?.kind === 'heat' || (answer?.kind === 'ok' && answer.heat !== undefined);
    if (heat && this.talk.at(-1)?.heat) this.talk.pop();
    const line = { n: ++this.said, from, text: plainLine(text, 300) };
    this.talk.push(heat ? { ...line, heat } : line);
    if (this.talk.length > MOST_TALK) this.talk = this.talk.slice(MOST_TALK / 4);
    this.tell();
  }

  /** Asks how warm it is, and switches off what nobody minds. */
  private tend(): void {
    const { machine } = this;
    // What takes long is not asked about: questions would only wait behind it.
    if (!machine || this.job || machine.wire.over || machine.wire.open > 0) return;
    void machine.wire.send('M105');
    if (!this.isHot || performance.now() - this.touchedAt < this.idleMin * MINUTE_MS) return;
    void this.queue((found) => found.cool()).then(() => {
      this.why = `Nobody has touched it for ${this.idleMin} min: heaters were switched off.`;
      this.tell();
    });
  }

  // ---- Acts

  /** One after the other, and only on a machine that is there and idle. */
  private queue<T>(act: (machine: Machine) => Promise<Result<T>>): Promise<Result<T>> {
    const next = this.turn.then(async (): Promise<Result<T>> => {
      const { machine } = this;
      if (!machine) return fail(notThere);
      if (this.job) return fail(printing);
      if (machine.wire.over) return fail(ended(machine.wire.over));
      this.touchedAt = performance.now();
      this.why = null;
      const done = await act(machine);
      this.tell();
      return done;
    });
    this.turn = next.catch(() => undefined);
    return next;
  }

  settings({ bench, stored }: Pick<ActOf<'settings'>, 'bench' | 'stored'>) {
    return this.queue((machine) => readSettings(machine, bench.machine.dialect, stored));
  }

  apply({ bench, setting, value }: Pick<ActOf<'apply'>, 'bench' | 'setting' | 'value'>) {
    return this.queue((machine) => {
      // What was fed with other steps tells nothing of those that are in force now.
      if (setting === 'steps' || setting === 'rotation') this.feeding = null;
      return applySetting(machine, setting, value, bench);
    });
  }

  store({ bench }: Pick<ActOf<'store'>, 'bench'>) {
    return this.queue((machine) => storeSettings(machine, bench));
  }

  heatTo({ nozzle, bed }: Pick<ActOf<'heat'>, 'nozzle' | 'bed'>) {
    return this.queue((machine) =>
      machine.each([
        ...(bed === null ? [] : [`M140 S${bed}`]),
        ...(nozzle === null ? [] : [`M104 S${nozzle}`]),
        'M105',
      ]),
    );
  }

  /** Begins the machine's own tuning; how it goes is seen in the state. */
  tune({ bench, celsius }: Pick<ActOf<'tune'>, 'bench' | 'celsius'>): Result<null> {
    const { machine } = this;
    if (!machine) return fail(notThere);
    if (this.job) return fail(printing);
    if (this.tuning?.state === 'running' || this.feeding?.state === 'running') return fail(busyNow);
    const { dialect } = bench.machine;
    const tuning: Tuning = (this.tuning = {
      celsius,
      state: 'running',
      before: null,
      found: null,
      why: null,
    });
    const over = (told: Partial<Tuning>) => {
      this.tuning = { ...tuning, ...told };
      this.tell();
    };
    void this.queue(async (there) => {
      const before = await presentGains(there, dialect);
      if (before.ok) tuning.before = before.value;
      this.tell();
      const found = await tuneHeater(there, celsius, dialect);
      over(
        found.ok
          ? { state: 'found', found: found.value }
          : { state: 'failed', why: found.problems[0]!.what },
      );
      return found;
    }).then((done) => {
      if (!done.ok && this.tuning?.state === 'running')
        over({ state: 'failed', why: done.problems[0]!.what });
    });
    this.tell();
    return ok(null);
  }

  /** Begins to feed filament slowly through a hot nozzle, mm at mm/s; how it goes is seen in the state. */
  feed({ mm, speed, coldest }: Omit<ActOf<'feed'>, 'act' | 'machine'>): Result<null> {
    const { machine, feeding } = this;
    if (!machine) return fail(notThere);
    if (this.job) return fail(printing);
    if (feeding?.state === 'running' || this.tuning?.state === 'running') return fail(busyNow);
    const cold = tooCold(machine.heat.nozzle, coldest);
    if (cold) return fail(cold);
    const begun: Feeding = { mm, state: 'running', n: ++this.feeds, why: null };
    this.feeding = begun;
    void this.queue((there) => there.each(feedLines(mm, speed))).then((done) => {
      this.feeding = done.ok
        ? { ...begun, state: 'done' }
        : { ...begun, state: 'failed', why: done.problems[0]!.what };
      this.touchedAt = performance.now();
      this.tell();
    });
    this.tell();
    return ok(null);
  }

  applyTuning({ bench }: Pick<ActOf<'apply-tuning'>, 'bench'>): Promise<Result<unknown>> {
    const { tuning } = this;
    if (!tuning?.found)
      return Promise.resolve(fail(problem('heater', 'Nothing was found yet.', 'Tune it first.')));
    return this.queue(async (there) => {
      const done = await applyGains(there, tuning.found!, bench.machine.dialect);
      if (done.ok) this.tuning = { ...tuning, state: 'applied' };
      return done;
    });
  }

  async say(line: string): Promise<Result<null>> {
    const text = plainLine(line, 240).trim();
    if (text === '') return fail(problem('line', 'Nothing was typed.', 'Type a command.'));
    const { machine } = this;
    if (!machine) return fail(notThere);
    this.touchedAt = performance.now();
    if (/^M112\b/i.test(text)) return this.emergency();
    if (this.job && !ANY_TIME.test(text))
      return fail(
        problem(
          'line',
          `${text.split(' ')[0]} would act in the middle of a print.`,
          'Pause or stop the print first.',
        ),
      );
    const said = await machine.ask(text);
    if (!said.ok) return said;
    this.tell();
    return ok(null);
  }

  emergency(): Result<null> {
    if (this.job) this.job.emergency();
    else if (this.machine) this.machine.wire.emergency();
    else return fail(notThere);
    this.tell();
    return ok(null);
  }

  // ---- Printing

  /** What a simulated machine has in force: what it prints is worked out with that. */
  private async has(bench: Bench): Promise<Values> {
    const has = await this.settings({ bench, stored: false });
    return has.ok ? valuesOf(has.value.settings) : {};
  }

  async print(asked: Omit<ActOf<'print'>, 'act' | 'machine'>): Promise<Result<number>> {
    const { bench, file, kept, name } = asked;
    const had = this.simulated && !this.job ? await this.has(bench) : null;
    const { machine } = this;
    if (!machine) return fail(notThere);
    if (this.job) return fail(printing);
    const bytes = this.records.bytes(file, kept);
    if (!bytes) return fail(problem('file', 'This file is not kept any more.', 'Make it again.'));
    const lines = new Lines(bytes);
    const startedAt = new Date().toISOString();
    const id = this.records.begin({
      machine: this.id,
      file,
      kept,
      name,
      lines: lines.count,
      simulated: this.simulated && JSON.stringify(this.simulated),
      had: had && JSON.stringify(had),
      at: startedAt,
    });
    this.heat = [];
    this.heatStep = 2;
    this.floors = asked.floors ?? null;
    this.nudges = [];
    this.startedAt = performance.now();
    let saved = 0;
    const show = (progress: Progress) => {
      this.shown = { ...progress, id, name, file, startedAt, nudges: this.nudges };
      if (performance.now() - saved > SAVE_MS || progress.state !== 'printing') {
        saved = performance.now();
        this.records.save(id, progress, this.heat, null);
      }
      this.tell();
    };
    const job = new Job(machine, lines, {
      firmware: firmwareOf(bench.machine.dialect),
      stands: true,
      changed: show,
      nudgeLine: (dz) => settingLine(bench.machine.dialect, 'nudge', { dz }),
    });
    this.job = job;
    const listener: Listener = { heat: () => this.keepHeat() };
    machine.listeners.add(listener);
    void job.run().then((end) => {
      machine.listeners.delete(listener);
      this.keepEnd(id, end, this.heat, new Date().toISOString());
      this.shown = { ...end, id, name, file, startedAt, nudges: this.nudges };
      this.job = null;
      this.touchedAt = performance.now();
      if (machine.wire.over) this.lost();
      this.tell();
    });
    return ok(id);
  }

  /** How a job ended is kept in any case, if not at once. */
  private keepEnd(id: number, end: Progress, heat: readonly HeatRow[], at: string): void {
    if (!this.records.save(id, end, heat, at))
      setTimeout(() => this.keepEnd(id, end, heat, at), SAVE_MS);
    else this.tell();
  }

  /** Moves the nozzle of what prints, mm upward, as far as nothing touches the bed. */
  async nudge(mm: number): Promise<Result<Nudge>> {
    const { job, shown, floors } = this;
    if (!job || !shown) return fail(notPrinting);
    const against = againstNudge(job, floors, mm);
    if (against) return fail(against);
    this.touchedAt = performance.now();
    const done = await job.nudge(mm);
    if (!done.ok) return done;
    const nudge = { ...done.value, at: new Date().toISOString() };
    this.keepNudge(shown.id, nudge);
    // Meanwhile another print may have begun.
    if (this.shown?.id !== shown.id) return ok(nudge);
    this.nudges = [...this.nudges, nudge];
    this.shown = { ...this.shown, nudges: this.nudges };
    this.tell();
    return ok(nudge);
  }

  private keepNudge(id: number, nudge: Nudge): void {
    if (!this.records.nudge(id, nudge)) setTimeout(() => this.keepNudge(id, nudge), SAVE_MS);
  }

  /** Temperatures of the print that is under way, or was last. */
  get heatRows(): readonly HeatRow[] {
    return this.heat;
  }

  private keepHeat(): void {
    const { nozzle, bed } = this.machine?.heat ?? {};
    const at = Math.round((performance.now() - this.startedAt) / 100) / 10;
    if (at - (this.heat.at(-1)?.[0] ?? -Infinity) < this.heatStep) return;
    this.heat.push([at, nozzle?.now ?? 0, nozzle?.target ?? 0, bed?.now ?? 0, bed?.target ?? 0]);
    if (this.heat.length <= MOST_HEAT) return;
    this.heat = this.heat.filter((_, i) => i % 2 === 0);
    this.heatStep *= 2;
  }

  steer(act: 'pause' | 'go' | 'stop'): Result<null> {
    if (!this.job) return fail(notPrinting);
    this.touchedAt = performance.now();
    this.job[act]();
    this.tell();
    return ok(null);
  }

  /** Ends everything: what prints is stopped, heaters go off. */
  async close(): Promise<void> {
    clearInterval(this.timer);
    if (this.looking) clearTimeout(this.looking);
    const { job, machine } = this;
    if (job && !job.over) {
      job.stop('Ash Ladder was ended while it printed.');
      const until = performance.now() + 8000;
      while (!job.over && performance.now() < until)
        await new Promise((resolve) => setTimeout(resolve, 50));
    } else if (machine && !machine.wire.over && this.isHot) await machine.cool();
    machine?.close();
  }
}
