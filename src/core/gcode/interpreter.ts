/** What each command means for a machine: modes, places, settings. One instance reads one file. */

import { tidy } from '../numbers';
import { arcPoints } from './arc';
import { param, type Command } from '../dialect/command';
import {
  DIALECTS,
  firmwareOf,
  settingReader,
  type Dialect,
  type Firmware,
} from '../dialect/dialect';
import { macroBits, macroHeats, type MacroSaid } from './macro';
import { type Change } from '../dialect/changes';
import { MOVE, TraceBuilder } from './trace';

const INCH = 25.4;

/** Numbers larger than this, mm or mm/min, come from a broken file. */
export const LARGEST_NUMBER = 1e7;

/** What must be known of a machine to read a file that is meant for it. */
export type ReadFor = {
  /** Tried first; a file from elsewhere may use any column's commands. */
  dialect: Dialect;
  /** What firmware retraction does until the file says otherwise, mm, mm/s. */
  retraction?: { distance: number; speed: number; lift: number };
  macros?: readonly MacroSaid[] | undefined;
};

const MOVE_KEYS = ['X', 'Y', 'Z', 'E', 'F'];

/** Commands that change nothing that is followed here, but that machines know. */
const HARMLESS = new Set(
  'G17 G29 G80 M17 M20 M21 M73 M105 M110 M111 M114 M115 M117 M118 M119 M155 M300 M400 M420 M503 M501 M31 M75 M77 BED_MESH_CALIBRATE BED_MESH_PROFILE BED_MESH_CLEAR Z_TILT_ADJUST QUAD_GANTRY_LEVEL EXCLUDE_OBJECT_DEFINE EXCLUDE_OBJECT_START EXCLUDE_OBJECT_END SET_PRINT_STATS_INFO RESPOND'.split(
    ' ',
  ),
);

/** A command by name, as machines with macros take them; everything else is a letter and a number. */
const NAMED = /^[A-Z_][A-Z_0-9]*[A-Z_][A-Z_0-9]*$/;

export class Interpreter {
  readonly trace = new TraceBuilder();
  line = 0;
  /** Where the nozzle is, in machine coordinates; E is the sum of what was fed. */
  private x = 0;
  private y = 0;
  private z = 0;
  private e = 0;
  /** What is added to a written coordinate to get the place: changed by G92. */
  private shiftX = 0;
  private shiftY = 0;
  private shiftZ = 0;
  private shiftE = 0;
  private relative = false;
  private relativeE = false;
  private unit = 1;
  private feed = 0; // mm/s
  private pace = 1;
  private flow = 1;
  private tool = 0;
  private readonly firmwareRetract;
  /** How far firmware retraction holds the head above where the file sends it, mm. */
  private hop = 0;
  private readonly readers: ReturnType<typeof settingReader>[];
  private readonly kind: Firmware;
  private readonly macros: ReadonlyMap<string, MacroSaid>;
  /** Temperatures asked for, by tool; what a command that only waits waits for. */
  private readonly targets = new Map<number, number>();
  private bedTarget = 0;

  constructor(machine: ReadFor | null) {
    const dialect = machine?.dialect ?? null;
    const columns = [...(dialect ? [dialect] : []), ...Object.values(DIALECTS)];
    this.readers = columns.map((column) => settingReader(column));
    this.kind = firmwareOf(dialect);
    const { distance = 0, speed = 0, lift = 0 } = machine?.retraction ?? {};
    this.firmwareRetract = { length: distance, speed, lift, drawn: false, extra: 0, back: 0 };
    this.macros = new Map((machine?.macros ?? []).map((one) => [one.name, one]));
  }

  /** Whether a written E is a step from where E is. On D, relative places make it one too. */
  private get stepsE(): boolean {
    return this.relativeE || (this.kind === 'D' && this.relative);
  }

  /** G0 and G1. NaN stands for a parameter that is not there. All in written units. */
  move(x: number, y: number, z: number, e: number, f: number): void {
    if (f === f) this.feed = (f * this.unit) / 60;
    const unit = this.unit;
    const toX = x !== x ? this.x : this.relative ? this.x + x * unit : x * unit + this.shiftX;
    const toY = y !== y ? this.y : this.relative ? this.y + y * unit : y * unit + this.shiftY;
    const toZ =
      z !== z ? this.z : this.relative ? this.z + z * unit : z * unit + this.shiftZ + this.hop;
    let fed = 0;
    if (e === e) {
      const toE = this.stepsE ? this.e + e * unit : e * unit + this.shiftE;
      fed = toE - this.e;
      this.e = toE;
    }
    this.go(toX, toY, toZ, fed);
  }

