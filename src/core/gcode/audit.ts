/** Audit: what a file would do to a machine, in findings that can be acted on. Works on the trace alone. */

import { z } from 'zod';
import type { Bench } from '../bench/bench';
import { bedBox, insideBed, BED_SLACK, type Box } from '../bench/bed';
import { COLD_ZONE } from '../bench/machine';
import { MATERIALS } from '../bench/materials';
import { roundArea } from '../deposit/bead';
import { settingInfo } from '../bench/settings';
import { short } from '../numbers';
import { Confirmed, confirmRungs, NOTHING_ASKED, type Asked } from './confirm';
import { Remark } from './remark';
import { passesOf } from './passes';
import { leftBehind } from './left-behind';
import { fedSinceMark } from './marked';
import { MACRO } from './macro';
import { firstStroke } from './print-start';
import { CHANGES, type Change } from '../dialect/changes';
import { changeAt, MOVE, type Trace } from './trace';

export const Audit = z.object({
  findings: z.array(Remark),
  /** For a ladder made by Ash Ladder: every rung with the value really in force. */
  rungs: z.array(Confirmed),
  /** Where plastic is laid, mm; null when none is. */
  box: z
    .object({ minX: z.number(), minY: z.number(), maxX: z.number(), maxY: z.number() })
    .nullable(),
  /** Highest and lowest layer with plastic, mm. */
  z: z.object({ low: z.number(), high: z.number() }).nullable(),
  /** Filament fed net of retraction, mm, and its weight, g. */
  filament: z.number(),
  grams: z.number(),
  /** Hottest nozzle and bed asked for, °C. */
  hottest: z.object({ nozzle: z.number(), bed: z.number() }),
});
export type Audit = z.infer<typeof Audit>;

/** Tools that a trace can name. */
const TOOLS = 256;
/** Sums of what is drawn back carry five decimals, mm. */
const DRAWN_SLACK = 1e-3;

/** A speed may go over an axis limit by this share before it is told: feed rates are whole mm/min. */
const SPEED_SLACK = 1.005;

/** @param asked what the plan that the file carries asks for; nothing for a file from elsewhere */
export function audit(trace: Trace, bench: Bench, asked: Asked = NOTHING_ASKED): Audit {
  const book = new Book();
  const facts = walk(trace, bench, book);
  const none = notGcode(trace);
  if (none) return { findings: [none], rungs: confirmRungs(trace, asked), ...facts };
  for (const { where, what, mend } of trace.problems) {
    book.add('stop', 'unreadable', Number(/\d+/.exec(where)?.[0] ?? 0) || null, what, mend);
  }
  for (const [word, { count, line }] of trace.unknown) {
    const named = /^[A-Z_]{2}/.test(word);
    book.add(
      'warning',
      `unknown-${word}`,
      line,
      `${word} is ${named ? 'a command of the machine’s own, and what it does is unknown' : 'unknown'}, ${count === 1 ? 'once' : `${count} times`}.`,
      named
        ? 'If it heats, homes or primes, say so once in the description of the machine.'
        : 'Make sure that your machine knows it and what it does.',
      count,
    );
  }
  if (asked.fed !== undefined) {
    const since = fedSinceMark(trace);
    if (Math.abs(since - asked.fed) > DRAWN_SLACK)
      book.add(
        'stop',
        'fed-otherwise',
        null,
        `From the mark on ${short(since, 2)} mm are fed; ${short(asked.fed)} mm are asked for, and nothing else is to be counted.`,
        'Generate the file again; something changed it on the way.',
      );
  }
  chewed(trace, asked.rungs.length > 0, book);
  for (const finding of leftBehind(trace, bench)) book.findings.set(finding.code, finding);
  const rungs = confirmRungs(trace, asked);
  for (const rung of rungs) {
    if (rung.ok) continue;
    const { title, unit } = settingInfo(rung.setting);
    book.add(
      'stop',
      `rung-${rung.index}-${rung.setting}`,
      rung.line,
      `Rung ${rung.index + 1} was to print at ${title} ${short(rung.wanted)} ${unit}; in force is ${
        rung.seen
          .slice(0, 4)
          .map((value) => short(value, 4))
          .join(', ') || 'nothing'
      }.`,
      'Generate the file again; something changed it on the way.',
    );
  }
  const order = { stop: 0, warning: 1, note: 2 };
  const findings = [...book.findings.values()].sort(
    (a, b) => order[a.grade] - order[b.grade] || (a.line ?? 0) - (b.line ?? 0),
  );
  return { findings, rungs, ...facts };
}

