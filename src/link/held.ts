/** One machine that the link holds: its wire, its job, what was said, and whether something is left hot. */

import type { LinkState, Progress, Simulated } from '../core/link-state';
import { fail, ok, problem, type Problem, type Result } from '../core/result';
import { plainLine } from '../core/text';
import { parseAddress } from './address';
import { Chores } from './chores';
import { CoolWatch, heatersOf, isWarm } from './cooling';
import { asOwed, type Debt, type Debts } from './debts';
import type { Ground } from './ground';
import type { Job } from './job';
import { ended, Machine, restart, type Listener } from './machine';
import { WAITS_MS, type TimedAct } from './patience';
import { Printing } from './printing';
import type { ActOf } from './protocol';
import { busyNow, HALTED, notNow, notThere, printing } from './refusals';
import type { Records } from './records';
import { applySetting, readSettings, storeSettings } from './settings';
import { TalkLines } from './talk-lines';
import { inTime, Turns } from './turns';

/** How often temperatures are asked for while nothing prints, ms. */
const ASK_MS = 2000;
/** A hot machine that nobody touches is switched off after this, min; it can be chosen. */
const IDLE_MIN = 10;
const MINUTE_MS = 60_000;
const LOOK_EVERY_MS = 3000;
/** How often others are told of changes, ms. */
const TELL_MS = 150;
/** While the program ends, how often it is looked whether it cools, ms. */
const LAST_LOOK_MS = 300;
/** So long after it was told to be warm it is not taken to be cold, ms. */
const WARMS_MS = 10_000;

/** Harmless at any time: questions, messages, and the shares of speed and flow. */
const ANY_TIME = /^(?:M105|M114|M115|M117|M118|M119|M155|M220|M221|M27|M31|M503)\b/i;

/** What is common to all machines of a link. */
export type Around = {
  records: Records;
  debts: Debts;
  changed: (id: number, revision: number) => void;
  /** Divides how long is waited between two looks, for tests. */
  hurry?: number;
  /** Takes over a machine that nobody is linked to any more, and that may be hot. */
  part: (debt: Debt, machine: Machine | null) => void;
};

export class Held {
  private machine: Machine | null = null;
  private link: LinkState['link'] = 'off';
  private why: string | null = null;
  private readonly talk = new TalkLines();
  private revision = 0;
  private telling: NodeJS.Timeout | null = null;
  private touchedAt = performance.now();
  private tools = 1;
  private idleMin = IDLE_MIN;
  private simulated: Simulated | null = null;
  private address: string | null = null;
  private looking: NodeJS.Timeout | null = null;
  /** Counts what is looked for: what was asked for later goes before what is found earlier. */
  private attempts = 0;
  private readonly turns = new Turns();
  private cooling: CoolWatch | null = null;
  private paying = false;
  /** It is cooled because nobody had touched it. */
  private idled = false;
  /** When it was told last to be warm: until it says that it is, it is not cold either. */
  private warmedAt = -Infinity;
  /** A print was cut short here: the head is lifted off it when the machine is found again. */
  liesOnPrint = false;
  private readonly timer: NodeJS.Timeout;

  readonly chores: Chores;
  readonly printing: Printing;

  constructor(
    readonly id: number,
    private readonly around: Around,
  ) {
    const ground: Ground = {
      id,
      machine: () => this.machine,
      simulated: () => this.simulated,
      busy: () => this.busy,
      queue: (act, run) => this.queue(act, run),
      idle: (act, run) => this.idle(act, run),
      willBeWarm: () => this.willBeWarm(),
      touched: () => (this.touchedAt = performance.now()),
      tell: () => this.tell(),
    };
    this.timer = setInterval(() => this.tend(), this.soon(ASK_MS));
    this.chores = new Chores(ground);
    this.printing = new Printing(ground, around.records, (...end) => this.printed(...end));
  }

