/** The program in the machine: takes lines, answers as machines do, and keeps what it did as a trace. */

import type { Bench } from '../core/bench/bench';
import type { Cornering } from '../core/bench/machine';
import { param, parseCommand, stripLine, type Command } from '../core/dialect/command';
import { NEED_NAMES, settingReader } from '../core/dialect/dialect';
import { Interpreter } from '../core/gcode/interpreter';
import { checksum } from '../core/gcode/read';
import { reportLines, type ReportValues } from '../core/dialect/report';
import type { Trace } from '../core/gcode/trace';
import { Heater } from './heater';
import type { Truths } from './truths';

/** Faults of the machine itself. */
export type Breakdown = { heater?: boolean };

const NUMBERED = /^N(\d+)\s*([^*]*)\*(\d{1,3})$/;
const HEATS = new Set(['M104', 'M109', 'M140', 'M190']);

export class Firmware {
  private readonly nozzle: Heater;
  private readonly bed: Heater;
  private interpreter: Interpreter;
  private readonly readSetting;
  /** Settings in force, those kept through a power cycle, and those of the factory. */
  private settings: ReportValues;
  private stored: ReportValues;
  private readonly factory: ReportValues;
  /** Number of the last line that was executed. */
  private last = 0;
  private numbered = false;
  private stopped = false;
  /** Every command that was executed, in order; for tests of the wire. */
  readonly executed: string[] = [];

  constructor(
    private readonly bench: Bench,
    truths: Truths,
    breakdown: Breakdown = {},
  ) {
    this.nozzle = new Heater(truths.heats.nozzle);
    this.nozzle.broken = breakdown.heater ?? false;
    this.bed = new Heater(truths.heats.bed);
    const { dialect, limits } = bench.machine;
    this.readSetting = settingReader(dialect);
    this.factory = {
      acceleration: { print: limits.printAcceleration, travel: limits.travelAcceleration },
      cornering: corneringValues(limits.cornering),
      advance: { advance: 0 },
      steps: { steps: 400, rotation: 8 },
    };
    this.stored = structuredClone(this.factory);
    this.settings = structuredClone(this.factory);
    this.interpreter = new Interpreter(bench.machine);
  }

  /** What was executed since the power came on. */
  trace(): Trace {
    return this.interpreter.trace.done(this.interpreter.line, 0, null);
  }

  /** Power off and on: what was not stored is gone, everything cools where it stands. */
  powerCycle(): void {
    this.settings = structuredClone(this.stored);
    this.interpreter = new Interpreter(this.bench.machine);
    this.nozzle.target = this.bed.target = 0;
    this.last = 0;
    this.numbered = false;
    this.stopped = false;
  }

  /** Lets simulated time pass, s. */
  wait(seconds: number): void {
    this.nozzle.run(seconds);
    this.bed.run(seconds);
  }

  /** Takes one line. @returns the lines that it answers; none for an empty line */
  receive(line: string): string[] {
    const text = line.trim();
    if (text === '') return [];
    if (text.startsWith('N') || (this.numbered && text !== 'M112')) {
      const parts = NUMBERED.exec(text);
      const whole = parts && checksum(text.slice(0, text.lastIndexOf('*'))) === Number(parts[3]);
      if (!whole)
        return [`Error: checksum or form of a line, last line ${this.last}`, ...this.again()];
      const [, digits, command] = parts;
      const number = Number(digits);
      const jump = /^M110\b/.test(command!);
      if (!jump && number <= this.last && this.numbered) return ['ok'];
      if (!jump && number !== this.last + 1)
        return [`Error: line ${number} came, ${this.last + 1} was expected`, ...this.again()];
      this.last = number;
      this.numbered = true;
      return this.execute(command!);
    }
    return this.execute(text);
  }

  private again(): string[] {
    return [`Resend: ${this.last + 1}`, 'ok'];
  }

  private execute(text: string): string[] {
    const command = parseCommand(text);
    if (!command) return ['ok'];
    if (this.stopped) return ['Error: stopped by M112; switch off and on again'];
    const answers = this.obey(command);
    this.executed.push(stripLine(text));
    return [...answers, 'ok'];
  }

  private obey(command: Command): string[] {
    const own = OWN[command.word];
    if (own) return own.call(this, command);
    const heat = HEATS.has(command.word) ? this.heat(command) : [];
    if (heat.some((line) => line.startsWith('Error'))) return heat;
    for (const { need, values } of this.readSetting(command))
      this.settings[need] = { ...this.settings[need], ...values };
    const { trace } = this.interpreter;
    const unknown = trace.unknown.size;
    this.interpreter.line++;
    this.interpreter.run(command);
    if (trace.unknown.size > unknown || trace.unknown.has(command.word))
      return [`echo: unknown command: ${command.word}`];
    return heat;
  }

  private heat(command: Command): string[] {
    const value = param(command, 'S') ?? param(command, 'R');
    if (value === null) return [];
    const { machine } = this.bench;
    const isBed = command.word === 'M140' || command.word === 'M190';
    const most = isBed ? machine.bedHottest : machine.extruder.hottest;
    if (value > most) return [`Error: ${value} is over the ${most} that this heater is rated for`];
    const heater = isBed ? this.bed : this.nozzle;
    heater.target = value;
    if (command.word === 'M104' || command.word === 'M140') return [];
    const seconds = heater.wait();
    if (seconds === Infinity) {
      this.stop();
      return ['Error: heating failed; the machine has stopped'];
    }
    (isBed ? this.nozzle : this.bed).run(seconds);
    return [this.temperatures()];
  }

  private temperatures(): string {
    const said = ({ celsius, target }: Heater) => `${celsius.toFixed(1)} /${target.toFixed(1)}`;
    return `T:${said(this.nozzle)} B:${said(this.bed)}`;
  }

  private stop(): void {
    this.stopped = true;
    this.nozzle.target = this.bed.target = 0;
  }

  static readonly own: Record<string, (this: Firmware, command: Command) => string[]> = {
    M105() {
      return [this.temperatures()];
    },
    M110: () => [],
    M112() {
      this.stop();
      return ['Error: stopped by M112; switch off and on again'];
    },
    M115: () => ['FIRMWARE: understudy, a simulated machine'],
    M500() {
      this.stored = structuredClone(this.settings);
      return ['echo: settings stored'];
    },
    M501() {
      this.settings = structuredClone(this.stored);
      return ['echo: stored settings loaded'];
    },
    M502() {
      this.settings = structuredClone(this.factory);
      return ['echo: factory settings loaded'];
    },
    M503() {
      const { dialect } = this.bench.machine;
      const known = NEED_NAMES.filter((need) => need in this.settings);
      const values = Object.fromEntries(known.map((need) => [need, this.settings[need]]));
      return reportLines(dialect, values).map((line) => `echo: ${line}`);
    },
  };
}

const OWN = Firmware.own;

function corneringValues(cornering: Cornering): Record<string, number> {
  if (cornering.model === 'jerk') return { x: cornering.x, y: cornering.y };
  if (cornering.model === 'square-corner') return { square: cornering.speed };
  return { deviation: cornering.deviation };
}
