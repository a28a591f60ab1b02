/** What a simulated machine knows of itself: settings in force, those kept through a power cycle, and the factory's. */

import type { Bench } from '../core/bench/bench';
import { keptOffset } from '../core/bench/settings';
import type { Cornering } from '../core/bench/machine';
import { param, type Command } from '../core/dialect/command';
import { NEED_NAMES, settingReader, type Dialect } from '../core/dialect/dialect';
import { reportLines, type ReportValues } from '../core/dialect/report';
import { choicesIn, variablesOf } from '../core/dialect/template';
import { short } from '../core/numbers';

/** Constants of the nozzle heater's controller. */
export type Gains = { p: number; i: number; d: number };
type State = { values: ReportValues; gains: Gains };

const SHAPER_ROWS = ['shaper', 'shaperX', 'shaperY'] as const;

const FACTORY_GAINS: Gains = { p: 22.2, i: 1.08, d: 114 };

/** Steps for a millimetre of filament, and what stands for the same on machines that count turns, mm. */
const FACTORY_STEPS = { steps: 400, rotation: 8 };

/** How much more filament moves than with the factory's steps, as a share: 1 where nothing was changed. */
export const fedPerAsked = ({ steps, rotation }: { steps?: number; rotation?: number }): number =>
  ((steps ?? FACTORY_STEPS.steps) / FACTORY_STEPS.steps) *
  (FACTORY_STEPS.rotation / (rotation ?? FACTORY_STEPS.rotation));

export class Memory {
  private readonly factory: State;
  private inForce: State;
  private stored: State;
  private readonly readSetting;

  constructor(private readonly bench: Bench) {
    const { dialect, limits } = bench.machine;
    this.readSetting = settingReader(dialect);
    this.factory = {
      gains: FACTORY_GAINS,
      values: {
        acceleration: { print: limits.printAcceleration, travel: limits.travelAcceleration },
        cornering: corneringValues(limits.cornering),
        advance: { advance: 0 },
        steps: FACTORY_STEPS,
        ...noShapers(dialect),
      },
    };
    this.stored = structuredClone(this.factory);
    this.inForce = structuredClone(this.factory);
  }

  /** Takes what a command sets, where it sets something. @returns mm that the nozzle was nudged up by it */
  take(command: Command): number {
    let nudged = 0;
    for (const { need, values } of this.readSetting(command)) {
      if (need === 'nudge') nudged += values.dz ?? 0;
      else this.inForce.values[need] = { ...this.inForce.values[need], ...values };
    }
    if (nudged !== 0) {
      const now = this.inForce.values.nudge?.dz ?? 0;
      this.inForce.values.nudge = { dz: now + nudged };
    }
    const offset = this.keepsOffset && command.word === 'M851' ? param(command, 'Z') : null;
    if (offset !== null) this.inForce.values.nudge = { dz: offset };
    if (command.word === 'M301') {
      const { p, i, d } = this.inForce.gains;
      this.inForce.gains = {
        p: param(command, 'P') ?? p,
        i: param(command, 'I') ?? i,
        d: param(command, 'D') ?? d,
      };
    }
    return nudged;
  }

  private get keepsOffset(): boolean {
    return keptOffset(this.bench.machine.dialect) !== null;
  }

  get acceleration(): number {
    return this.inForce.values.acceleration?.print ?? 1000;
  }

  store(): void {
    this.stored = structuredClone(this.inForce);
  }

  load(): void {
    this.inForce = structuredClone(this.stored);
  }

  reset(): void {
    this.inForce = structuredClone(this.factory);
  }

  /** Its settings, line by line, as machines of its dialect print them. */
  report(): string[] {
    const { dialect } = this.bench.machine;
    const { values, gains } = this.inForce;
    const known = NEED_NAMES.filter((need) => need in values && need !== 'nudge');
    const lines = reportLines(
      dialect,
      Object.fromEntries(known.map((need) => [need, values[need]])),
    );
    const { p, i, d } = gains;
    const heater = [
      dialect.file.advance === ''
        ? `M301 P${short(p, 2)} I${short(i, 2)} D${short(d, 2)}`
        : `pid_kp: ${short(p, 2)}`,
    ];
    const dz = values.nudge?.dz ?? 0;
    // What was nudged while printing stands in the offset of the probe, as on machines that have one.
    const offset = this.keepsOffset ? [`M851 Z${short(dz, 3)}`] : [];
    return [...lines, ...heater, ...offset];
  }
}

/** Shapers that are off, in the rows that the machine has of them. */
function noShapers(dialect: Dialect): ReportValues {
  return Object.fromEntries(
    SHAPER_ROWS.filter((need) => dialect[need] !== '').map((need) => [
      need,
      Object.fromEntries(
        variablesOf(dialect[need]).map((name) => [name, offOf(dialect[need], name)]),
      ),
    ]),
  );
}

function offOf(row: string, variable: string): number {
  if (variable.startsWith('damping')) return 0.1;
  return choicesIn(row, variable)?.[0] ?? 0;
}

function corneringValues(cornering: Cornering): Record<string, number> {
  if (cornering.model === 'jerk') return { x: cornering.x, y: cornering.y };
  if (cornering.model === 'square-corner') return { square: cornering.speed };
  return { deviation: cornering.deviation };
}
