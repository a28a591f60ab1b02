/**
 * One file on its way to a machine: streamed line by line, paused, gone on with, stopped, watched over. Nothing stays
 * hot when it ends, whichever way it ends.
 */

import type { Firmware } from '../core/dialect/dialect';
import { stripLine } from '../core/dialect/command';
import type { Lines } from '../core/gcode/lines';
import type { JobState, Progress, Temperatures } from '../core/link-state';
import type { Nudge } from '../core/plan/nudged';
import { short, tidy } from '../core/numbers';
import { fail, ok, problem, type Result } from '../core/result';
import { placeAt } from './place';
import { HeatWatch } from './heat-watch';
import type { Listener, Machine } from './machine';
import { Modes } from './modes';

export type JobOptions = {
  firmware: Firmware;
  changed?: (progress: Progress) => void;
  /** Stands still for a person where the file says so; without it, the machine sees to that itself. */
  stands?: boolean;
  /** How long heat is kept while it stands, s. */
  keepHeatS?: number;
  /** How long a lost machine is looked for, s. */
  findAgainS?: number;
  /** The line that nudges the nozzle, mm upward; null where the machine cannot be told. */
  nudgeLine?: (mm: number) => string | null;
};

/** How often temperatures are asked for where they don't come by themselves, ms. */
const ASK_MS = 2000;
const KEEP_HEAT_S = 15 * 60;
const FIND_AGAIN_S = 30 * 60;
const FIND_EVERY_MS = 2000;
/** Drawn back and lifted while it stands, mm. */
const DRAWN = 2;
const LIFTED = 5;
/** Lifted off what was printed when it is stopped, mm. */
const CLEAR = 10;
/** Places of lines that are remembered, and thrown away down to half when there are more. */
const MOST_MARKS = 8192;

/** How long a machine that went silent may take to answer once more, ms. */
const COOLS_WITHIN_MS = 8000;

const HEATS = /^M1(?:09|90|16)\b|^TEMPERATURE_WAIT\b/i;

export class Job {
  state: JobState = 'printing';
  why: string | null = null;
  private given = 0;
  private readonly modes: Modes;
  private readonly watch = new HeatWatch();
  /** Which line of the file each line on the wire was. */
  private marks: { number: number; line: number }[] = [];
  private sureLine = 0;
  private asking = false;
  private heatAt = 0;
  private wake: (() => void) | null = null;
  private wanted: 'run' | 'pause' | 'stop' = 'run';
  private letGoAt: number | null = null;
  private letGo: Temperatures | null = null;
  private lastCommand = '';
  /** What all nudges come to, mm upward, with those that are on their way. */
  private nudged = 0;
  /** Command words of nudges that are on their way. */
  private nudging: string[] = [];

  constructor(
    private readonly machine: Machine,
    private readonly lines: Lines,
    private readonly options: JobOptions,
  ) {
    this.modes = new Modes(options.firmware);
  }

  get progress(): Progress {
    return {
      state: this.state,
      line: this.given,
      sure: this.sure,
      lines: this.lines.count,
      why: this.why,
      nudged: this.nudged,
      keepsHeatS:
        this.letGoAt === null
          ? null
          : Math.max(0, Math.round((this.letGoAt - performance.now()) / 1000)),
    };
  }