  private go(toX: number, toY: number, toZ: number, fed: number): void {
    const still = toX === this.x && toY === this.y && toZ === this.z;
    if (still && fed === 0) return;
    const kind = still
      ? fed < 0
        ? MOVE.retract
        : MOVE.restart
      : fed > 0
        ? MOVE.extrude
        : MOVE.travel;
    this.x = toX;
    this.y = toY;
    this.z = toZ;
    this.trace.addMove(
      toX,
      toY,
      toZ,
      fed * this.flow,
      this.feed * this.pace,
      this.line,
      kind,
      this.tool,
    );
  }

  private arc(command: Command, clockwise: boolean): void {
    const p = (key: string) => param(command, key) ?? NaN;
    const unit = this.unit;
    const place = (written: number, now: number, shift: number) =>
      Number.isNaN(written) ? now : this.relative ? now + written * unit : written * unit + shift;
    const to = {
      x: place(p('X'), this.x, this.shiftX),
      y: place(p('Y'), this.y, this.shiftY),
    };
    const toZ = place(p('Z'), this.z, this.shiftZ + this.hop);
    const points = arcPoints(
      { x: this.x, y: this.y },
      to,
      { i: p('I') * unit, j: p('J') * unit, r: p('R') * unit },
      clockwise,
    );
    if (!points) {
      this.trace.addProblem(
        this.line,
        'This arc has no centre that fits its ends.',
        'Give I and J, or an R of at least half the distance.',
      );
      return this.move(p('X'), p('Y'), p('Z'), p('E'), p('F'));
    }
    if (!Number.isNaN(p('F'))) this.feed = (p('F') * unit) / 60;
    let fed = 0;
    if (!Number.isNaN(p('E'))) {
      const toE = this.stepsE ? this.e + p('E') * unit : p('E') * unit + this.shiftE;
      fed = toE - this.e;
      this.e = toE;
    }
    const fromZ = this.z;
    points.forEach(({ x, y }, i) => {
      const share = (i + 1) / points.length;
      this.go(x, y, fromZ + (toZ - fromZ) * share, fed / points.length);
    });
  }

  /** Any command in its plain reading. */
  run(command: Command): void {
    if (this.numbersBroken(command)) return;
    const handler = Object.hasOwn(HANDLERS, command.word) ? HANDLERS[command.word] : undefined;
    if (handler) return handler.call(this, command);
    if (/^T\d+$/.test(command.word)) return this.selectTool(Number(command.word.slice(1)));
    for (const read of this.readers) {
      const changes = read(command);
      if (changes.length === 0) continue;
      for (const { values } of changes) {
        for (const [name, value] of Object.entries(values)) this.change(name as Change, value);
      }
      return;
    }
    if (HARMLESS.has(command.word)) return;
    const said = this.macros.get(command.word);
    if (said) return this.macro(said, command);
    this.trace.addUnknown(command.word, this.line);
    if (NAMED.test(command.word)) this.change('macro', macroBits(null));
  }

  /** A named command of which the user has said what it does. */
  private macro(said: MacroSaid, command: Command): void {
    this.change('macro', macroBits(said));
    if (said.homes) this.home(true, true, true);
    if (!said.heats) return;
    const { nozzle, bed } = macroHeats(command);
    if (nozzle !== null) this.heatTo(this.tool, nozzle, true);
    if (bed !== null) this.heatBedTo(bed, true);
  }

  private numbersBroken(command: Command): boolean {
    for (const [key, text] of command.params) {
      const moves = /^G[0-3]$/.test(command.word) && MOVE_KEYS.includes(key);
      if (!moves && (key.length > 1 || !/^[-+\d.]/.test(text) || text.includes(':'))) continue;
      const value = text === '' ? NaN : Number(text);
      if (!(Math.abs(value) <= LARGEST_NUMBER)) {
        this.trace.addProblem(
          this.line,
          `${command.word} ${key}${text.slice(0, 20)} is not a number that a machine can use.`,
          `Give ${key} a plain number within ±${LARGEST_NUMBER}.`,
        );
        return true;
      }
    }
    return false;
  }

  change(name: Change, value: number, tool = this.tool): void {
    this.trace.addChange(name, value, this.line, tool);
  }

  private selectTool(tool: number): void {
    this.tool = Math.min(tool, 255);
    this.change('tool', tool);
  }

