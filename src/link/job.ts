/**
 * One file on its way to a machine: streamed line by line, paused, gone on with, stopped, watched over. It comes to one
 * end (core/job-states.ts); where heaters could not be told off by then it says so, and whoever holds it sees to that.
 */

import type { Firmware } from '../core/dialect/dialect';
import { stripLine } from '../core/dialect/command';
import type { Lines } from '../core/gcode/lines';
import { isOver, JOB_NEXT, MAY_WISH, type JobState } from '../core/job-states';
import type { Progress, Temperatures } from '../core/link-state';
import type { Nudge } from '../core/plan/nudged';
import { short, tidy } from '../core/numbers';
import { fail, ok, problem, type Result } from '../core/result';
import { Aside } from './aside';
import { HeatWatch } from './heat-watch';
import { ended, type Listener, type Machine } from './machine';
import { Modes } from './modes';
import { Nap } from './nap';
import { mayBeThere } from './outcome';
import { waitsForHeat } from './patience';
import { placeAt } from './place';
import { notPrinting } from './refusals';

export type JobOptions = {
  firmware: Firmware;
  changed?: (progress: Progress) => void;
  /** Stands still for a person where the file says so, and after a link was lost; without it, it is stopped then. */
  stands?: boolean;
  /** How long heat is kept while it stands, s. */
  keepHeatS?: number;
  /** How long a lost machine is looked for, s. */
  findAgainS?: number;
  /** How often, ms. */
  findEveryMs?: number;
  /** The line that nudges the nozzle, mm upward; null where the machine cannot be told. */
  nudgeLine?: (mm: number) => string | null;
  /** A nudge that was given up with a lost link turned out to be taken. */
  nudged?: (made: Omit<Nudge, 'at'>) => void;
};

/** How often temperatures are asked for where they don't come by themselves, ms. */
const ASK_MS = 2000;
const KEEP_HEAT_S = 15 * 60;
const FIND_AGAIN_S = 30 * 60;
const FIND_EVERY_MS = 2000;
/** Lifted off what was printed when it is stopped, mm. */
const CLEAR = 10;
/** Places of lines that are remembered, and thrown away down to half when there are more. */
const MOST_MARKS = 8192;

export class Job {
  private now: JobState = 'printing';
  why: string | null = null;
  /** It was never found again after the link was lost. */
  isGone = false;
  private hot = false;
  private given = 0;
  private modes: Modes;
  private readonly aside: Aside;
  private readonly watch = new HeatWatch();
  /** Which line of the file each line on the wire was. */
  private marks: { number: number; line: number }[] = [];
  private sureLine = 0;
  private asking = false;
  private heatAt = 0;
  private readonly nap = new Nap();
  private wanted: 'run' | 'pause' | 'stop' = 'run';
  private letGoAt: number | null = null;
  private lastCommand = '';
  /** Refusals of its own moves aside are no harm to the print. */
  private stepping = 0;
  /** Own lines of which a lost link has left open whether they were taken. */
  private unsure: { number: number; then: (taken: boolean) => void }[] = [];
  /** What all nudges come to, mm upward, with those that are on their way. */
  private nudged = 0;
  /** What was nudged is being taken back: nothing comes on top. */
  private isEnding = false;
  /** Command words of nudges that are on their way. */
  private nudging: string[] = [];

  constructor(
    private readonly machine: Machine,
    private readonly lines: Lines,
    private readonly options: JobOptions,
  ) {
    this.modes = new Modes(options.firmware);
    this.aside = new Aside(
      (command, taken) => this.own(command, (was) => was && taken?.()),
      () => this.modes,
    );
  }

  get state(): JobState {
    return this.now;
  }

  get progress(): Progress {
    return {
      state: this.now,
      line: this.given,
      sure: this.sure,
      lines: this.lines.count,
      why: this.why,
      nudged: this.nudged,
      hot: this.hot,
      keepsHeatS:
        this.letGoAt === null
          ? null
          : Math.max(0, Math.round((this.letGoAt - performance.now()) / 1000)),
    };
  }

  get over(): boolean {
    return isOver(this.now);
  }

  private get sure(): number {
    const { sure } = this.machine.wire;
    let passed = 0;
    while (passed < this.marks.length && this.marks[passed]!.number <= sure) passed++;
    if (passed > 0) {
      this.sureLine = this.marks[passed - 1]!.line;
      this.marks = this.marks.slice(passed);
    }
    return this.sureLine;
  }

  /** What was pressed last; a press comes while something else is waited for. */
  private wish(): 'run' | 'pause' | 'stop' {
    return this.wanted;
  }

