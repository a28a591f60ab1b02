/** Writer: a layout as G-code in a bench's dialect. Knows commands; knows nothing of kinds. */

import { pushes } from './pushes';
import type { Bench } from '../bench/bench';
import { filamentFor } from '../deposit/bead';
import type { Step } from '../deposit/step';
import type { Layout } from '../deposit/layout';
import { addedOffset, foundByCommand, inForce, knownBefore } from '../bench/in-force';
import {
  bareValue,
  isCommanded,
  settingInfo,
  SETTING_NAMES,
  valueLine,
  type Setting,
  type Values,
} from '../bench/settings';
import { short, tidy } from '../numbers';
import type { PlannedRung } from '../plan/plan';
import { fail, ok, type Result } from '../result';
import { plainLine } from '../text';
import { blockValues, fillBlock } from './blocks';
import { settingLine, waitsForButton } from '../dialect/dialect';
import { MARK_WAIT } from './marked';

export type Written = {
  lines: string[];
  /** For every rung the line, from 1, whose command sets its value. */
  rungLines: number[];
};

/** Height at which the head crosses a bed that it has not primed yet, mm. */
const SAFE_HEIGHT = 5;
/** The first layer is laid with at most this acceleration, mm/s², so that it is not torn off. */
const FIRST_LAYER_ACCELERATION = 500;
/** Speed of height changes, mm/s, where the machine is quicker. */
const LIFT_SPEED = 10;

/**
 * Writes a layout. Same input, same text, to the byte.
 *
 * @param title one line that says what the file is; reduced to plain signs
 */
export function writeLayout(plan: Layout, bench: Bench, title: string): Result<Written> {
  const values = blockValues(bench, { nozzle: plan.start.nozzle, height: plan.height });
  const start = fillBlock('start block', bench.machine.startBlock, values);
  const end = fillBlock('end block', bench.machine.endBlock, values);
  if (!start.ok || !end.ok)
    return fail(...(start.ok ? [] : start.problems), ...(end.ok ? [] : end.problems));
  const pen = new Pen(bench, plan);
  pen.say(plainLine(title, 120));
  for (const rung of [...plan.rungs].reverse()) pen.say(rungComment(plan, rung.index));
  pen.say('start block of this machine');
  pen.put(...start.value);
  pen.say('begin');
  // Percent overrides that somebody turned at the last print would bend this one.
  pen.put('G21', 'G90', 'M83', 'G92 E0', 'M107', 'M220 S100', 'M221 S100');
  pen.begin();
  for (const step of plan.steps) pen.step(step);
  pen.finish();
  pen.say('end block of this machine');
  pen.put(...end.value);
  return ok({ lines: pen.lines, rungLines: pen.rungLines });
}

const rungComment = ({ rungs }: Layout, index: number): string => {
  const { set, z, slope } = rungs[index]!;
  const said = SETTING_NAMES.filter((name) => set[name] !== undefined).map(
    (name) =>
      `${settingInfo(name).title} ${bareValue(name, set[name]!)}${slope?.[name] ? ` in its middle, ${short(slope[name], 5)} a mm` : ''}`,
  );
  const what = said.join(', ') || 'one value throughout';
  return `rung ${index + 1} of ${rungs.length}: ${what}, z ${short(z.from)} to ${short(z.to)}`;
};

/** Values of a rung at a height; none of what climbs within it falls below 0. `only`: just what climbs there. */
function valuesAt({ set, slope = {}, z }: PlannedRung, height: number, only = false): Values {
  const middle = (z.from + z.to) / 2;
  const climbing = Object.fromEntries(
    (Object.entries(slope) as [Setting, number][]).map(([setting, perMm]) => [
      setting,
      Math.max(0, tidy(set[setting]! + perMm * (height - middle))),
    ]),
  );
  return only ? climbing : { ...set, ...climbing };
}

type Drawn = { length: number; extra: number; speed: number };
const NOTHING_DRAWN: Drawn = { length: 0, extra: 0, speed: 0 };

class Pen {
  readonly lines: string[] = [];
  readonly rungLines: number[] = [];
  private z = NaN;
  /** Height of the layer that is being laid, without any offset. */
  private layerZ = 0;
  private pendingZ: number | null = null;
  /** Coordinates as they were written last. */
  private x = '';
  private y = '';
  private feed = NaN;
  /** Filament that is drawn back at the moment, mm, and how it is given back: as it was when it was drawn. */
  private drawn = NOTHING_DRAWN;
  private toolNow = 0;
  private readonly drawnIn = new Map<number, Drawn>();
  /** What is in force at the moment; moves are written by it. */
  private readonly now: Record<Setting, number>;
  private readonly base: Record<Setting, number>;
  /** Settings that a command has changed. */
  private readonly changed = new Set<Setting>();
  /** The command that was written last for a setting, or for the row that it shares with others. */
  private readonly stated = new Map<string, string>();
  /** The bench with what files have set on it: a row may say several settings at once. */
  private told: Values;
  /** The rung whose values climb within it. */
  private climbing: PlannedRung | null = null;

