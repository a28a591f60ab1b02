/** Records that are wrong in some way, each refused for what is wrong with it; and odd ones that are right all the same. */

import { normal, seeded, type Random } from '../random';
import { analyse } from './analyse';
import { GRAVITY } from './record';
import { felt } from './testing/made-up';

const RATE = 800;
const SEEDS = [1, 2, 3];
type Columns = Float64Array[];

/** Records of machines that ring at a frequency that follows from the seed. */
const RECORDS = new Map(
  SEEDS.map((seed) => {
    const modes = [{ hz: 30 + 5 * seed, damping: 0.06, share: 1 }];
    return [seed, felt({ modes, rate: RATE, to: 90, pace: 4, seed })];
  }),
);
const shaken = (seed: number): Columns => RECORDS.get(seed)!;

const even = (i: number): number => i / RATE;
function asText(columns: Columns, time = even, lost: (i: number) => boolean = () => false): string {
  const rows = Array.from(columns[0]!, (_, i) =>
    lost(i)
      ? ''
      : [time(i).toFixed(6), ...columns.map((one) => (one[i]! / GRAVITY).toFixed(5))].join(','),
  );
  return ['time,x,y,z', ...rows.filter(Boolean)].join('\n');
}
const each = (columns: Columns, change: (value: number, i: number, axis: number) => number) =>
  columns.map((column, axis) => column.map((value, i) => change(value, i, axis)));
/** Times whose steps scatter by a share. */
function jittered(random: Random, share: number): (i: number) => number {
  const times = [0];
  return (i) => {
    while (times.length <= i) times.push(times.at(-1)! + (1 + share * normal(random)) / RATE);
    return times[i]!;
  };
}
const cut = (columns: Columns, g: number) =>
  each(columns, (value) => Math.max(-g * GRAVITY, Math.min(g * GRAVITY, value)));
const levelled = (columns: Columns) =>
  columns.map((column) => {
    const mean = column.reduce((sum, one) => sum + one, 0) / column.length;
    return column.map((one) => one - mean);
  });

const RIGHT: Record<string, (seed: number) => string> = {
  'a plain one': (seed) => asText(shaken(seed)),
  'times that scatter a little': (seed) => asText(shaken(seed), jittered(seeded(seed), 0.015)),
  'times in whole milliseconds': (seed) =>
    asText(shaken(seed), (i) => Math.floor(1000 * even(i)) / 1000),
  'samples in packets of 32': (seed) =>
    asText(shaken(seed), (i) => even(Math.floor(i / 32) * 32) + (i % 32) * 1e-6),
  'a few samples lost': (seed) => {
    const random = seeded(seed);
    return asText(shaken(seed), even, () => random() < 0.002);
  },
  'each axis off by some': (seed) =>
    asText(each(shaken(seed), (value, _, axis) => value + [300, -500, 400][axis]!)),
  'coarse counts': (seed) => asText(each(shaken(seed), (value) => Math.round(value / 300) * 300)),
};

long.each(Object.keys(RIGHT))('right all the same: %s', (name) => {
  for (const seed of SEEDS) {
    const { refused, peaks } = analyse(RIGHT[name]!(seed));
    expect(refused).toEqual([]);
    expect(Math.abs(peaks[0]!.hz - 30 - 5 * seed)).toBeLessThan(1);
  }
});

const WRONG: Record<string, [where: RegExp, (seed: number) => string]> = {
  'zeros only': [/^sensor/, (seed) => asText(each(shaken(seed), () => 0))],
  'one number only': [/^sensor/, (seed) => asText(each(shaken(seed), () => 4900))],
  'an axis at nothing': [
    /^[xyz]$/,
    (seed) => asText(each(shaken(seed), (v, _, axis) => (axis === seed % 3 ? 0 : v))),
  ],
  'an axis at some number': [
    /^[xyz]$/,
    (seed) => asText(each(shaken(seed), (v, _, axis) => (axis === seed % 3 ? 1234 : v))),
  ],
  'much noise': [
    /^noise/,
    (seed) => {
      const random = seeded(seed);
      return asText(each(shaken(seed), (value) => value + 4000 * normal(random)));
    },
  ],
  'no gravity': [/^(unit|gravity)/, (seed) => asText(levelled(shaken(seed)))],
  'cut off just below what it feels': [/^[xyz]$/, (seed) => asText(cut(shaken(seed), 0.7))],
  'an amplifier that is cut off': [
    /^[xyz]$/,
    (seed) =>
      asText(
        cut(
          each(shaken(seed), (v) => 2.5 * v),
          2,
        ),
      ),
  ],
  'many gaps': [/^time/, (seed) => asText(shaken(seed), even, (i) => i % 1500 < 100)],
  'one large gap': [/^time/, (seed) => asText(shaken(seed), even, (i) => i > 9000 && i < 10_500)],
  'a rate that drifts': [
    /^time/,
    (seed) => asText(shaken(seed), (i) => even(i) + 0.003 * even(i) ** 2),
  ],
  'two rates': [
    /^time/,
    (seed) =>
      asText(shaken(seed), (i) => (i < 10_000 ? even(i) : even(10_000) + (i - 10_000) / 700)),
  ],
  'times that scatter': [/^time/, (seed) => asText(shaken(seed), jittered(seeded(seed), 0.12))],
  'times that go back': [
    /^time/,
    (seed) => asText(shaken(seed), (i) => even(i % 500 === 250 ? i - 40 : i)),
  ],
  'a rate that is too slow': [
    /^rate/,
    (seed) =>
      asText(
        shaken(seed).map((one) => one.filter((_, i) => i % 8 === 0)),
        (i) => 8 * even(i),
      ),
  ],
  'one second': [/^record/, (seed) => asText(shaken(seed).map((one) => one.slice(9000, 9800)))],
  'two columns': [/^record/, (seed) => asText(shaken(seed).slice(0, 2))],
};

test.each(Object.keys(WRONG))('refused for what is wrong with it: %s', (name) => {
  const [where, made] = WRONG[name]!;
  for (const seed of SEEDS) {
    const { refused, proposal } = analyse(made(seed));
    expect(refused[0]!.where).toMatch(where);
    expect(refused[0]!.mend.length).toBeGreaterThan(10);
    expect(proposal).toBeNull();
  }
});