  /** The one place where the state changes: never to one that does not follow. */
  private become(state: JobState, why: string | null = null): void {
    if (state !== this.now && !JOB_NEXT[this.now].includes(state)) return;
    this.now = state;
    this.why = why;
    this.options.changed?.(this.progress);
  }

  private failed(why: string, hot: boolean): void {
    if (this.over) return;
    this.hot = hot;
    this.become('failed', why);
  }

  /** Prints it. @returns how it ended */
  async run(): Promise<Progress> {
    const { machine } = this;
    const listener: Listener = {
      heat: (heat) => this.heat(heat),
      // A print without the heat that it was made for, or without plastic, is none.
      refused: (text) => {
        if (this.stepping > 0) return;
        // A nudge that it does not take is no harm to the print.
        if (this.nudging.some((word) => text.toUpperCase().includes(word))) return;
        this.stop(`The machine refused something near line ${this.given}: ${text}.`);
      },
    };
    machine.listeners.add(listener);
    const timer = setInterval(() => this.ask(), ASK_MS / 4);
    this.become('printing');
    try {
      await this.stream();
    } catch (error) {
      this.failed(`A fault of the program: ${(error as Error).message}`, true);
      throw error;
    } finally {
      clearInterval(timer);
      machine.listeners.delete(listener);
    }
    // Nothing that is begun is left between two states.
    this.failed('It ended, and did not say how.', true);
    return this.progress;
  }

  private async stream(): Promise<void> {
    const { machine, lines } = this;
    for (;;) {
      // What was lost with a link is given again: the wire has said from where.
      if (this.given < lines.count) {
        if (machine.wire.room === 0) await machine.wire.space();
        if (!(await this.mayGoOn())) return;
        if (this.given < lines.count) await this.give(this.given + 1);
        continue;
      }
      const taken = await machine.wire.settle();
      if (!(await this.mayGoOn())) return;
      if (!taken.ok || this.given < lines.count || !(await this.own('M400'))) continue;
      if (!(await this.mayGoOn())) return;
      if (this.given === lines.count) break;
    }
    await this.finish();
  }

  private async give(line: number): Promise<void> {
    const { wire } = this.machine;
    const text = stripLine(this.lines.line(line, true));
    if (text === '') {
      this.given = line;
      return;
    }
    if (this.options.stands && /^M[01]\b/i.test(text)) {
      const number = wire.coming;
      if (!(await this.own('M400')) || this.wish() !== 'run') return;
      this.given = line;
      this.mark(line, number);
      this.wanted = 'pause';
      await this.mayGoOn(`The file waits for you: ${said(this.lines.line(line))}`);
      return;
    }
    this.modes.follow(text);
    this.lastCommand = text;
    this.given = line;
    this.mark(line, wire.coming);
    void wire.send(text);
  }

  private mark(line: number, number: number): void {
    if (this.marks.push({ number, line }) > MOST_MARKS) void this.sure;
    if (this.marks.length > MOST_MARKS) this.marks = this.marks.slice(MOST_MARKS / 2);
  }

  private async finish(): Promise<void> {
    this.isEnding = true;
    await this.unnudge();
    // A file that leaves heaters on is cooled after: by what it told, whatever the machine says of itself by now.
    const leaves = this.modes.warm().length > 0;
    const cool = (!leaves && !(await this.machine.isHot())) || (await this.machine.cool()).ok;
    this.hot = !cool;
    const over = this.machine.wire.over;
    this.become('finished', over ? `It was printed to its end; then: ${over.text}` : null);
  }

  /** A line that is not of the file. @param then is told once it is sure whether it was taken @returns whether that is so now */
  private async own(command: string, then?: (taken: boolean) => void): Promise<boolean> {
    const { wire } = this.machine;
    const number = wire.coming;
    const before = this.lastCommand;
    if (waitsForHeat(command)) this.lastCommand = command;
    this.stepping++;
    const outcome = await wire.send(command);
    this.stepping--;
    if (this.lastCommand === command) this.lastCommand = before;
    if (outcome.ok) then?.(true);
    else if (then && mayBeThere(outcome.end)) this.unsure.push({ number, then });
    else then?.(false);
    return outcome.ok;
  }

  /** Holds while it stands. @returns whether the next line may go */
  private async mayGoOn(why: string | null = null): Promise<boolean> {
    for (;;) {
      const end = this.machine.wire.over;
      if (this.over) return false;
      if (end && !mayBeThere(end)) {
        // What has restarted has forgotten its nudges.
        if (end.why === 'restarted') this.nudged = 0;
        this.failed(join(this.wish() === 'stop' ? this.why : null, end.text), true);
        return false;
      }
      if (end) {
        if (!(await this.findAgain(end.text))) return false;
      } else if (this.wish() === 'stop') {
        await this.end();
        return false;
      } else if (this.wish() === 'pause') await this.stand(why);
      else if (this.aside.open) await this.comeBack();
      else {
        if (this.now !== 'printing') this.become('printing');
        return true;
      }
    }
  }