  constructor(
    private readonly bench: Bench,
    private readonly plan: Layout,
  ) {
    this.base = { ...inForce(bench), zOffset: addedOffset(bench) };
    this.now = { ...this.base };
    this.told = { ...bench.tuned };
  }

  put(...lines: string[]): void {
    for (const line of lines) this.lines.push(line);
  }

  say(comment: string): void {
    this.lines.push(`; ${comment}`);
  }

  step(step: Step): void {
    switch (step.do) {
      case 'layer':
        return this.layer(step.index, step.z);
      case 'rung':
        return this.rung(step.index);
      case 'fan':
        return this.put(step.share > 0 ? `M106 S${Math.round(step.share * 255)}` : 'M107');
      case 'acceleration':
        return this.acceleration(step.print, step.travel);
      case 'set':
        return this.set(step.set);
      case 'tool':
        return this.tool(step.index);
      case 'cool':
        return this.put(`M104 T${step.tool} S0`);
      case 'heat':
        return this.put(`M109 T${step.tool} S${short(step.nozzle)}`);
      case 'warm':
        return this.put(`M104 T${step.tool} S${short(step.nozzle)}`);
      case 'draw':
        return this.draw();
      case 'feed':
        this.restart();
        for (const mm of pushes(step.length))
          this.put(`G1 E${short(mm, 5)}${this.speed(step.speed)}`);
        return;
      case 'raise':
        return this.moveZ(step.z);
      case 'wait':
        return this.put(`G4 P${Math.round(step.seconds * 1000)}`);
      case 'pause':
        return this.pause(plainLine(step.text, 60), step.seconds);
      case 'say':
        return this.say(plainLine(step.text, 120));
      case 'travel':
        return this.travel(step.to.x, step.to.y, step.retract, step.over);
      case 'stroke':
        return this.stroke(step.path, step.area, step.speed);
    }
  }

  /** Sets what was found before: it holds from here on, but where it climbs itself. */
  begin(): void {
    const { acceleration: _, ...found } = foundByCommand(this.bench);
    this.set(found);
  }

  /** Draws back as the bench does, whatever was tested, and puts every changed setting back. */
  finish(): void {
    const tested = this.plan.rungs.flatMap(({ set }) => Object.keys(set) as Setting[]);
    for (const name of tested) if (!isCommanded(name)) this.now[name] = this.base[name];
    this.draw();
    this.say('restore');
    this.acceleration(this.base.acceleration, this.bench.machine.limits.travelAcceleration);
    this.changed.delete('acceleration');
    this.changed.delete('nozzle'); // the end block turns it off
    // One row may say several of them: all stand as they did before any is said.
    for (const name of this.changed) this.told[name] = this.base[name];
    for (const name of this.changed) this.putBack(name);
    this.put('M107');
  }

  /** A pause where the machine knows one that goes on at a press; a wait where it does not. */
  private pause(text: string, seconds = MARK_WAIT): void {
    this.put(`M117 ${text}`);
    this.put(waitsForButton(this.bench.machine.dialect) ? 'M0' : `G4 P${seconds * 1000}`);
  }

  /** Changes values: by command where the machine takes one, else in the moves from here on. */
  private set(values: Values): void {
    Object.assign(this.now, values);
    Object.assign(this.told, values);
    for (const [name, value] of Object.entries(values) as [Setting, number][])
      if (isCommanded(name)) this.command(name, value);
  }

  private putBack(name: Setting): void {
    // What was found stands already.
    if (!Number.isFinite(this.base[name])) return;
    if (name in foundByCommand(this.bench) && this.now[name] === this.base[name]) return;
    if (!knownBefore(name, this.bench))
      this.say(`${settingInfo(name).title} of this machine is not known: none from here on`);
    const own = settingInfo(name).restored?.(this.bench) ?? null;
    if (own !== null) this.put(own);
    else this.command(name, this.base[name]);
  }

  private command(name: Setting, value: number): void {
    const line = valueLine(name, value, { ...this.bench, tuned: this.told });
    if (line === null) return;
    this.changed.add(name);
    this.state(settingInfo(name).row?.need ?? name, line);
  }

  /** Says a command unless it is what was said last of that setting: rungs beside each other go on from layer to layer. */
  private state(row: string, line: string): void {
    if (this.stated.get(row) === line) return;
    this.stated.set(row, line);
    this.put(line);
  }