  static readonly handlers: Record<string, (this: Interpreter, command: Command) => void> = {
    G0: Interpreter.linear,
    G1: Interpreter.linear,
    G2(command) {
      this.arc(command, true);
    },
    G3(command) {
      this.arc(command, false);
    },
    G4(command) {
      this.change('dwell', (param(command, 'P') ?? 0) / 1000 + (param(command, 'S') ?? 0));
    },
    M0() {
      this.change('pause', 1);
    },
    M1() {
      this.change('pause', 1);
    },
    G10(command) {
      // With a tool it sets that tool's offsets or temperatures, on firmware that has both.
      if (command.params.has('P') && this.kind === 'C') return this.toolHeat(command);
      if (command.params.size > 0 && !command.params.has('S')) return; // tool offsets
      this.firmware(true);
    },
    G11() {
      this.firmware(false);
    },
    G20() {
      this.unit = INCH;
    },
    G21() {
      this.unit = 1;
    },
    G28(command) {
      const named = ['X', 'Y', 'Z'].map((axis) => command.params.has(axis));
      const all = !named.includes(true);
      const [x, y, z] = named.map((given) => given || all);
      this.home(x!, y!, z!);
    },
    // On A and B these hold for the extruder as well, and M82 or M83 after them changes it alone.
    G90() {
      this.relative = false;
      if (this.kind === 'AB') this.relativeE = false;
    },
    G91() {
      this.relative = true;
      if (this.kind === 'AB') this.relativeE = true;
    },
    G92(command) {
      const at = (key: string) => {
        const value = param(command, key);
        return value === null ? null : value * this.unit;
      };
      const all = command.params.size === 0 ? 0 : null;
      this.shiftX = this.x - (at('X') ?? all ?? this.x - this.shiftX);
      this.shiftY = this.y - (at('Y') ?? all ?? this.y - this.shiftY);
      this.shiftZ = this.z - (at('Z') ?? all ?? this.z - this.shiftZ);
      this.shiftE = this.e - (at('E') ?? all ?? this.e - this.shiftE);
    },
    M82() {
      this.relativeE = false;
    },
    M83() {
      this.relativeE = true;
    },
    M104: Interpreter.heat('nozzle', null),
    M109: Interpreter.heat('nozzle', 'wait-nozzle'),
    M140: Interpreter.heat('bed', null),
    M190: Interpreter.heat('bed', 'wait-bed'),
    M116() {
      for (const [tool, value] of this.targets) this.change('wait-nozzle', value, tool);
      if (this.bedTarget > 0) this.change('wait-bed', this.bedTarget);
    },
    M568(command) {
      this.toolHeat(command);
    },
    TURN_OFF_HEATERS() {
      this.heatTo(0, 0, false);
      this.heatTo(1, 0, false);
      this.heatBedTo(0, false);
    },
    SET_HEATER_TEMPERATURE(command) {
      const value = param(command, 'TARGET') ?? 0;
      const heater = (command.params.get('HEATER') ?? '').toLowerCase();
      if (heater === 'heater_bed') this.heatBedTo(value, false);
      else if (/^extruder\d?$/.test(heater)) this.heatTo(toolOf(heater), value, false);
    },
    TEMPERATURE_WAIT(command) {
      const least = param(command, 'MINIMUM');
      const sensor = (command.params.get('SENSOR') ?? '').toLowerCase();
      if (least === null) return;
      if (sensor === 'heater_bed') this.change('wait-bed', least);
      else if (/^extruder\d?$/.test(sensor)) this.change('wait-nozzle', least, toolOf(sensor));
    },
    M106(command) {
      // Fans with another index than 0 cool something else than the print.
      if ((param(command, 'P') ?? 0) !== 0) return;
      const written = param(command, 'S') ?? 255;
      // Firmware of column C takes a share up to 1 as well.
      const share = this.kind === 'C' && written <= 1 ? written : written / 255;
      this.change('fan', Math.min(1, Math.max(0, share)));
    },
    M107(command) {
      if ((param(command, 'P') ?? 0) === 0) this.change('fan', 0);
    },
    M18: Interpreter.motorsOff,
    M84: Interpreter.motorsOff,
    M207(command) {
      const { length, speed, lift } = this.firmwareRetract;
      this.firmwareRetract.length = param(command, 'S') ?? length;
      this.firmwareRetract.speed = (param(command, 'F') ?? speed * 60) / 60;
      this.firmwareRetract.lift = param(command, 'Z') ?? lift;
    },
    // What is pushed beyond what was drawn back, and how fast.
    M208(command) {
      const { extra, back } = this.firmwareRetract;
      this.firmwareRetract.extra = param(command, 'S') ?? extra;
      this.firmwareRetract.back = (param(command, 'F') ?? back * 60) / 60;
    },
    SET_RETRACTION(command) {
      const { length, speed, extra, back } = this.firmwareRetract;
      this.firmwareRetract.extra = param(command, 'UNRETRACT_EXTRA_LENGTH') ?? extra;
      this.firmwareRetract.back = param(command, 'UNRETRACT_SPEED') ?? back;
      this.firmwareRetract.length = param(command, 'RETRACT_LENGTH') ?? length;
      this.firmwareRetract.speed = param(command, 'RETRACT_SPEED') ?? speed;
    },
    M220(command) {
      const percent = param(command, 'S');
      if (percent === null) return;
      this.pace = percent / 100;
      this.change('pace', this.pace);
    },
    M221(command) {
      const percent = param(command, 'S');
      if (percent === null) return;
      this.flow = percent / 100;
      this.change('flow', this.flow);
    },
    M204(command) {
      // Older lines give one value for both.
      const both = param(command, 'S');
      const print = param(command, 'P') ?? both;
      const travel = param(command, 'T') ?? both;
      if (print !== null) this.change('print', print);
      if (travel !== null) this.change('travel', travel);
    },
    M201: Interpreter.limit,
    M203: Interpreter.limit,
    M500() {
      this.change('stored', 1);
    },
  };

