/**
 * The program in the machine: takes lines as they come off the wire, keeps a few, does them one after the other in its
 * own time, and answers as machines do. Nothing in it grows with what it has done.
 */

import type { Bench } from '../core/bench/bench';
import { param, parseCommand, stripLine, type Command } from '../core/dialect/command';
import { CHANGES } from '../core/dialect/changes';
import { Interpreter } from '../core/gcode/interpreter';
import { checksum } from '../core/gcode/read';
import { MOVE } from '../core/gcode/trace';
import { Clock, type Speed } from './clock';
import { Heater, REACHED } from './heater';
import { Memory } from './memory';
import type { Truths } from './truths';

/** Faults of the machine itself, and how it works. */
export type Workings = {
  /** A heater that only cools. */
  heater?: boolean;
  /** How fast it lives; without it, waits take no time at all. */
  speed?: Speed;
  /** Says with every `ok` which line it was and how much room is left. */
  tellsRoom?: boolean;
  /** A line that it has taken already is damaged to it, instead of taken. */
  refusesRepeats?: boolean;
  /** Says no `ok` after it has asked for a line again. */
  curt?: boolean;
  /** Every command that was executed, for tests of the wire. */
  executed?: string[];
};

const NUMBERED = /^N(\d+)\s*([^*]*)\*(\d{1,3})$/;
const HEATS = new Set(['M104', 'M109', 'M140', 'M190']);
/** Obeyed at once, whatever else stands in line. */
const URGENT = /^(?:N\d+\s*)?(M112|M108|M410)\b/;

/** Commands that it keeps, and moves that it keeps ahead of the one it does. */
const COMMANDS = 4;
const MOVES = 16;
/** A line that is longer is thrown away, characters. */
const LONGEST_LINE = 4096;
/** Lines that wait to be read; a real one loses what comes beyond. */
const MOST_UNREAD = 5000;
/** How often it says that it is busy, and how warm it is while it heats, real ms. */
const [BUSY_MS, WARM_MS] = [2000, 1000];
/** It looks at least so often whether it is warm, real ms. */
const LOOK_MS = 250;
/** How long homing and levelling take, s. */
const HOMING_S = 8;
const TUNING_S = 90;

type Line = { text: string; number: number | null };

export class Firmware {
  /** Where its answers go. */
  say: (line: string) => void = () => undefined;
  private readonly clock: Clock;
  private readonly memory: Memory;
  private readonly nozzle: Heater;
  private readonly bed: Heater;
  private interpreter: Interpreter;
  /** Lines that came and were not looked at yet, and those that were and wait. */
  private unread: string[] = [];
  private queue: Line[] = [];
  /** Number of the last line that was taken. */
  private last = 0;
  private numbered = false;
  private stopped = false;
  /** What it waits for; until then nothing else is done. */
  private waiting: { for: 'heat' | 'person' | 'time'; cancel: () => void } | null = null;
  private running = false;
  private reporting: NodeJS.Timeout | null = null;
  /** When each move in the buffer ends, s of its clock. */
  private ends: number[] = [];
  private at = { x: 0, y: 0, z: 0 };
  private fed = 0;
  private nudged = 0;

  constructor(
    private readonly bench: Bench,
    truths: Truths,
    private readonly workings: Workings = {},
  ) {
    this.clock = new Clock(workings.speed ?? Infinity);
    this.memory = new Memory(bench);
    this.nozzle = new Heater(truths.heats.nozzle);
    this.nozzle.broken = workings.heater ?? false;
    this.bed = new Heater(truths.heats.bed);
    this.interpreter = new Interpreter(bench.machine);
  }

  /** Power off and on: what was not stored is gone, everything cools where it stands. */
  powerCycle(): void {
    this.pass();
    this.quit();
    this.memory.load();
    this.interpreter = new Interpreter(this.bench.machine);
    this.at = { x: 0, y: 0, z: 0 };
    this.nozzle.target = this.bed.target = 0;
    this.last = this.fed = this.nudged = 0;
    this.numbered = false;
    this.stopped = false;
    this.say('start');
  }

  /** Ends what it does and forgets what waits. */
  private quit(): void {
    this.waiting?.cancel();
    this.waiting = null;
    this.queue = [];
    this.unread = [];
    this.ends = [];
    if (this.reporting) clearInterval(this.reporting);
    this.reporting = null;
  }

  /** Nothing runs on after this. */
  close(): void {
    this.quit();
    this.say = () => undefined;
  }

  /** Lets simulated time pass by itself, s. */
  wait(seconds: number): void {
    this.clock.skip(seconds);
    this.pass();
  }