  /** The other nozzle keeps what was drawn back in it. */
  private tool(index: number): void {
    this.draw();
    this.put(`T${index}`);
    this.drawnIn.set(this.toolNow, this.drawn);
    this.drawn = this.drawnIn.get(index) ?? NOTHING_DRAWN;
    this.toolNow = index;
  }

  private layer(index: number, z: number): void {
    this.layerZ = z;
    this.say(`layer ${index + 1}, z ${short(z)}`);
    const { travelAcceleration } = this.bench.machine.limits;
    const printAcceleration = this.base.acceleration;
    // Every layer moves with the offset, or the second would have a gap of another height to fill.
    const top = tidy(z + this.now.zOffset);
    if (this.climbing) this.set(valuesAt(this.climbing, top, true));
    if (index === 0) {
      this.acceleration(Math.min(FIRST_LAYER_ACCELERATION, printAcceleration), travelAcceleration);
      this.moveZ(Math.max(SAFE_HEIGHT, z));
      this.pendingZ = z;
      return;
    }
    if (index === 1) this.acceleration(printAcceleration, travelAcceleration);
    this.moveZ(top);
  }

  private rung(index: number): void {
    this.say(rungComment(this.plan, index));
    const { rungs, held } = this.plan;
    const rung = rungs[index]!;
    // Whichever rung comes first: what is held stands before anything is tested.
    if (this.rungLines.length === 0) this.set(held);
    this.climbing = rung.slope ? rung : null;
    // A rung that begins says all its values, whatever was said before: its line is the one that names it.
    if (this.rungLines[index] === undefined) this.stated.clear();
    this.set(valuesAt(rung, this.z));
    // A rung that is laid in several places is named by the command that sets it first.
    this.rungLines[index] ??= this.lines.length;
  }

  private acceleration(print: number, travel: number): void {
    const line = settingLine(this.bench.machine.dialect, 'acceleration', { print, travel });
    if (line === null) return;
    this.stated.set('acceleration', line);
    this.put(line);
  }

  private travel(x: number, y: number, retract: boolean, over?: number): void {
    const { lift } = this.now;
    const z = this.z;
    if (retract) this.draw();
    if (over !== undefined && this.pendingZ === null) {
      this.moveZ(over);
      this.put(`G0${this.to(x, y)}${this.speed(this.bench.machine.speeds.travel)}`);
      return this.moveZ(tidy(this.layerZ + this.now.zOffset));
    }
    const hop =
      retract && lift > 0 && this.pendingZ === null && z + lift <= this.bench.machine.height;
    if (hop) this.moveZ(z + lift);
    this.put(`G0${this.to(x, y)}${this.speed(this.bench.machine.speeds.travel)}`);
    if (hop) this.moveZ(z);
    if (this.pendingZ !== null) this.moveZ(tidy(this.pendingZ + this.now.zOffset));
    this.pendingZ = null;
  }

  private stroke(path: { x: number; y: number }[], area: number, speed: number): void {
    this.restart();
    const perMm = filamentFor(1, area, this.bench.filament.diameter) * this.now.flow;
    for (let i = 1; i < path.length; i++) {
      const { x, y } = path[i]!;
      const from = path[i - 1]!;
      const fed = Math.sqrt((x - from.x) ** 2 + (y - from.y) ** 2) * perMm;
      if (fed < SMALLEST_FEED) continue;
      this.lines.push(`G1${this.to(x, y)} E${short(fed, 5)}${this.speed(speed)}`);
    }
  }

  private draw(): void {
    const { retraction, retractSpeed, restartExtra, restartSpeed } = this.now;
    if (this.drawn.length > 0 || retraction === 0) return;
    this.drawn = { length: retraction, extra: restartExtra, speed: restartSpeed };
    this.put(`G1 E${short(-retraction, 5)}${this.speed(retractSpeed)}`);
  }

  private restart(): void {
    const { length, extra, speed } = this.drawn;
    if (length === 0) return;
    this.drawn = NOTHING_DRAWN;
    this.put(`G1 E${short(length + extra, 5)}${this.speed(speed)}`);
  }

  private moveZ(z: number): void {
    this.z = z;
    const speed = Math.min(LIFT_SPEED, this.bench.machine.limits.speed.z);
    this.put(`G0 Z${short(z)}${this.speed(speed)}`);
  }

  /** Only the coordinates that change. */
  private to(x: number, y: number): string {
    const toX = short(x);
    const toY = short(y);
    const text = (toX === this.x ? '' : ` X${toX}`) + (toY === this.y ? '' : ` Y${toY}`);
    this.x = toX;
    this.y = toY;
    return text;
  }

  private speed(mmPerS: number): string {
    const feed = Math.round(mmPerS * 60);
    if (feed === this.feed) return '';
    this.feed = feed;
    return ` F${feed}`;
  }
}

/** Less filament than this, mm, is below the step of any feeder; the piece is left out. */
const SMALLEST_FEED = 1e-4;
