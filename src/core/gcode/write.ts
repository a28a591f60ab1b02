/** Writer: a plan as G-code in a bench's dialect. Knows commands; knows nothing of kinds. */

import type { Bench } from '../bench/bench';
import { filamentFor } from '../deposit/bead';
import type { Step } from '../deposit/step';
import type { Plan } from '../deposit/plan';
import { SETTINGS, SETTING_NAMES } from '../settings';
import { short } from '../numbers';
import { fail, ok, type Result } from '../result';
import { plainLine } from '../text';
import { blockValues, fillBlock } from './blocks';
import { settingLine } from './dialect';

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

/** How each setting is written at its rung. */
const RUNG_LINES: Record<string, (value: number) => string> = {
  nozzle: (value) => `M104 S${short(value)}`,
};

/**
 * Writes a plan. Same input, same text, to the byte.
 *
 * @param title one line that says what the file is; reduced to plain signs
 */
export function writePlan(plan: Plan, bench: Bench, title: string): Result<Written> {
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
  pen.put('G21', 'G90', 'M83', 'G92 E0', 'M107');
  for (const step of plan.steps) pen.step(step);
  pen.finish();
  pen.say('end block of this machine');
  pen.put(...end.value);
  return ok({ lines: pen.lines, rungLines: pen.rungLines });
}

const rungComment = ({ rungs }: Plan, index: number): string => {
  const { set, z } = rungs[index]!;
  const said = SETTING_NAMES.filter((name) => set[name] !== undefined).map(
    (name) => `${SETTINGS[name].title} ${short(set[name]!)}`,
  );
  return `rung ${index + 1} of ${rungs.length}: ${said.join(', ')}, z ${short(z.from)} to ${short(z.to)}`;
};

class Pen {
  readonly lines: string[] = [];
  readonly rungLines: number[] = [];
  private z = NaN;
  private pendingZ: number | null = null;
  /** Coordinates as they were written last. */
  private x = '';
  private y = '';
  private feed = NaN;
  private drawn = false;

  constructor(
    private readonly bench: Bench,
    private readonly plan: Plan,
  ) {}

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
      case 'travel':
        return this.travel(step.to.x, step.to.y, step.retract);
      case 'stroke':
        return this.stroke(step.path, step.area, step.speed);
    }
  }

  /** Draws back and puts every changed setting back. */
  finish(): void {
    this.draw();
    const { printAcceleration, travelAcceleration } = this.bench.machine.limits;
    this.say('put back');
    this.acceleration(printAcceleration, travelAcceleration);
    this.put('M107');
  }

  private layer(index: number, z: number): void {
    this.say(`layer ${index + 1}, z ${short(z)}`);
    const { printAcceleration, travelAcceleration } = this.bench.machine.limits;
    if (index === 0) {
      this.acceleration(Math.min(FIRST_LAYER_ACCELERATION, printAcceleration), travelAcceleration);
      this.moveZ(Math.max(SAFE_HEIGHT, z));
      this.pendingZ = z;
      return;
    }
    if (index === 1) this.acceleration(printAcceleration, travelAcceleration);
    this.moveZ(z);
  }

  private rung(index: number): void {
    this.say(rungComment(this.plan, index));
    for (const [name, value] of Object.entries(this.plan.rungs[index]!.set)) {
      this.put(RUNG_LINES[name]!(value));
    }
    this.rungLines[index] = this.lines.length;
  }

  private acceleration(print: number, travel: number): void {
    const line = settingLine(this.bench.machine.dialect, 'acceleration', { print, travel });
    if (line !== null) this.put(line);
  }

  private travel(x: number, y: number, retract: boolean): void {
    const { lift } = this.bench.machine.retraction;
    const z = this.z;
    if (retract) this.draw();
    const hop =
      retract && lift > 0 && this.pendingZ === null && z + lift <= this.bench.machine.height;
    if (hop) this.moveZ(z + lift);
    this.put(`G0${this.to(x, y)}${this.speed(this.bench.machine.speeds.travel)}`);
    if (hop) this.moveZ(z);
    if (this.pendingZ !== null) this.moveZ(this.pendingZ);
    this.pendingZ = null;
  }

  private stroke(path: { x: number; y: number }[], area: number, speed: number): void {
    this.restart();
    const perMm = filamentFor(1, area, this.bench.filament.diameter);
    for (let i = 1; i < path.length; i++) {
      const { x, y } = path[i]!;
      const from = path[i - 1]!;
      const fed = Math.sqrt((x - from.x) ** 2 + (y - from.y) ** 2) * perMm;
      if (fed < SMALLEST_FEED) continue;
      this.lines.push(`G1${this.to(x, y)} E${short(fed, 5)}${this.speed(speed)}`);
    }
  }

  private draw(): void {
    const { distance, speed } = this.bench.machine.retraction;
    if (this.drawn || distance === 0) return;
    this.drawn = true;
    this.put(`G1 E${short(-distance, 5)}${this.speed(speed)}`);
  }

  private restart(): void {
    if (!this.drawn) return;
    this.drawn = false;
    const { distance, speed } = this.bench.machine.retraction;
    this.put(`G1 E${short(distance, 5)}${this.speed(speed)}`);
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