  get state(): LinkState {
    const { debts } = this.around;
    const hot = this.machine !== null && this.job === null && this.isHot;
    const left = Math.round((this.touchedAt + this.idleMin * MINUTE_MS - performance.now()) / 1000);
    const debt = this.at && debts.stands(this.at) ? debts.of(this.at) : null;
    return {
      machine: this.id,
      revision: this.revision,
      address: this.address,
      simulated: this.simulated,
      about: this.machine?.about ?? '',
      link: this.link === 'ready' && this.job ? 'busy' : this.link,
      // A job that has found its machine again stands over what was said when it was lost.
      why: this.job && !this.machine?.wire.over ? null : this.why,
      heat: this.machine?.heat ?? {},
      idleMin: this.idleMin,
      coolsInS: hot && !debt ? Math.max(0, left) : null,
      job: this.printing.shown,
      tuning: this.chores.tuning,
      feeding: this.chores.feeding,
      owed: debt && asOwed(debt),
      talk: this.talk.told,
    };
  }

  /** Something is under way that nothing else may come between. */
  get busy(): Problem | null {
    return this.job ? printing : this.chores.isRunning ? busyNow : null;
  }

  private get job(): Job | null {
    return this.printing.job;
  }

  private get isHot(): boolean {
    return heatersOf(this.machine?.heat ?? {}).some(({ target }) => target > 0);
  }

  private soon(ms: number): number {
    return ms / (this.around.hurry ?? 1);
  }

  /** Under what a debt of this machine stands; null where it has no address. */
  private get at(): { machine: number; address: string; tools: number } | null {
    return this.address === null
      ? null
      : { machine: this.id, address: this.address, tools: this.tools };
  }

  /** Says that something is another now, a few times a second at most. */
  private tell(): void {
    this.revision++;
    this.telling ??= setTimeout(() => {
      this.telling = null;
      this.around.changed(this.id, this.revision);
    }, TELL_MS);
  }

  // ---- The link

  async connect({ address, simulated, tools }: Omit<ActOf<'connect'>, 'act' | 'machine'>) {
    const parsed = parseAddress(address);
    if (!parsed.ok) return parsed;
    if (this.busy) return fail(this.busy);
    this.letGo('it was connected elsewhere', address);
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
    const { hurry } = this.around;
    let found = await Machine.find(parsed.value, hurry === undefined ? {} : { hurry });
    // Nobody can reach behind a simulated machine to switch it off and on.
    if (!found.ok && byHand && this.simulated && (await restart(parsed.value)))
      found = await Machine.find(parsed.value);
    if (this.link !== 'looking' || attempt !== this.attempts) {
      if (found.ok) await found.value.close();
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
      talk: (text, from) => {
        if (this.talk.hear(text, from, this.job !== null)) this.tell();
      },
      heat: () => this.warmth(),
      ended: () => this.lost(),
    };
    machine.listeners.add(listener);
    this.link = 'ready';
    this.why = null;
    this.idleMin = this.around.records.idle(this.id) ?? IDLE_MIN;
    this.touchedAt = performance.now();
    await inTime('heat', machine.ask('M105'));
    await this.chores.undo(machine);
    // What may be hot is cooled before anything else is done with it.
    await this.pay();
    this.tell();
    return ok(null);
  }

  private again(): void {
    this.link = 'looking';
    if (this.looking) clearTimeout(this.looking);
    this.looking = setTimeout(() => void this.look(false), this.soon(LOOK_EVERY_MS));
  }

  /** The wire has ended. A job sees to its own. */
  private lost(): void {
    const end = this.machine?.wire.over;
    if (!end || end.why === 'closed') return;
    this.why = end.why === 'halted' ? `${end.text} ${HALTED}` : end.text;
    this.tell();
    if (this.job) return;
    const { machine } = this;
    this.machine = null;
    void machine?.close();
    this.oweIfWarm(end.why === 'halted' ? 'it was stopped' : 'the link was lost');
    if (end.why === 'halted') {
      this.link = 'off';
      this.part(null);
    } else this.again();
    this.tell();
  }

  /** Ends the link; a machine that may be hot is handed on to be cooled. @param next where it is linked to after that */
  private letGo(why: string, next: string | null = null): void {
    if (this.looking) clearTimeout(this.looking);
    this.looking = null;
    const { machine } = this;
    this.machine = null;
    this.link = 'off';
    this.why = null;
    this.oweIfWarm(why);
    if (this.address !== null && this.address !== next) this.part(machine);
    else void machine?.close();
    this.tell();
  }