  private static linear(this: Interpreter, command: Command): void {
    const p = (key: string) => param(command, key) ?? NaN;
    this.move(p('X'), p('Y'), p('Z'), p('E'), p('F'));
  }

  private static heat(target: 'nozzle' | 'bed', wait: 'wait-nozzle' | 'wait-bed' | null) {
    return function (this: Interpreter, command: Command): void {
      const value = param(command, 'S') ?? param(command, 'R');
      if (value === null) return;
      const tool =
        target === 'bed' ? 0 : Math.min(255, Math.max(0, param(command, 'T') ?? this.tool));
      if (target === 'bed') this.heatBedTo(value, wait !== null);
      else this.heatTo(tool, value, wait !== null);
    };
  }

  private heatTo(tool: number, value: number, wait: boolean): void {
    this.targets.set(tool, value);
    this.change('nozzle', value, tool);
    if (wait) this.change('wait-nozzle', value, tool);
  }

  private heatBedTo(value: number, wait: boolean): void {
    this.bedTarget = value;
    this.change('bed', value, 0);
    if (wait) this.change('wait-bed', value, 0);
  }

  /** Temperature of a tool on column C: S while it prints; below zero means off. */
  private toolHeat(command: Command): void {
    const value = param(command, 'S');
    if (value === null) return;
    const tool = Math.min(255, Math.max(0, param(command, 'P') ?? this.tool));
    this.heatTo(tool, Math.max(0, value), false);
  }

  private home(x: boolean, y: boolean, z: boolean): void {
    if (x) this.x = this.shiftX = 0;
    if (y) this.y = this.shiftY = 0;
    if (z) this.z = this.shiftZ = 0;
    this.change('home', (x ? 1 : 0) + (y ? 2 : 0) + (z ? 4 : 0));
    this.trace.addMove(this.x, this.y, this.z, 0, 0, this.line, MOVE.home, this.tool);
  }

  private static limit(this: Interpreter): void {
    this.change('limit', 1);
  }

  private static motorsOff(this: Interpreter, command: Command): void {
    // `M84 S60` only sets the idle time.
    if (!command.params.has('S')) this.change('motors-off', 1);
  }

  private firmware(draw: boolean): void {
    const { length, speed, lift, drawn, extra, back } = this.firmwareRetract;
    if (draw === drawn) return;
    this.firmwareRetract.drawn = draw;
    const feed = this.feed;
    if (speed > 0) this.feed = !draw && back > 0 ? back : speed;
    // Draws back, then lifts; comes down, then pushes.
    const lifted = tidy(this.z + (draw ? lift : -this.hop));
    const lifts = draw ? lift > 0 : this.hop > 0;
    this.hop = draw ? lift : 0;
    if (draw) this.go(this.x, this.y, this.z, -length);
    if (lifts) this.go(this.x, this.y, lifted, 0);
    if (!draw) this.go(this.x, this.y, this.z, length + extra);
    this.feed = feed;
  }
}

/** `extruder` is the first tool, `extruder1` the second. */
const toolOf = (heater: string): number => Number(heater.replace('extruder', '') || 0);

const HANDLERS = Interpreter.handlers;
