import fc from 'fast-check';
import { normal, seeded } from '../random';
import { analyse, checkSensor } from './analyse';
import { asText, felt, type MadeUp, type Mode } from './testing/made-up';
import { GRAVITY } from './record';

const QUICK = { rate: 800, pace: 4 };
const one = (hz: number, damping: number): Mode[] => [{ hz, damping, share: 1 }];
const record = (given: Partial<MadeUp> & { modes: Mode[] }) => felt({ ...QUICK, ...given });
const textOf = (given: Partial<MadeUp> & { modes: Mode[] }, form = {}) =>
  asText(record(given), given.rate ?? QUICK.rate, form);

test('the main peak and its damping are found, however the sensor sits and whatever rings beside it', () => {
  let [near, alike] = [0, 0];
  const ROUNDS = 10;
  for (let seed = 1; seed <= ROUNDS; seed++) {
    const random = seeded(seed);
    const [hz, damping] = [25 + 60 * random(), 0.03 + 0.1 * random()];
    const modes = one(hz, damping);
    if (seed % 2 === 0) {
      modes[0]!.share = 0.75;
      modes.push({ hz: hz * (1.6 + 0.5 * random()), damping: 0.06, share: 0.25 });
    }
    const found = analyse(textOf({ modes, seed, noise: 50 + 300 * random() }));
    expect(found.refused).toEqual([]);
    const [peak] = found.peaks;
    if (Math.abs(peak!.hz - hz) <= Math.max(0.5, 0.015 * hz)) near++;
    if (Math.abs(peak!.damping / damping - 1) <= 0.25) alike++;
  }
  expect(near).toBeGreaterThanOrEqual(ROUNDS - 1);
  expect(alike).toBeGreaterThanOrEqual(ROUNDS - 2);
});

describe('records as people have them', () => {
  const columns = record({ modes: one(42, 0.06) });
  const plain = analyse(asText(columns, 800));
  test.each<[string, object, string]>([
    [
      'a header, and columns in another order',
      { header: ['z', 'x', 'time (s)', 'y'], order: [3, 1, 0, 2] },
      'm/s²',
    ],
    ['g and milliseconds, by semicolons', { per: GRAVITY, milliseconds: true, by: ';' }, 'g'],
    ['mm/s², by tabs', { per: 1, by: '\t' }, 'mm/s²'],
    ['a header that is a comment', { header: ['#time', 'accel_x', 'accel_y', 'accel_z'] }, 'm/s²'],
    ['columns that are lined up with spaces', { by: '   ' }, 'm/s²'],
  ])('%s', (_, form, unit) => {
    const found = analyse(asText(columns, 800, form));
    expect(found.refused).toEqual([]);
    expect(found.unit).toBe(unit);
    expect(found.rate).toBeCloseTo(800, 0);
    expect(found.peaks[0]!.hz).toBeCloseTo(plain.peaks[0]!.hz, 1);
  });

  test('without times a rate is asked for, and taken', () => {
    const text = asText(columns, 800, { order: [1, 2, 3] });
    expect(analyse(text).refused[0]).toMatchObject({ where: 'rate' });
    expect(analyse(text, { rate: 800 }).peaks[0]!.hz).toBeCloseTo(plain.peaks[0]!.hz, 1);
  });

  test('a row that is cut off in the middle, and a last line of talk, lose nothing else', () => {
    const lines = asText(columns, 800).split('\n');
    const cut = [...lines, lines.at(-1)!.slice(0, 9)].join('\n');
    expect(analyse(cut).refused).toEqual([]);
    const broken = [...lines.slice(0, 40), 'overrun', ...lines.slice(40)].join('\n');
    expect(analyse(broken).refused[0]).toMatchObject({ where: 'row 41' });
  });

  test('no text throws', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 400 }), (text) => {
        expect(analyse(text).refused.length).toBeGreaterThan(0);
      }),
    );
  });
});

