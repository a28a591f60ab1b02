/** What came over what was put in: laid on the marks of a file, against what an axis does by its formula. */

import type { ShakeMarks } from './marks';
import type { ShakeRecord } from './record';
import { alignedTo, responseOf, samplesOf } from './response';
import { normal, seeded } from '../random';

const RATE = 2000;
const A = 2500;
const marks: ShakeMarks = {
  format: 'ash-ladder/shake',
  version: 1,
  axis: 'x',
  acceleration: A,
  knock: 0.1,
  rest: 1,
  sweeps: [
    {
      along: { x: 1, y: 0 },
      after: 0,
      steps: Array.from({ length: 40 }, (_, k): [number, number] => [1.1 + k / 2, 10 + 2 * k]),
      ends: 21.1,
    },
  ],
};

/** A machine that makes of each frequency what `gain` says; silent but for noise elsewhere. */
function recorded(
  gain: (hz: number) => number,
  { late = 1.7, slow = 1, knocks = true } = {},
): ShakeRecord {
  const random = seeded(3);
  const count = Math.round((late + 21.1 * slow + 2) * RATE);
  const x = Float64Array.from({ length: count }, (_, i) => {
    const t = (i / RATE - late) / slow;
    const noise = 30 * normal(random);
    if (t >= 0 && t < 0.1 && knocks) return A * Math.sign(Math.sin(2 * Math.PI * 20 * t)) + noise;
    const [from, hz] = marks.sweeps[0]!.steps.findLast(([at]) => at <= t) ?? [0, 0];
    if (hz === 0 || t > 21.1) return noise;
    // The first harmonic of a square wave is what is told.
    return gain(hz) * (4 / Math.PI) * A * Math.sin(2 * Math.PI * hz * (t - from)) + noise;
  });
  const z = x.map(() => 9806.65 + 30 * normal(random));
  return {
    rate: RATE,
    unit: 'mm/s²',
    x,
    y: z.map(() => 20 * normal(random)),
    z,
    times: null,
    notes: [],
  };
}
const bump = (hz: number) => 1 / Math.sqrt((1 - (hz / 46) ** 2) ** 2 + (0.12 * (hz / 46)) ** 2);

test('the knock is found, whenever the record began', () => {
  for (const late of [0.8, 1.7, 5]) {
    const aligned = alignedTo(recorded(bump, { late }), marks)!;
    expect(Math.abs(aligned.start / RATE - late)).toBeLessThan(0.02);
    const [from, to] = samplesOf(aligned, marks.sweeps[0]!);
    expect((to - from) / RATE).toBeCloseTo(20, 1);
  }
});

test('the response is what the machine makes of each frequency', () => {
  const record = recorded(bump);
  const aligned = alignedTo(record, marks)!;
  const { hz, ratio } = responseOf(record.x, aligned, marks.sweeps[0]!, A);
  expect(hz).toHaveLength(40);
  hz.forEach((one, i) => expect(ratio[i]! / bump(one)).toBeCloseTo(1, 1));
});

test('a record without a knock, or of a machine that did not keep pace, is laid on nothing', () => {
  expect(alignedTo(recorded(bump, { knocks: false }), marks)).toBeNull();
  expect(alignedTo(recorded(bump, { slow: 1.08 }), marks)).toBeNull();
});