  get over(): boolean {
    return this.state === 'finished' || this.state === 'stopped' || this.state === 'failed';
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

  private become(state: JobState, why: string | null = null): void {
    this.state = state;
    this.why = why;
    this.options.changed?.(this.progress);
  }

  /** Prints it. @returns how it ended */
  async run(): Promise<Progress> {
    const { machine } = this;
    const listener: Listener = {
      heat: (heat) => this.heat(heat),
      // A print without the heat that it was made for, or without plastic, is none.
      refused: (text) => {
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
    } finally {
      clearInterval(timer);
      machine.listeners.delete(listener);
    }
    return this.progress;
  }

  private async stream(): Promise<void> {
    const { wire } = this.machine;
    for (let line = 1; line <= this.lines.count && !this.over; line++) {
      const text = stripLine(this.lines.line(line, true));
      if (text === '') continue;
      if (wire.room === 0) await wire.space();
      if (!(await this.mayGoOn())) return;
      if (this.options.stands && /^M[01]\b/i.test(text)) {
        this.given = line;
        await wire.send('M400');
        this.wanted = 'pause';
        if (!(await this.mayGoOn(`The file waits for you: ${said(this.lines.line(line))}`))) return;
        continue;
      }
      this.modes.follow(text);
      this.lastCommand = text;
      this.given = line;
      if (this.marks.push({ number: wire.coming, line }) > MOST_MARKS) void this.sure;
      if (this.marks.length > MOST_MARKS) this.marks = this.marks.slice(MOST_MARKS / 2);
      void wire.send(text);
    }
    while (!this.over) {
      const taken = await wire.settle();
      if (!(await this.mayGoOn())) return;
      if (taken.ok && (await wire.send('M400')).ok && !wire.over) break;
    }
    if (this.over) return;
    await this.unnudge();
    if (await this.machine.isHot()) await this.machine.cool();
    if (wire.over) return this.broken(wire.over.text);
    this.become('finished');
  }

  /** Holds while it stands. @returns whether the next line may go */
  private async mayGoOn(why: string | null = null): Promise<boolean> {
    const { wire } = this.machine;
    for (;;) {
      if (this.over) return false;
      if (wire.over?.why === 'lost') {
        if (!(await this.findAgain(wire.over.text))) return false;
        continue;
      }
      if (wire.over) {
        await this.broken(wire.over.text);
        return false;
      }
      if (this.wanted === 'stop') {
        await this.end();
        return false;
      }
      if (this.wanted === 'run') return true;
      await this.stand(why);
    }
  }

  // ---- Standing still

  pause(): void {
    if (this.state !== 'printing') return;
    this.wanted = 'pause';
    this.become('pausing');
  }

  go(): void {
    if (this.state !== 'paused' && this.state !== 'pausing') return;
    this.wanted = 'run';
    this.wake?.();
  }

  stop(why: string | null = null): void {
    if (this.over || this.state === 'stopping') return;
    this.wanted = 'stop';
    // A machine that waits until it is warm takes nothing else before.
    if (HEATS.test(this.lastCommand)) this.machine.wire.shout('M108');
    this.become('stopping', why);
    this.wake?.();
  }

  /** Everything stops now; the machine has to be switched off and on after that. */
  emergency(): void {
    this.machine.wire.emergency();
    this.failed('It was stopped by the emergency stop.');
    this.wake?.();
  }

  private async stand(why: string | null): Promise<void> {
    const { machine } = this;
    await machine.wire.settle();
    await machine.each(['M400', 'G91', 'M83', `G1 E-${DRAWN} F1800`, `G1 Z${LIFTED} F600`, 'G90']);
    if (machine.wire.over || this.wish() !== 'pause') return;
    const keep = this.options.keepHeatS ?? KEEP_HEAT_S;
    this.letGoAt = (await machine.isHot()) ? performance.now() + keep * 1000 : null;
    this.become('paused', why);
    await this.asleep();
    this.letGoAt = null;
    if (machine.wire.over || this.wish() === 'stop') return;
    await this.warmAgain();
    await machine.each([
      'G91',
      'M83',
      `G1 Z-${LIFTED} F600`,
      `G1 E${DRAWN} F1800`,
      ...this.modes.restore(),
    ]);
    if (this.wish() === 'run') this.become('printing');
  }

  private async asleep(): Promise<void> {
    while (this.wish() === 'pause' && !this.machine.wire.over) {
      if (this.letGoAt !== null && performance.now() > this.letGoAt) {
        this.letGoAt = null;
        this.letGo = this.machine.heat;
        await this.machine.cool();
        this.become('paused', `${this.why ?? 'It stands'}. Heat was let go; it comes back first.`);
      }
      await this.sleep(500);
    }
  }

  /** Until something is pressed, or some ms. */
  private async sleep(ms: number): Promise<void> {
    await new Promise<void>((resolve) => {
      const timer = setTimeout(resolve, ms);
      this.wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
    this.wake = null;
  }

  private async warmAgain(): Promise<void> {
    if (!this.letGo) return;
    const { nozzle, bed } = this.letGo;
    this.letGo = null;
    if ((bed?.target ?? 0) > 0) await this.machine.ask(`M190 S${short(bed!.target)}`);
    if ((nozzle?.target ?? 0) > 0) await this.machine.ask(`M109 S${short(nozzle!.target)}`);
  }

  // ---- Ends

  /** Heaters and fan off, then the head off what was printed. */
  private async end(): Promise<void> {
    const { why } = this;
    await this.machine.cool();
    await this.unnudge();
    await this.machine.each(['G91', `G1 Z${CLEAR} F600`, 'G90']);
    if (this.over) return;
    if (this.machine.wire.over) return this.broken(this.machine.wire.over.text);
    if (why === null) this.become('stopped', 'It was stopped.');
    else this.become('failed', why);
  }

  /** The wire has ended while the machine may still be hot: it is told once more, with numbers from the start. */
  private async broken(why: string): Promise<void> {
    this.failed(why);
    const restarted = this.machine.wire.over?.why === 'restarted';
    if (!(await this.machine.wire.anew(COOLS_WITHIN_MS))) return;
    await this.machine.cool();
    // What has restarted has forgotten its nudges.
    if (restarted) this.nudged = 0;
    else await this.unnudge();
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
    const line = this.given;
    // Counted before it is taken: a second press comes on top of the first.
    const total = (this.nudged = tidy(this.nudged + mm));
    this.nudging.push(command.split(' ')[0]!.toUpperCase());
    const said = await this.machine.ask(command);
    this.nudging.pop();
    const against = said.ok ? said.value.find((one) => /unknown|error/i.test(one)) : undefined;
    if (said.ok && against === undefined)
      return ok({ line, mm, total, ...placeAt(this.lines, line) });
    this.nudged = tidy(this.nudged - mm);
    return said.ok
      ? fail(
          problem(
            'nudge',
            `The machine does not take ${command}: “${against!.slice(0, 80)}”.`,
            'Correct its row for the live nudge among the machine’s commands.',
          ),
        )
      : said;
  }

  /** What was nudged is taken back: what is found is what the file says and what was nudged, on top of what was before. */
  private async unnudge(): Promise<void> {
    const back = this.nudged === 0 ? null : this.options.nudgeLine?.(-this.nudged);
    if (back && (await this.machine.ask(back)).ok) this.nudged = 0;
  }

  private failed(why: string): void {
    if (this.over) return;
    this.become('failed', why);
  }

  /** Looks for a machine that was lost, asks it what it has, and stands until somebody says to go on. */
  private async findAgain(why: string): Promise<boolean> {
    const { machine } = this;
    const forS = this.options.findAgainS ?? FIND_AGAIN_S;
    const until = performance.now() + forS * 1000;
    if (this.wanted === 'run') this.wanted = 'pause';
    this.become('paused', `${why} It is being looked for.`);
    while (performance.now() < until && !this.over) {
      const back = await machine.again();
      if (back.ok && back.value !== null && machine.wire.over === null) {
        if (back.value === 'restarted') {
          // What it was told before is forgotten; it is told to stay cool under numbers of its own.
          this.nudged = 0;
          this.failed(`${why} The machine has restarted since: it counts its lines anew.`);
          if (await machine.wire.anew(COOLS_WITHIN_MS)) await machine.cool();
          return false;
        }
        if (!this.options.stands || this.wanted === 'stop') {
          machine.wire.drop();
          this.stop(`${why} The machine had taken everything up to line ${this.sure}.`);
          return true;
        }
        this.become(
          'paused',
          `The link was lost and is back. The machine has taken everything up to line ${this.sure}.`,
        );
        while (this.wish() === 'pause' && !machine.wire.over) await this.sleep(500);
        if (machine.wire.over) return true;
        if (this.wish() === 'stop') machine.wire.drop();
        else {
          machine.wire.go();
          this.become('printing');
        }
        return true;
      }
      await this.sleep(FIND_EVERY_MS);
    }
    const height =
      this.nudged === 0 ? '' : ` Its nozzle stands nudged by ${short(this.nudged)} mm.`;
    this.failed(`${why} It was not found again in ${Math.round(forS / 60)} min.${height}`);
    return false;
  }

  // ---- Heat

  private ask(): void {
    if (this.options.changed && this.state !== 'paused') this.options.changed(this.progress);
    if (this.asking || performance.now() - this.heatAt < ASK_MS) return;
    if (this.machine.wire.over || HEATS.test(this.lastCommand)) return;
    this.asking = true;
    void this.machine.wire.send('M105').then(() => {
      this.asking = false;
      this.heatAt = performance.now();
    });
  }

  private heat(heat: Temperatures): void {
    this.heatAt = performance.now();
    const wrong = this.over ? null : this.watch.look(heat, performance.now() / 1000);
    if (wrong && this.state !== 'stopping') this.stop(wrong);
  }
}

/** What the file says to the person, where it says something. */
const said = (line: string): string =>
  /^M[01]\s*(?:[SP]\d+\s*)*([^;]*)/i.exec(line.trim())?.[1]?.trim() ||
  /;\s*(.+)/.exec(line)?.[1]?.trim() ||
  'see to the machine, then go on';