  /** Takes one line as it came, without its end. */
  receive(line: string): void {
    const text = line.trim();
    if (text === '' || text.length > LONGEST_LINE) return;
    const urgent = URGENT.exec(text);
    if (urgent && this.whole(text)) this.urgent(urgent[1]!);
    else if (this.unread.length < MOST_UNREAD) this.unread.push(text);
    this.run();
  }

  private whole(text: string): boolean {
    const parts = NUMBERED.exec(text);
    return (
      !text.startsWith('N') ||
      (parts !== null && checksum(text.slice(0, text.lastIndexOf('*'))) === Number(parts[3]))
    );
  }

  private urgent(word: string): void {
    if (word === 'M112') {
      this.quit();
      this.stop();
      return this.say('Error: stopped by M112; switch off and on again');
    }
    if (word === 'M410') {
      this.queue = [];
      this.ends = [];
    }
    const now = this.waiting;
    if (now && (word === 'M410' || now.for !== 'time')) {
      this.waiting = null;
      now.cancel();
      this.ok(null);
    }
  }

  /** Reads what came as far as there is room, and does what waits as far as nothing holds it up. */
  private run(): void {
    if (this.running) return;
    this.running = true;
    for (;;) {
      while (this.queue.length < COMMANDS && this.unread.length > 0)
        this.read(this.unread.shift()!);
      if (this.waiting || this.queue.length === 0) break;
      const line = this.queue.shift()!;
      this.execute(line);
    }
    this.running = false;
  }

  /** Numbers and sums are looked at when a line is read, not when it is done. */
  private read(text: string): void {
    if (!text.startsWith('N') && !this.numbered)
      return void this.queue.push({ text, number: null });
    const parts = NUMBERED.exec(text);
    if (!parts || !this.whole(text)) {
      this.say(`Error: checksum or form of a line, last line ${this.last}`);
      return this.again();
    }
    const number = Number(parts[1]);
    const command = parts[2]!;
    const jump = /^M110\b/.test(command);
    if (!jump && number <= this.last && this.numbered && !this.workings.refusesRepeats)
      return this.ok(null);
    if (!jump && number !== this.last + 1) {
      this.say(`Error: line ${number} came, ${this.last + 1} was expected`);
      return this.again();
    }
    this.last = number;
    this.numbered = true;
    this.queue.push({ text: command, number });
  }

  private again(): void {
    this.say(`Resend: ${this.last + 1}`);
    if (!this.workings.curt) this.say('ok');
  }

  private ok(number: number | null, more = ''): void {
    const room =
      this.workings.tellsRoom && number !== null
        ? ` N${number} P${MOVES - this.ends.length} B${COMMANDS - 1 - Math.min(COMMANDS - 1, this.queue.length)}`
        : '';
    this.say(`ok${room}${more}`);
  }

  private execute({ text, number }: Line): void {
    const command = parseCommand(text);
    if (!command) return this.ok(number);
    if (this.stopped) {
      if (/^(?:M999|FIRMWARE_RESTART|RESTART)$/.test(command.word)) return this.powerCycle();
      return this.say('Error: stopped by M112; switch off and on again');
    }
    this.workings.executed?.push(stripLine(text));
    const own = OWN[command.word];
    if (own) return own.call(this, command, number);
    if (HEATS.has(command.word)) return this.heat(command, number);
    const nudged = this.memory.take(command);
    this.nudged += nudged;
    this.follow(command, number);
  }

  /** Lets the heaters have the time that has passed. */
  private pass(): void {
    const seconds = this.clock.elapsed();
    if (seconds <= 0) return;
    this.nozzle.run(seconds);
    this.bed.run(seconds);
  }

  // ---- Moves