  /** The link has ended: what was told over it is told again over the next, and nobody watches it meanwhile. */
  private oweIfWarm(why: string): void {
    const { at } = this;
    this.cooling = null;
    if (!at || !this.around.debts.of(at)) return;
    this.around.debts.owe(at, why);
    this.around.debts.heard(at, false);
  }

  private part(machine: Machine | null): void {
    const debt = this.at && this.around.debts.of(this.at);
    if (debt?.why) this.around.part(debt, machine);
    else void machine?.close();
  }

  /** @param why as a clause */
  disconnect(why = 'it was disconnected'): Result<null> {
    if (this.busy) return fail(this.busy);
    this.letGo(why);
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

  /** Whether it sees to what is owed at an address. */
  tends(address: string): boolean {
    return this.address === address && this.link !== 'off';
  }

  /** How long it may be hot and idle. */
  idleAfter(minutes: number): Result<null> {
    this.idleMin = minutes;
    this.touchedAt = performance.now();
    this.tell();
    return ok(null);
  }

  /** Asks how warm it is, and switches off what nobody minds. */
  private tend(): void {
    const { machine, at } = this;
    // What takes long is not asked about: questions would only wait behind it.
    if (!machine || !at || this.job || machine.wire.over || machine.wire.open > 0) return;
    void machine.wire.send('M105');
    const { debts } = this.around;
    if (debts.stands(at)) return void this.pay();
    if (!this.isHot || performance.now() - this.touchedAt < this.idleMin * MINUTE_MS) return;
    debts.owe(at, `nobody had touched it for ${this.idleMin} min`);
    this.idled = true;
    void this.pay();
  }

  // ---- Cooling

  private warmth(): void {
    const { machine, at, job } = this;
    const { debts } = this.around;
    if (machine && at) {
      if (isWarm(machine.heat)) debts.warm(at);
      const debt = debts.of(at);
      if (debt && !job && this.isPaid(debt, machine)) this.paid(debt);
    }
    this.tell();
  }

  private isPaid({ why }: Debt, { heat }: Machine): boolean {
    if (why !== null) return this.cooling?.look(heat) ?? false;
    const settled = performance.now() - this.warmedAt > this.soon(WARMS_MS);
    return settled && heatersOf(heat).length > 0 && !isWarm(heat);
  }

  private paid(debt: Debt): void {
    this.around.debts.paid(debt);
    this.cooling = null;
    if (debt.why === null || !this.idled) return;
    this.idled = false;
    this.why = `Nobody has touched it for ${this.idleMin} min: heaters were switched off, and it cools.`;
  }

  /** Tells heaters off where that is owed; it counts once temperatures are seen to fall. */
  private async pay(): Promise<void> {
    const { at } = this;
    const { debts } = this.around;
    if (!at || !debts.stands(at) || this.paying) return;
    // What does not get colder is told again and again.
    if (this.cooling && debts.of(at)?.state !== 'stuck') return debts.heard(at, true);
    this.paying = true;
    const done = await this.queue('cool', async (machine) => {
      const cooled = await machine.cool();
      if (cooled.ok && this.liesOnPrint) {
        this.liesOnPrint = false;
        await machine.each(['G91', 'G1 Z10 F600', 'G90']);
      }
      return cooled;
    });
    this.paying = false;
    if (!done.ok) return debts.heard(at, false);
    this.cooling ??= new CoolWatch();
    debts.heard(at, true);
  }

  // ---- Acts

  /** One after the other, and only on a machine that is there and idle. */
  private queue<T>(
    act: TimedAct,
    run: (machine: Machine) => Promise<Result<T>>,
  ): Promise<Result<T>> {
    return this.turns.take(act, async (): Promise<Result<T>> => {
      const { machine } = this;
      if (!machine) return fail(notThere);
      if (this.job) return fail(printing);
      if (machine.wire.over) return fail(ended(machine.wire.over));
      if (act !== 'cool') {
        this.touchedAt = performance.now();
        this.why = null;
      }
      const done = await run(machine);
      this.tell();
      return done;
    });
  }

  /** As {@link queue}, and refused while the machine is at something that takes minutes. */
  private idle<T>(
    act: TimedAct,
    run: (machine: Machine) => Promise<Result<T>>,
  ): Promise<Result<T>> {
    return this.busy ? Promise.resolve(fail(this.busy)) : this.queue(act, run);
  }

  settings({ bench, stored }: Pick<ActOf<'settings'>, 'bench' | 'stored'>) {
    return this.idle('settings', (machine) => readSettings(machine, bench.machine.dialect, stored));
  }

  apply({ bench, setting, value }: Pick<ActOf<'apply'>, 'bench' | 'setting' | 'value'>) {
    return this.idle('apply', (machine) => {
      // What was fed with other steps tells nothing of those that are in force now.
      if (setting === 'steps' || setting === 'rotation') this.chores.forgetFeeding();
      return applySetting(machine, setting, value, bench);
    });
  }

  store({ bench }: Pick<ActOf<'store'>, 'bench'>) {
    return this.idle('store', (machine) => storeSettings(machine, bench));
  }

  heatTo({ nozzle, bed }: Pick<ActOf<'heat'>, 'nozzle' | 'bed'>) {
    return this.idle('heat', (machine) => {
      if ((bed ?? 0) > 0 || (nozzle ?? 0) > 0) this.willBeWarm();
      return machine.each([
        ...(bed === null ? [] : [`M140 S${bed}`]),
        ...(nozzle === null ? [] : [`M104 S${nozzle}`]),
        'M105',
      ]);
    });
  }

  /** Written down before anything heats; what was owed before is settled by whoever heats now. */
  private willBeWarm(): void {
    const { at } = this;
    if (!at) return;
    this.warmedAt = performance.now();
    this.idled = false;
    if (this.around.debts.stands(at)) this.around.debts.paid(at);
    this.cooling = null;
    this.around.debts.warm(at);
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
    if (/^M1(?:04|09|40|90|91)\b|^SET_HEATER/i.test(text)) this.willBeWarm();
    const said = await inTime('talk', machine.ask(text));
    if (!said.ok) return said;
    this.tell();
    return ok(null);
  }

  emergency(): Result<null> {
    if (!this.machine) return fail(notThere);
    this.oweIfWarm('the emergency stop was pressed');
    if (this.job) this.job.emergency();
    else this.machine.wire.emergency();
    this.tell();
    return ok(null);
  }

  /** A job has come to its end: what it may have left hot is owed from here on. */
  private printed(machine: Machine, end: Progress): void {
    const clean = end.state === 'finished' && !end.hot;
    // Who never says how warm it is was told to be off, and has said that it took that.
    if (clean && this.at && heatersOf(machine.heat).length === 0) this.around.debts.paid(this.at);
    const restarted = machine.wire.over?.why === 'restarted';
    this.liesOnPrint = end.hot && end.state !== 'finished' && !restarted;
    if (!clean)
      this.oweIfWarm(end.state === 'stopped' ? 'its print was stopped' : 'its print was cut short');
    // Told already: only falling temperatures are waited for.
    if (!clean && !end.hot && this.at) {
      this.cooling = new CoolWatch();
      this.around.debts.heard(this.at, true);
    }
    if (machine.wire.over) this.lost();
  }

  /** Ends everything: what prints is stopped, heaters go off. What is not seen to cool by then stays owed. */
  async close(): Promise<void> {
    clearInterval(this.timer);
    if (this.looking) clearTimeout(this.looking);
    this.looking = null;
    this.attempts++;
    this.link = 'off';
    const until = performance.now() + this.soon(WAITS_MS.ends);
    const waits = async (so: () => boolean) => {
      while (!so() && performance.now() < until)
        await new Promise((resolve) => setTimeout(resolve, 50));
    };
    const { job, machine } = this;
    job?.stop('Ash Ladder was ended while it printed.');
    await waits(() => this.job === null);
    const { at } = this;
    const { debts } = this.around;
    if (machine && at && debts.of(at) && !machine.wire.over) {
      debts.owe(at, 'Ash Ladder was ended');
      if (machine.wire.open > 0 && machine.wire.counts) machine.wire.shout('M108');
      if (!this.cooling) void this.pay();
      while (debts.stands(at) && !machine.wire.over && performance.now() < until) {
        void machine.wire.send('M105');
        await new Promise((resolve) => setTimeout(resolve, LAST_LOOK_MS));
      }
    }
    await machine?.close();
  }
}
