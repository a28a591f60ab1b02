/** Is the sensor right? What a record itself tells of wiring, power, range and pace, before anything is read from it. */

import { short } from '../numbers';
import { problem, type Problem } from '../result';
import { endsOf, middleOf, nearMiddleOf, spreadOf } from './columns';
import { GRAVITY, RATES, type ShakeRecord } from './record';

const AXES = ['x', 'y', 'z'] as const;
type Axis = (typeof AXES)[number];

/** Gravity under this share of its own is missing. */
const LEAST_GRAVITY = 0.5;
/** An axis that moves by less than this share of the liveliest one's spread is dead, even if it tells some number. */
const DEAD = 1e-4;
/** So many samples at the very end of the range, one after the other, were cut off there; and how often at least. */
const [IN_A_ROW, TIMES] = [3, 3];
/** Ends with fewer different values between them are the rounding of a quiet sensor. */
const FEWEST_STEPS = 40;
/** A step of time this many times as long as usual is a gap; shares of the record that gaps may take. */
const [GAP, LOST] = [4, 0.01];
/** Paces of two parts of a record may differ by this share. */
const UNEVEN = 0.05;
/** Parts in which paces are compared. */
const PARTS = 12;
/** The quietest stretch, s, tells the noise; more than this, mm/s², is no still sensor. */
const [QUIET_S, MOST_NOISE] = [0.25, 1500];

/** A record that only tells whether the sensor is right, or one of a machine that was shaken. */
export type Purpose = 'still' | 'shake';

/** What is wrong with a record; nothing where all is right. The first is what to see to first. */
export function faultsOf(record: ShakeRecord, purpose: Purpose = 'shake'): Problem[] {
  const constant = AXES.filter((axis) => isConstant(record[axis]));
  if (constant.length === 3) return [silent(record)];
  const faults = [
    ...paceFaults(record, purpose),
    ...deadFaults(record, constant),
    ...AXES.flatMap((axis) => clipped(axis, record[axis])),
  ];
  // Of a dead or cut axis nothing more can be told; of a short record it can.
  if (faults.some(({ where }) => where !== 'record')) return faults;
  return [...faults, ...gravityFaults(record), ...noiseFaults(record)];
}

const isConstant = (column: Float64Array): boolean => column.every((one) => one === column[0]);

function silent({ x, y, z }: ShakeRecord): Problem {
  const zero = [x, y, z].every((column) => column[0] === 0);
  return problem(
    'sensor',
    zero
      ? 'Every sample is zero: the sensor says nothing.'
      : 'Every sample is the same: the sensor says nothing new.',
    'See first whether it has power, then whether its data and clock wires are in the right places, and last try another sensor: this one may be dead.',
  );
}

function paceFaults({ rate, times, x }: ShakeRecord, purpose: Purpose): Problem[] {
  const found: Problem[] = [];
  if (rate < RATES[0] * 0.98 || rate > RATES[1] * 1.02)
    found.push(
      problem(
        'rate',
        `The sensor takes ${short(rate, 1)} samples a second; ${RATES[0]} to ${RATES[1]} can tell what rings.`,
        rate < RATES[0]
          ? 'Set a higher rate, or look whether its wires are too long for one.'
          : 'Check the times in the file, or set a lower rate.',
      ),
    );
  const least = purpose === 'still' ? 0.5 : 2;
  if (x.length / rate < least)
    found.push(
      problem(
        'record',
        `It lasts ${short(x.length / rate, 2)} s; at least ${least} s are needed.`,
        'Record for longer.',
      ),
    );
  if (!times || found.length > 0) return found;
  const steps = Float64Array.from(
    { length: times.length - 1 },
    (_, i) => times[i + 1]! - times[i]!,
  );
  if (steps.some((one) => one < 0)) {
    found.push(
      problem(
        'time',
        'The times of the record go back now and then: rows stand in another order than they were taken.',
        'Record again, or leave the times out and say the sample rate.',
      ),
    );
    return found;
  }
  const gappy = packedSteps(steps) ?? steps;
  const usual = Math.max(middleOf(gappy), times.at(-1)! / gappy.length / 2);
  const gaps = gappy.filter((one) => one > GAP * usual + 1e-3);
  const lost = gaps.reduce((sum, one) => sum + one - usual, 0);
  if (lost > LOST * times.at(-1)!) {
    found.push(
      problem(
        'time',
        `Samples are missing: ${gaps.length === 1 ? 'one gap takes' : `${gaps.length} gaps take`} ${short(100 * (lost / times.at(-1)!), 1)} % of the record.`,
        'Lower the rate, shorten the wires, or let the computer do nothing else meanwhile.',
      ),
    );
    return found;
  }
  const paces = Array.from({ length: PARTS }, (_, part) => {
    const [from, to] = [part, part + 1].map((one) => Math.floor((one * steps.length) / PARTS)) as [
      number,
      number,
    ];
    return (times[to]! - times[from]!) / (to - from);
  });
  const mean = times.at(-1)! / steps.length;
  const worst = Math.max(jitterOf(steps, mean), ...paces.map((one) => Math.abs(one / mean - 1)));
  if (worst > UNEVEN)
    found.push(
      problem(
        'time',
        `The rate is uneven: steps from sample to sample differ by ${Math.round(100 * worst)} %.`,
        'Set one rate and record again; a busy computer or a full buffer does this.',
      ),
    );
  return found;
}