  /** What it means for a machine is known to the reader of files; the time that its moves take is figured here. */
  private follow(command: Command, number: number | null): void {
    const { trace } = this.interpreter;
    trace.clear();
    this.interpreter.line++;
    this.interpreter.run(command);
    const { moves, changes, unknown } = trace.done(0, 0, null);
    if (unknown.size > 0) this.say(`echo: unknown command: ${command.word}`);
    let seconds = 0;
    let homed = false;
    for (let i = 0; i < moves.count; i++) {
      const to = { x: moves.x[i]!, y: moves.y[i]!, z: moves.z[i]! };
      const way = Math.hypot(to.x - this.at.x, to.y - this.at.y, to.z - this.at.z);
      homed ||= moves.kind[i] === MOVE.home;
      const speed = moves.speed[i]! > 0 ? moves.speed[i]! : 50;
      const length = way > 0 ? way : Math.abs(moves.e[i]!);
      // Between a start from rest and one on the fly.
      seconds += length / speed + (0.3 * Math.min(speed, 200)) / this.memory.acceleration;
      this.fed += moves.e[i]!;
      this.at = to;
    }
    let dwell = 0;
    let person = false;
    for (let i = 0; i < changes.count; i++) {
      const { name, value } = this.changeOf(changes, i);
      if (name === 'dwell') dwell += value;
      if (name === 'pause') person = true;
    }
    if (homed) return this.whenStill(() => this.home(number));
    if (person) return this.whenStill(() => this.hold('person', Infinity, () => this.ok(number)));
    if (dwell > 0) return this.whenStill(() => this.hold('time', dwell, () => this.ok(number)));
    if (command.word === 'M400') return this.whenStill(() => this.ok(number));
    if (moves.count === 0) return this.ok(number);
    this.whenRoom(() => {
      const now = this.clock.now();
      this.ends.push(Math.max(now, this.ends.at(-1) ?? now) + seconds);
      this.ok(number);
    });
  }

  private home(number: number | null): void {
    this.clock.readying(true);
    this.hold('time', HOMING_S, () => this.ok(number));
  }

  private changeOf(changes: { code: Uint8Array; value: Float64Array }, i: number) {
    return { name: CHANGES[changes.code[i]!]!, value: changes.value[i]! };
  }

  private done(): void {
    const now = this.clock.now();
    while (this.ends.length > 0 && this.ends[0]! <= now) this.ends.shift();
  }

  private whenRoom(then: () => void): void {
    this.done();
    if (this.ends.length < MOVES) return then();
    this.hold('time', this.ends[0]! - this.clock.now(), () => this.whenRoom(then));
  }

  private whenStill(then: () => void): void {
    this.done();
    const last = this.ends.at(-1);
    if (last === undefined) return then();
    this.hold('time', last - this.clock.now(), () => this.whenStill(then));
  }

  /** Does nothing else until time has passed, or until it is woken; says meanwhile that it is busy. */
  private hold(kind: 'person' | 'time', seconds: number, then: () => void): void {
    if (this.clock.instant) {
      // Nobody presses a button in no time: it goes on by itself.
      this.clock.skip(seconds === Infinity ? 1 : seconds);
      this.pass();
      return then();
    }
    const busy = setInterval(
      () => this.say(`echo:busy: ${kind === 'person' ? 'paused for user' : 'processing'}`),
      BUSY_MS,
    );
    const quiet = this.clock.after(seconds, () => {
      cancel();
      this.waiting = null;
      then();
      this.run();
    });
    // However it ends, what comes next is no getting ready.
    const cancel = () => {
      clearInterval(busy);
      quiet();
      this.clock.readying(false);
    };
    this.waiting = { for: kind, cancel };
  }

  // ---- Heat

  private heat(command: Command, number: number | null): void {
    const value = param(command, 'S') ?? param(command, 'R');
    if (value === null) return this.ok(number);
    const { machine } = this.bench;
    const isBed = command.word === 'M140' || command.word === 'M190';
    const most = isBed ? machine.bedHottest : machine.extruder.hottest;
    if (value > most) {
      this.say(`Error: ${value} is over the ${most} that this heater is rated for`);
      return this.ok(number);
    }
    this.pass();
    const heater = isBed ? this.bed : this.nozzle;
    heater.target = value;
    // A heater that is switched off is not waited for.
    if (command.word === 'M104' || command.word === 'M140' || value === 0) return this.ok(number);
    this.whenStill(() => this.warm(heater, number));
  }

  private warm(heater: Heater, number: number | null): void {
    if (this.clock.instant) {
      const seconds = heater.wait();
      if (seconds === Infinity) return this.failed();
      (heater === this.bed ? this.nozzle : this.bed).run(seconds);
      this.clock.skip(seconds);
      this.clock.elapsed();
      this.say(` ${this.temperatures()}`);
      return this.ok(number);
    }
    this.clock.readying(true);
    const began = this.clock.now();
    const from = heater.celsius;
    const tell = setInterval(() => {
      this.pass();
      this.say(` ${this.temperatures()} W:?`);
    }, WARM_MS);
    const look = setInterval(
      () => {
        this.pass();
        const there = Math.abs(heater.celsius - heater.target) <= REACHED;
        // Near its target a slow plate rises by less than a degree in that time.
        const risen = heater.celsius > from + 1 || heater.target < from + COLD;
        const fails = !risen && this.clock.now() - began > FAILS_AFTER_S;
        if (!there && !fails) return;
        this.waiting?.cancel();
        this.waiting = null;
        if (fails) return this.failed();
        this.ok(number);
        this.run();
      },
      Math.min(LOOK_MS, Math.max(5, this.clock.realMs(0.25))),
    );
    this.waiting = {
      for: 'heat',
      cancel: () => {
        clearInterval(tell);
        clearInterval(look);
        this.clock.readying(false);
      },
    };
  }