describe('a sensor that is not right is told, with what to look at', () => {
  const still = (change: (axis: number, i: number, value: number) => number, count = 800) => {
    const random = seeded(4);
    return asText(
      [0, 1, 2].map((axis) =>
        Float64Array.from({ length: count }, (_, i) =>
          change(axis, i, (axis === 2 ? GRAVITY : 0) + 60 * normal(random)),
        ),
      ),
      800,
    );
  };
  test('a second of a good one at rest says nothing', () => {
    expect(checkSensor(still((_, __, value) => value))).toEqual([]);
  });
  test.each<[string, (axis: number, i: number, value: number) => number, string, RegExp]>([
    ['zeros', () => 0, 'sensor', /zero/],
    ['one number for ever', () => 4711, 'sensor', /the same/],
    ['a dead axis', (axis, _, value) => (axis === 1 ? 0 : value), 'y', /dead/],
    ['no gravity', (axis, _, value) => value - (axis === 2 ? GRAVITY : 0), 'unit', /gravity/],
    ['noise', (_, i, value) => value + 9000 * Math.sin(i * i), 'noise', /scatter/],
  ])('%s', (_, change, where, what) => {
    const [first] = checkSensor(still(change), { ...(where === 'noise' ? { unit: 'm/s²' } : {}) });
    expect(first).toMatchObject({ where });
    expect(first!.what).toMatch(what);
    expect(first!.mend.length).toBeGreaterThan(10);
  });

  const shaken = record({ modes: one(45, 0.05), noise: 60 });
  const asked = (columns: readonly Float64Array[], times?: (i: number) => number) => {
    const rows = Array.from(columns[0]!, (_, i) =>
      [times ? times(i) : i / 800, ...columns.map((column) => column[i]! / 1000)].join(','),
    );
    return analyse(rows.join('\n'), { unit: 'm/s²' }).refused[0];
  };
  test('one that is cut off at its range', () => {
    const most = 2 * GRAVITY;
    const cut = shaken.map((column) => column.map((v) => Math.max(-most, Math.min(most, 4 * v))));
    expect(asked(cut)!.what).toContain('cut off at 2 g');
  });
  test('gaps, and a pace that is uneven', () => {
    const gappy = (i: number) => i / 800 + 0.4 * Math.floor(i / 4000);
    expect(asked(shaken, gappy)!.what).toContain('gaps');
    const uneven = (i: number) => (i < 8000 ? i / 800 : 10 + (i - 8000) / 1000);
    expect(asked(shaken, uneven)!.what).toContain('uneven');
  });
  test('one that is too slow, too short, or was shaken upright', () => {
    const slow = analyse(asText(shaken, 90)).refused[0];
    expect(slow).toMatchObject({ where: 'rate' });
    const short = analyse(
      asText(
        shaken.map((column) => column.slice(0, 900)),
        800,
      ),
    ).refused[0];
    expect(short).toMatchObject({ where: 'record' });
    const [x, y, z] = record({ modes: one(45, 0.05), seed: 3 });
    const upright = Float64Array.from(x, () => GRAVITY).map(
      (one, i) => one + 3 * (x[i]! + y[i]! + z[i]!) - 3 * (x[0]! + y[0]! + z[0]!),
    );
    const flat = [
      upright,
      y.map(() => 0).map((_, i) => 30 * Math.sin(i)),
      y.map((_, i) => 30 * Math.cos(2 * i)),
    ];
    expect(asked(flat)).toMatchObject({ where: 'axis' });
  });
});

test('the proposal is the option that allows the most, and each stays under both limits', () => {
  const { shapers, proposal, peaks } = analyse(textOf({ modes: one(38, 0.05) }));
  expect(shapers).toHaveLength(6);
  expect(shapers.map((one) => one.acceleration)).toEqual(
    shapers.map((one) => one.acceleration).sort((a, b) => b - a),
  );
  for (const option of shapers) {
    expect(option.echo).toBeLessThanOrEqual(0.012 + 1e-6);
    expect(option.rounding).toBeLessThanOrEqual(0.12 + 1e-6);
    expect(option.moved).toBeLessThanOrEqual(option.acceleration);
  }
  expect(proposal).toMatchObject({ answer: 'shaper', type: shapers[0]!.type, hz: shapers[0]!.hz });
  expect(proposal!.acceleration).toBeGreaterThan(2 * proposal!.plain);
  expect(Math.abs(peaks[0]!.hz - 38)).toBeLessThan(0.5);
});

test('a stiff machine needs none, and one with two loose parts is to be mended first', () => {
  const stiff = analyse(textOf({ modes: one(110, 0.2) }), { machine: 2000 });
  expect(stiff.proposal!.answer).toBe('none');
  const loose = analyse(
    textOf({
      modes: [
        { hz: 11, damping: 0.06, share: 0.5 },
        { hz: 27, damping: 0.06, share: 0.5 },
      ],
    }),
  );
  expect(loose.proposal!.answer).toBe('mend');
});
