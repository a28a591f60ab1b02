/** Records of known truth, for tests: modes that are shaken through a band, felt by a sensor that sits anyhow. */

import { normal, seeded, type Random } from '../../random';
import { GRAVITY } from '../record';

export type Mode = { hz: number; damping: number; share: number };
export type MadeUp = {
  modes: Mode[];
  rate: number;
  /** Band, Hz, and how fast it is gone through, Hz/s. */
  from?: number;
  to?: number;
  pace?: number;
  /** Peak acceleration that is commanded, mm/s². */
  acceleration?: number;
  /** White noise of each sample, mm/s². */
  noise?: number;
  /** Still time before and after, s. */
  still?: number;
  seed?: number;
};

/** Steps of motion a second, at least: an axis that is stepped coarsely rings too high. */
const STEPS_A_SECOND = 6_000;

/** Acceleration of a head along one axis, mm/s². */
export function headOf(given: MadeUp): Float64Array {
  const { modes, rate, from = 5, to = 135, pace = 1.5, acceleration = 3000, still = 1 } = given;
  const seconds = still * 2 + (to - from) / pace;
  const count = Math.round(seconds * rate);
  const out = new Float64Array(count);
  const states = modes.map(() => ({ x: 0, v: 0 }));
  const substeps = Math.max(4, Math.ceil(STEPS_A_SECOND / rate));
  const dt = 1 / (rate * substeps);
  // The commanded place goes to and fro; its acceleration has the same peak at any frequency.
  let phase = 0;
  for (let i = 0; i < count; i++) {
    for (let k = 0; k < substeps; k++) {
      const t = i / rate + k * dt - still;
      const inside = t > 0 && t < seconds - 2 * still;
      const nu = from + pace * Math.max(0, t);
      phase += inside ? 2 * Math.PI * nu * dt : 0;
      const commanded = inside ? (-acceleration / (2 * Math.PI * nu) ** 2) * Math.sin(phase) : 0;
      let felt = 0;
      modes.forEach(({ hz, damping, share }, m) => {
        const state = states[m]!;
        const omega = 2 * Math.PI * hz;
        const pull = (x: number, v: number) =>
          -(omega ** 2) * (x - commanded) - 2 * damping * omega * v;
        const v = state.v + (dt / 2) * pull(state.x, state.v);
        const x = state.x + (dt / 2) * state.v;
        const a = pull(x, v);
        state.x += dt * v;
        state.v += dt * a;
        felt += share * a;
      });
      if (k === 0) out[i] = felt;
    }
  }
  return out;
}

type Direction = [number, number, number];

/** Upward and a level direction, at random. */
function turned(random: Random): [Direction, Direction] {
  const pick = (): Direction => [normal(random), normal(random), normal(random)];
  const unit = (a: readonly number[]): Direction => {
    const length = Math.hypot(...a);
    return a.map((one) => one / length) as Direction;
  };
  const up = unit(pick());
  const other = pick();
  const part = other.reduce((sum, one, i) => sum + one * up[i]!, 0);
  const level = unit(other.map((one, i) => one - part * up[i]!));
  return [up, level];
}

/** Three columns, mm/s², of a sensor that sits in a direction drawn from the seed. */
export function felt(given: MadeUp): [Float64Array, Float64Array, Float64Array] {
  const random = seeded(given.seed ?? 1);
  const [up, level] = turned(random);
  const head = headOf(given);
  const { noise = 100 } = given;
  return [0, 1, 2].map((axis) =>
    head.map((one) => GRAVITY * up[axis]! + level[axis]! * one + noise * normal(random)),
  ) as [Float64Array, Float64Array, Float64Array];
}

/** The same as text, in some order, unit and form. */
export function asText(
  columns: readonly Float64Array[],
  rate: number,
  form: {
    header?: string[];
    order?: number[];
    per?: number;
    milliseconds?: boolean;
    by?: string;
  } = {},
): string {
  const { header, order = [0, 1, 2, 3], per = 1000, milliseconds = false, by = ',' } = form;
  const rows = Array.from(columns[0]!, (_, i) => {
    const cells = [
      ((i / rate) * (milliseconds ? 1000 : 1)).toFixed(6),
      ...columns.map((column) => (column[i]! / per).toFixed(5)),
    ];
    return order.map((k) => cells[k]!).join(by);
  });
  return [...(header ? [header.join(by)] : []), ...rows].join('\n');
}