  // ---- Standing still

  private may(wish: keyof typeof MAY_WISH): boolean {
    return MAY_WISH[wish].includes(this.now);
  }

  pause(): void {
    if (!this.may('pause') || this.wanted === 'stop') return;
    this.wanted = 'pause';
    if (this.now === 'printing') this.become('pausing');
  }

  go(): void {
    if (!this.may('go') || this.wanted === 'stop') return;
    this.wanted = 'run';
    this.nap.wake();
  }

  stop(why: string | null = null): void {
    if (!this.may('stop') || this.wanted === 'stop') return;
    this.wanted = 'stop';
    // A machine that waits until it is warm takes nothing else before. Whose lines are not counted gets none beside.
    const { wire } = this.machine;
    if (waitsForHeat(this.lastCommand) && wire.counts) wire.shout('M108');
    this.become('stopping', why);
    this.nap.wake();
  }

  /** Everything stops now; the machine has to be switched off and on after that. */
  emergency(): void {
    this.machine.wire.emergency();
    this.failed('It was stopped by the emergency stop.', true);
    this.nap.wake();
  }

  private async stand(why: string | null): Promise<void> {
    const { machine } = this;
    if (this.now === 'printing') this.become('pausing', why);
    await machine.wire.settle();
    if (machine.wire.over || !(await this.aside.out(this.melts)) || this.wish() !== 'pause') return;
    const keep = this.options.keepHeatS ?? KEEP_HEAT_S;
    if (this.letGoAt === null && !this.aside.isCold && (await machine.isHot()))
      this.letGoAt = performance.now() + keep * 1000;
    if (machine.wire.over || this.wish() !== 'pause') return;
    this.become('paused', this.now === 'paused' ? this.why : why);
    while (this.wish() === 'pause' && !machine.wire.over) {
      if (this.letGoAt !== null && performance.now() > this.letGoAt) await this.letHeatGo();
      else await this.nap.take(500);
    }
  }

  /** Whether the nozzle is told to be warm, as far as file and machine say. */
  private get melts(): boolean {
    const { nozzle } = this.machine.heat;
    return (
      !nozzle || nozzle.target > 0 || this.modes.warm().some((line) => line.startsWith('M109'))
    );
  }

  private async letHeatGo(): Promise<void> {
    const { machine } = this;
    const { nozzle, bed } = machine.heat;
    const told = this.modes.warm();
    // A file that heats by words of its own says it in the machine's answers alone.
    const said = [
      ...(bed && bed.target > 0 ? [`M190 S${short(bed.target)}`] : []),
      ...(nozzle && nozzle.target > 0 ? [`M109 S${short(nozzle.target)}`] : []),
    ];
    this.letGoAt = null;
    this.aside.letGo([...(told.length > 0 ? told : said), ...this.modes.blow()]);
    if (!(await machine.cool()).ok) return;
    this.become('paused', `${this.why ?? 'It stands'}. Heat was let go; it comes back first.`);
  }

  private async comeBack(): Promise<void> {
    this.letGoAt = null;
    if (this.aside.isCold) this.become('paused', 'It warms up again, then it goes on.');
    await this.aside.back(() => this.wish() === 'run' && !this.machine.wire.over);
  }

  // ---- Ends

  /** Heaters and fan off, then the head off what was printed. */
  private async end(): Promise<void> {
    const { why, machine } = this;
    this.isEnding = true;
    this.become('stopping', why);
    const cooled = await machine.cool();
    await this.unnudge();
    await this.aside.clear(CLEAR);
    if (this.over) return;
    this.hot = !cooled.ok;
    if (machine.wire.over) return this.failed(join(why, machine.wire.over.text), this.hot);
    if (why === null) this.become('stopped', 'It was stopped.');
    else this.become('failed', why);
  }

  /** Looks for a machine that was lost, and asks it what it has. @returns whether it was found */
  private async findAgain(lost: string): Promise<boolean> {
    const { machine } = this;
    const why = this.wish() === 'stop' ? join(this.why, lost) : lost;
    const forS = this.options.findAgainS ?? FIND_AGAIN_S;
    const until = performance.now() + forS * 1000;
    this.become('lost', `${why} It is being looked for.`);
    while (performance.now() < until && !this.over && this.wish() !== 'stop') {
      const back = await machine.again(until - performance.now());
      const has = back.ok ? back.value.kind : 'unheard';
      if (this.over) return false;
      if (back.ok && back.value.kind === 'expects') return this.found(why, back.value.line);
      if (has === 'restarted') {
        this.nudged = 0;
        this.failed(`${why} The machine has restarted since: it counts its lines anew.`, true);
        return false;
      }
      if (has === 'uncounted') {
        this.failed(`${why} It counts no lines, so nobody knows which of them it has.`, true);
        return false;
      }
      await this.nap.take(this.options.findEveryMs ?? FIND_EVERY_MS);
    }
    const height =
      this.nudged === 0 ? '' : ` Its nozzle stands nudged by ${short(this.nudged)} mm.`;
    const looked = this.wish() === 'stop' ? '' : ` It was not found again in ${spanOf(forS)}.`;
    this.isGone = true;
    this.failed(`${why}${looked}${height}`, true);
    return false;
  }

