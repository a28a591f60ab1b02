/** The input shapers of a simulated machine: what commands say of them, as impulses. */

import { kindsTaken, shaperWay, type AxisName } from '../core/bench/shaper';
import { SHAPERS } from '../core/dialect/shapers';
import type { Dialect } from '../core/dialect/dialect';
import type { Values } from '../core/dialect/template';
import { trainOf, type Train } from '../core/shake/trains';

export type Shapers = Record<AxisName, Train | null>;

const VARIABLES = /^(frequency|damping|type)(_[xy])?$/;
const USUAL_DAMPING = 0.1;
/** A shaper that is slower has its last impulse long after a corner is done; machines refuse it. */
const SLOWEST_HZ = 5;

export class Shaping {
  private readonly values: Values;

  constructor(
    private readonly dialect: Dialect,
    stored: Values = {},
  ) {
    this.values = { ...stored };
  }

  /** @returns whether it speaks of a shaper */
  take(name: string, value: number): boolean {
    if (!VARIABLES.test(name)) return false;
    this.values[name] = value;
    return true;
  }

  trains(): Shapers {
    return { x: this.trainOf('x'), y: this.trainOf('y') };
  }

  private trainOf(axis: AxisName): Train | null {
    const own = shaperWay(this.dialect) === 'axes' ? `_${axis}` : '';
    const hz = this.values[`frequency${own}`] ?? this.values.frequency ?? 0;
    if (!(hz >= SLOWEST_HZ)) return null;
    const type = SHAPERS[this.values[`type${own}`] ?? NaN] ?? kindsTaken(this.dialect, axis)[0]!;
    return trainOf(type, hz, Math.min(0.9, this.values[`damping${own}`] ?? USUAL_DAMPING));
  }
}