/** Passes of one piece of filament through the gear: above the first it wears, above the second it is ground flat. */
const PASSES = { worn: 20, ground: 60 };

/** Of a ladder made here a grade less: a fine nozzle feeds little between two ways back, whatever is drawn. */
function chewed(trace: Trace, ours: boolean, book: Book): void {
  const { most, line, tool } = passesOf(trace);
  if (most <= PASSES.worn) return;
  const [limit, does, grades] =
    most > PASSES.ground
      ? ([PASSES.ground, 'is ground flat', ['stop', 'warning']] as const)
      : ([PASSES.worn, 'wears', ['warning', 'note']] as const);
  const which = tool > 0 ? `filament of nozzle ${tool + 1}` : 'filament';
  book.add(
    grades[ours ? 1 : 0],
    'filament-chewed',
    line,
    `One piece of ${which} goes ${most} times through the gear; above ${limit} it ${does}.`,
    'Draw back less far or less often, or take a wider nozzle.',
  );
}

/** What is no G-code at all is said once, instead of a list of its odd lines. */
function notGcode({ lines, moves, changes, unknown, problems }: Trace): Remark | null {
  if (lines === 0)
    return {
      grade: 'stop',
      code: 'empty',
      line: null,
      count: 1,
      what: 'The file is empty.',
      mend: 'Get it again from where it came.',
    };
  // Words of a letter look like commands of a machine's own; only those with a sign of one count.
  const commands = [...unknown.keys()].some((word) => /_|^[A-Z]\d/.test(word));
  const macro = CHANGES.indexOf('macro');
  const does =
    moves.count > 0 || changes.code.subarray(0, changes.count).some((code) => code !== macro);
  if (does || commands || (unknown.size === 0 && problems.length === 0)) return null;
  return {
    grade: 'stop',
    code: 'not-gcode',
    line: null,
    count: 1,
    what: 'This is not G-code: no line of it moves or sets anything.',
    mend: 'Choose the file that your slicer wrote.',
  };
}

/** Most filament, mm, that is pushed at one place, or purged before the print: more is a wrong number. */
export const MOST_PUSHED = 150;
/** A small rise of the head before homing, mm: people do it so that it does not scrape. */
const SAFE_RISE = 20;

/** Findings by code; a repeated one is counted, its first line kept. */
class Book {
  readonly findings = new Map<string, Remark>();
  add(
    grade: Remark['grade'],
    code: string,
    line: number | null,
    what: string,
    mend: string,
    count = 1,
  ): void {
    const seen = this.findings.get(code);
    if (seen) seen.count += count;
    else this.findings.set(code, { grade, code, line, count, what, mend });
  }
}

type Facts = Pick<Audit, 'box' | 'z' | 'filament' | 'grams' | 'hottest'>;