  /** The machine has said which line it expects: what it had not taken is given again. */
  private found(why: string, expects: number): boolean {
    for (const { number, then } of this.unsure.splice(0)) then(number < expects);
    const sure = this.sure;
    this.marks = [];
    this.given = sure;
    this.modes = Modes.after(this.lines, sure, this.options.firmware);
    this.lastCommand = '';
    this.aside.doubt();
    const upTo = `The machine had taken everything up to line ${sure}.`;
    if (this.wish() === 'stop') return true;
    if (!this.options.stands) this.stop(`${why} ${upTo}`);
    else {
      this.wanted = 'pause';
      this.become('paused', `The link was lost and is back. ${upTo}`);
    }
    return true;
  }

  // ---- Nudges

  /**
   * Moves the nozzle while it prints: nearer to the bed for less than nothing. It acts on top of what the file says, and
   * is taken back when the print ends.
   */
  async nudge(mm: number): Promise<Result<Omit<Nudge, 'at'>>> {
    const command = this.options.nudgeLine?.(mm) ?? null;
    if (command === null)
      return fail(
        problem(
          'nudge',
          'This machine has no command for a live nudge.',
          'Fill in its row among the machine’s commands.',
        ),
      );
    if (this.over || this.isEnding) return fail(notPrinting);
    const line = this.given;
    // Counted before it is taken: a second press comes on top of the first.
    const total = (this.nudged = tidy(this.nudged + mm));
    this.nudging.push(command.split(' ')[0]!.toUpperCase());
    const made = { line, mm, total, ...placeAt(this.lines, line) };
    const { wire } = this.machine;
    const number = wire.coming;
    const said = await wire.send(command);
    this.nudging.pop();
    if (!said.ok && mayBeThere(said.end))
      this.unsure.push({
        number,
        then: (taken) => {
          if (taken) this.options.nudged?.(made);
          else this.nudged = tidy(this.nudged - mm);
        },
      });
    else if (!said.ok) this.nudged = tidy(this.nudged - mm);
    if (!said.ok) return fail(ended(said.end));
    const against = said.said.find((one) => /unknown|error/i.test(one));
    if (against === undefined) return ok(made);
    this.nudged = tidy(this.nudged - mm);
    return fail(
      problem(
        'nudge',
        `The machine does not take ${command}: “${against.slice(0, 80)}”.`,
        'Correct its row for the live nudge among the machine’s commands.',
      ),
    );
  }

  /** What was nudged is taken back: what is found is what the file says and what was nudged, on top of what was before. */
  private async unnudge(): Promise<void> {
    const back = this.nudged === 0 ? null : this.options.nudgeLine?.(-this.nudged);
    if (back && (await this.own(back))) this.nudged = 0;
  }

  // ---- Heat

  private ask(): void {
    const { wire } = this.machine;
    if (this.over) return;
    if (this.options.changed && this.now !== 'paused') this.options.changed(this.progress);
    if (this.asking || performance.now() - this.heatAt < ASK_MS || wire.over) return;
    // What warms says by itself how warm it is, and answers nothing else before.
    if (wire.open > 0 && waitsForHeat(this.lastCommand)) return;
    this.asking = true;
    void wire.send('M105').then(() => {
      this.asking = false;
      this.heatAt = performance.now();
    });
  }

  private heat(heat: Temperatures): void {
    this.heatAt = performance.now();
    const wrong = this.over ? null : this.watch.look(heat, performance.now() / 1000);
    if (wrong) this.stop(wrong);
  }
}

/** What the file says to the person, where it says something. */
const said = (line: string): string =>
  /^M[01]\s*(?:[SP]\d+\s*)*([^;]*)/i.exec(line.trim())?.[1]?.trim() ||
  /;\s*(.+)/.exec(line)?.[1]?.trim() ||
  'see to the machine, then go on';

const join = (first: string | null, then: string): string =>
  first === null ? then : `${first} ${then}`;

const spanOf = (seconds: number): string =>
  seconds < 120 ? `${Math.round(seconds)} s` : `${Math.round(seconds / 60)} min`;