/** Steps of coarse clocks have only so many lengths; samples that come in packets lie closer than half a usual step. */
const [COARSE, PACKED] = [5, 0.25];

/** Steps from packet to packet, of samples that come in such; null where each comes by itself. */
function packedSteps(steps: Float64Array): Float64Array | null {
  const mean = steps.reduce((sum, one) => sum + one, 0) / steps.length;
  const far = steps.filter((one) => one >= mean / 2);
  if (steps.length - far.length <= PACKED * steps.length || far.length < 2) return null;
  // What lies within a packet belongs to the step to it.
  const inside = steps.filter((one) => one < mean / 2).reduce((sum, one) => sum + one, 0);
  return far.map((one) => one + inside / far.length);
}

/**
 * How far steps of time differ from each other, as a share: half of the way between which two thirds of them lie. Nothing
 * where the clock is coarser than the steps, or where samples come in packets: then they were taken evenly all the same.
 */
function jitterOf(steps: Float64Array, mean: number): number {
  const lengths = new Set<number>();
  for (const one of steps) if (lengths.size <= COARSE) lengths.add(Math.round((1e4 * one) / mean));
  if (lengths.size <= COARSE || packedSteps(steps)) return 0;
  const sorted = Float64Array.from(steps).sort();
  const at = (share: number) => sorted[Math.floor(share * (sorted.length - 1))]!;
  return (at(0.84) - at(0.16)) / 2 / mean;
}

function deadFaults(record: ShakeRecord, constant: readonly Axis[]): Problem[] {
  const liveliest = Math.max(...AXES.map((axis) => spreadOf(record[axis])));
  const dead = AXES.filter(
    (axis) => constant.includes(axis) || spreadOf(record[axis]) < DEAD * liveliest,
  );
  return dead.map((axis) =>
    problem(
      axis,
      `Column ${axis} always says the same while the others move: that axis is dead.`,
      'Restart the sensor and record again. If it stays so, the chip is broken.',
    ),
  );
}

/** Samples that stand at the end of what a sensor can tell, one after the other, again and again. */
function clipped(axis: Axis, column: Float64Array): Problem[] {
  const { low, high } = endsOf(column);
  const steps = new Set<number>();
  for (let i = 0; i < column.length && steps.size < FEWEST_STEPS; i++) steps.add(column[i]!);
  if (steps.size < FEWEST_STEPS) return [];
  const slack = 1e-6 * (high - low);
  let [runs, length] = [0, 0];
  let before = 0;
  for (const one of column) {
    const end = one >= high - slack ? 1 : one <= low + slack ? -1 : 0;
    length = end !== 0 && end === before ? length + 1 : end === 0 ? 0 : 1;
    before = end;
    if (length === IN_A_ROW) runs++;
  }
  if (runs < TIMES) return [];
  return [
    problem(
      axis,
      `Column ${axis} is cut off at ${short(Math.max(Math.abs(low), Math.abs(high)) / GRAVITY, 2)} g: it shook harder than the sensor tells.`,
      'Set a larger range, or shake with less acceleration.',
    ),
  ];
}

/** What the sensor feels of gravity, mm/s²: the middle of each axis, since shaking goes both ways. */
export const gravityOf = ({ x, y, z }: ShakeRecord): [number, number, number] => [
  nearMiddleOf(x),
  nearMiddleOf(y),
  nearMiddleOf(z),
];

function gravityFaults(record: ShakeRecord): Problem[] {
  const weight = Math.hypot(...gravityOf(record)) / GRAVITY;
  if (weight >= LEAST_GRAVITY && weight <= 1 / LEAST_GRAVITY) return [];
  return [
    problem(
      'gravity',
      `At rest the sensor feels ${short(weight, 2)} g; it should feel 1.`,
      'Check the unit. If the sensor takes gravity out by itself, switch that off: gravity tells how it is mounted.',
    ),
  ];
}

function noiseFaults(record: ShakeRecord): Problem[] {
  const stretch = Math.max(8, Math.round(QUIET_S * record.rate));
  let quiet = Infinity;
  for (let from = 0; from + stretch <= record.x.length; from += stretch >> 1) {
    const spread = Math.hypot(...AXES.map((axis) => jumpOf(record[axis], from, from + stretch)));
    quiet = Math.min(quiet, spread / Math.SQRT2);
  }
  if (quiet <= MOST_NOISE) return [];
  return [
    problem(
      'noise',
      `Even where it is quietest samples scatter by ${short(quiet / GRAVITY, 2)} g.`,
      'Screw the sensor on tightly, keep its wires short and away from motors, and switch fans off.',
    ),
  ];
}

/** Spread of the change from sample to sample: what shakes slowly is left out, noise is not. */
function jumpOf(column: Float64Array, from: number, to: number): number {
  let [sum, squares] = [0, 0];
  for (let i = from + 1; i < to; i++) {
    const jump = column[i]! - column[i - 1]!;
    sum += jump;
    squares += jump * jump;
  }
  const count = to - from - 1;
  return Math.sqrt(Math.max(0, squares / count - (sum / count) ** 2));
}