/** One pass over moves and changes in file order. */
function walk(trace: Trace, bench: Bench, book: Book): Facts {
  const { machine, filament } = bench;
  const { moves, changes } = trace;
  const { coldest } = MATERIALS[filament.material];
  const { speed } = machine.limits;
  const box: Box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  const z = { low: Infinity, high: -Infinity };
  const hottest = { nozzle: 0, bed: 0 };
  /** Nozzle temperature that is certain: reached by waiting, or held since. */
  const certain = new Float64Array(TOOLS);
  const zone = COLD_ZONE[machine.extruder.drive];
  const begin = firstStroke(trace);
  const bed = bedBox(machine.bed);
  /** Off the bed; what lies in a rectangle is asked without making anything: this is done for every move. */
  const off = (x: number, y: number): boolean => {
    const { minX, maxX, minY, maxY } = bed;
    const inBox =
      x >= minX - BED_SLACK &&
      x <= maxX + BED_SLACK &&
      y >= minY - BED_SLACK &&
      y <= maxY + BED_SLACK;
    return (
      !inBox || (machine.bed.shape === 'round' && insideBed(machine.bed, { x, y }) < -BED_SLACK)
    );
  };
  const drawn = new Float64Array(TOOLS);
  let homed = 0;
  /** Line of the last command that may have heated or homed without saying so. */
  let mayHeat: number | null = null;
  let mayHome: number | null = null;
  let [pushed, purged] = [0, 0];
  let fed = 0;
  let at = 0;
  const change = (name: Change, value: number, line: number, tool: number) => {
    if (name === 'home') homed |= value;
    if (name === 'macro') {
      if ((value & (MACRO.heats | MACRO.unknown)) !== 0) mayHeat = line;
      if ((value & MACRO.unknown) !== 0) mayHome = line;
    }
    if (name === 'wait-nozzle') certain[tool] = value;
    if (name === 'nozzle') {
      hottest.nozzle = Math.max(hottest.nozzle, value);
      if (value < certain[tool]!) certain[tool] = value;
      if (value > machine.extruder.hottest)
        book.add(
          'stop',
          'nozzle-too-hot',
          line,
          `The nozzle is set to ${short(value)} °C; the hot end of ${machine.name} is rated for ${machine.extruder.hottest} °C.`,
          'Lower the temperature, or correct the limit of the machine if it is wrong.',
        );
    }
    if (name === 'bed') {
      hottest.bed = Math.max(hottest.bed, value);
      if (value > machine.bedHottest)
        book.add(
          'stop',
          'bed-too-hot',
          line,
          `The bed is set to ${short(value)} °C; the bed of ${machine.name} is rated for ${machine.bedHottest} °C.`,
          'Lower the temperature, or correct the limit of the machine if it is wrong.',
        );
    }
    if (name === 'limit')
      book.add(
        'warning',
        'limit-changed',
        line,
        'The file changes a speed or acceleration limit of the machine.',
        'Remove the line, or restore the limit after the print.',
      );
    if (name === 'stored')
      book.add(
        'warning',
        'settings-stored',
        line,
        'The file saves settings to the machine’s memory.',
        'Remove the line unless you want that.',
      );
  };
  for (let i = 0; i < moves.count; i++) {
    for (; at < changes.count && changes.move[at]! <= i; at++) {
      const { name, value, line, tool } = changeAt(trace, at);
      change(name, value, line, tool);
    }
    const kind = moves.kind[i]!;
    if (kind === MOVE.home) continue;
    const line = moves.line[i]!;
    const e = moves.e[i]!;
    const tool = moves.tool[i]!;
    fed += e;
    if (kind === MOVE.restart) {
      pushed += e;
      if (pushed > MOST_PUSHED)
        book.add(
          'stop',
          'pushed-too-much',
          line,
          `${short(pushed, 0)} mm of filament are pushed without moving; over ${MOST_PUSHED} mm is a wrong number.`,
          'Check whether E is relative (M83) or absolute (M82, G92 E0).',
        );
    } else if (kind !== MOVE.retract) pushed = 0;
    if (i < begin && e > 0) {
      purged += e;
      if (purged > MOST_PUSHED && kind !== MOVE.restart)
        book.add(
          'stop',
          'purged-too-much',
          line,
          `${short(purged, 0)} mm of filament are laid before the print; over ${MOST_PUSHED} mm is no purge.`,
          'Shorten the start block.',
        );
    }
    const back = Math.max(0, drawn[tool]! - e);
    drawn[tool] = kind === MOVE.extrude ? 0 : back;
    if (e < 0 && back > zone + DRAWN_SLACK)
      book.add(
        'stop',
        'drawn-too-far',
        line,
        `Filament is retracted ${short(back, 1)} mm; past ${zone} mm melt gets into the cold zone of ${machine.name} and jams there.`,
        'Retract less.',
      );
    if (e > 0 && certain[tool]! < coldest && mayHeat !== null)
      book.add(
        'note',
        'heat-not-known',
        line,
        `Whether the nozzle is hot here is not known: the command in line ${mayHeat} may have heated it.`,
        'Say what that command does, once, on the machine’s page.',
      );
    else if (e > 0 && certain[tool]! < coldest)
      book.add(
        'stop',
        'cold-extrusion',
        line,
        `Filament is pushed while the nozzle may be below ${coldest} °C, the least for ${filament.material}.`,
        'Wait for the temperature (M109) before the first push.',
      );
    const px = i === 0 ? 0 : moves.x[i - 1]!;
    const py = i === 0 ? 0 : moves.y[i - 1]!;
    const pz = i === 0 ? 0 : moves.z[i - 1]!;
    const toX = moves.x[i]!;
    const toY = moves.y[i]!;
    const toZ = moves.z[i]!;
    const moving = (toX !== px ? 1 : 0) | (toY !== py ? 2 : 0) | (toZ !== pz ? 4 : 0);
    if ((moving & ~homed) !== 0 && mayHome !== null)
      book.add(
        'note',
        'homing-not-known',
        line,
        `Whether the machine is homed here is not known: the command in line ${mayHome} may have done it.`,
        'Say what that command does, once, on the machine’s page.',
      );
    else if (moving === 4 && (homed & 4) === 0 && toZ > pz && toZ - pz <= SAFE_RISE)
      book.add(
        'note',
        'rises-before-homing',
        line,
        `The head rises by ${short(toZ - pz)} mm before homing, as many do.`,
        'Nothing needs doing.',
      );
    else if ((moving & ~homed) !== 0)
      book.add(
        'stop',
        'moves-before-homing',
        line,
        'An axis moves before it was homed, so the machine does not know where it is.',
        'Home first (G28).',
      );
    const placed = (moving & ~homed) === 0 || mayHome !== null;
    if (placed && toZ < -BED_SLACK)
      book.add(
        'stop',
        'below-bed',
        line,
        `The nozzle is sent to z ${short(toZ)} mm, below the bed.`,
        'Correct the height; a first-layer offset belongs in the machine’s settings.',
      );
    if (toZ > machine.height + BED_SLACK)
      book.add(
        'stop',
        'above-machine',
        line,
        `The nozzle is sent to z ${short(toZ)} mm; ${machine.name} is ${short(machine.height)} mm tall.`,
        'Print something shorter.',
      );
    if (placed && (moving & 3) !== 0 && off(toX, toY)) {
      const laid = kind === MOVE.extrude;
      book.add(
        laid ? 'stop' : 'warning',
        laid ? 'prints-off-bed' : 'moves-off-bed',
        line,
        `The nozzle is sent to x ${short(toX)}, y ${short(toY)} mm, off the bed of ${machine.name}.`,
        'Move the print on the bed, or choose the bench that it was made for.',
      );
    }
    if (tooFast(i, moving))
      book.add(
        'warning',
        'too-fast',
        line,
        `${short(moves.speed[i]!, 1)} mm/s is asked for, over the limit of an axis; the machine will go slower.`,
        'Ask for a speed that the machine has.',
      );
    if (kind === MOVE.extrude && (moving & 3) !== 0) {
      box.minX = Math.min(box.minX, px, toX);
      box.maxX = Math.max(box.maxX, px, toX);
      box.minY = Math.min(box.minY, py, toY);
      box.maxY = Math.max(box.maxY, py, toY);
      z.low = Math.min(z.low, toZ);
      z.high = Math.max(z.high, toZ);
    }
  }
  for (; at < changes.count; at++) {
    const { name, value, line, tool } = changeAt(trace, at);
    change(name, value, line, tool);
  }
  const laid = z.high > -Infinity;
  return {
    box: laid ? box : null,
    z: laid ? z : null,
    filament: fed,
    grams: (fed * roundArea(filament.diameter) * filament.density) / 1000,
    hottest,
  };

  function tooFast(i: number, moving: number): boolean {
    const asked = moves.speed[i]! / SPEED_SLACK;
    if (moving === 0) return asked > speed.e;
    const dx = i === 0 ? 0 : moves.x[i]! - moves.x[i - 1]!;
    const dy = i === 0 ? 0 : moves.y[i]! - moves.y[i - 1]!;
    const dz = i === 0 ? 0 : moves.z[i]! - moves.z[i - 1]!;
    const length = Math.sqrt(dx * dx + dy * dy + dz * dz);
    if (length === 0) return false;
    const rate = asked / length;
    return (
      Math.abs(dx) * rate > speed.x ||
      Math.abs(dy) * rate > speed.y ||
      Math.abs(dz) * rate > speed.z ||
      Math.abs(moves.e[i]!) * rate > speed.e
    );
  }
}