  private failed(): void {
    this.stop();
    this.queue = [];
    this.say('Error: heating failed; the machine has stopped');
  }

  private temperatures(): string {
    const said = ({ celsius, target }: Heater) => `${celsius.toFixed(1)} /${target.toFixed(1)}`;
    return `T:${said(this.nozzle)} B:${said(this.bed)} @:0 B@:0`;
  }

  private stop(): void {
    this.stopped = true;
    this.nozzle.target = this.bed.target = 0;
  }

  private report(everyS: number): void {
    if (this.reporting) clearInterval(this.reporting);
    this.reporting = null;
    if (!(everyS > 0)) return;
    this.reporting = setInterval(() => {
      this.pass();
      this.say(` ${this.temperatures()}`);
    }, everyS * 1000);
    this.reporting.unref();
  }

  /** Finds constants for the heater of the nozzle: swings about the temperature a few times. */
  private tune(target: number, number: number | null): void {
    this.pass();
    this.nozzle.target = target;
    this.whenStill(() =>
      this.hold('time', TUNING_S, () => {
        this.pass();
        this.nozzle.target = 0;
        // Slower heaters want more of everything.
        const pace = this.nozzle.constant / 20;
        this.say(
          `Kp: ${(18 * pace).toFixed(2)} Ki: ${(1.1 * pace).toFixed(2)} Kd: ${(72 * pace).toFixed(2)}`,
        );
        this.say('tuning of the heater has ended');
        this.ok(number);
      }),
    );
  }

  static readonly own: Record<
    string,
    (this: Firmware, command: Command, number: number | null) => void
  > = {
    M105(_, number) {
      this.pass();
      this.ok(number, ` ${this.temperatures()}`);
    },
    M108(_, number) {
      this.ok(number);
    },
    M110(command, number) {
      this.last = param(command, 'N') ?? number ?? this.last;
      this.ok(number);
    },
    M114(_, number) {
      const { x, y, z } = this.at;
      const place = (value: number) => value.toFixed(2);
      this.say(
        `X:${place(x)} Y:${place(y)} Z:${place(z)} E:${place(this.fed)} Count X:0 Y:0 Z:${Math.round(400 * (z + this.nudged))}`,
      );
      this.ok(number);
    },
    M115(_, number) {
      this.say('FIRMWARE_NAME: understudy, a simulated machine EXTRUDER_COUNT:1');
      for (const can of ['AUTOREPORT_TEMP', 'EMERGENCY_PARSER']) this.say(`Cap:${can}:1`);
      this.ok(number);
    },
    M155(command, number) {
      this.report(param(command, 'S') ?? 0);
      this.ok(number);
    },
    M303(command, number) {
      this.tune(param(command, 'S') ?? 200, number);
    },
    PID_CALIBRATE(command, number) {
      this.tune(param(command, 'TARGET') ?? 200, number);
    },
    M301(command, number) {
      this.memory.take(command);
      this.ok(number);
    },
    TURN_OFF_HEATERS(_, number) {
      this.pass();
      this.nozzle.target = this.bed.target = 0;
      this.ok(number);
    },
    M410(_, number) {
      this.ends = [];
      this.ok(number);
    },
    M500(_, number) {
      this.memory.store();
      this.say('echo: settings stored');
      this.ok(number);
    },
    M501(_, number) {
      this.memory.load();
      this.say('echo: stored settings loaded');
      this.ok(number);
    },
    M502(_, number) {
      this.memory.reset();
      this.say('echo: factory settings loaded');
      this.ok(number);
    },
    M503(_, number) {
      for (const line of this.memory.report()) this.say(`echo:  ${line}`);
      this.ok(number);
    },
    M851(command, number) {
      this.memory.take(command);
      this.ok(number);
    },
    M999() {
      this.powerCycle();
    },
    FIRMWARE_RESTART() {
      this.powerCycle();
    },
  };
}

/** A heater that has not risen at all by then is broken, s. */
const FAILS_AFTER_S = 20;
/** Only one that is this far below its target is looked at, °C. */
const COLD = 10;

const OWN = Firmware.own;
