import fc from 'fast-check';
import { audit } from '../gcode/audit';
import { askedFor } from '../gcode/asked';
import { readBytes } from '../gcode/read';
import { MOVE } from '../gcode/trace';
import { benchFor, good } from '../testing';
import { seeded } from '../random';
import { graft, type Grafted } from './graft';
import { proveGraft } from './prove';
import { sourceOf, type Source } from './source';
import { CLIMBS, OBSTACLES, Wish, type Climbs, type Mend, type WishInput } from './recipe';
import {
  drawnPlain,
  drawnTower,
  slice,
  SECTIONS,
  towerOf,
  rectangle,
  type Sliced,
} from './testing/slicer';
import { ungraft } from './ungraft';
import { heightsOf, rowsOf, tableOf, tableText } from './wishes';

const bytesOf = (text: string) => new TextEncoder().encode(text);
const TOWER = { base: 1.4, section: 4, count: 5, cap: 1 };
const heron = benchFor('heron');

function sliced(how: Partial<Sliced> = {}): Source {
  const model = towerOf(
    TOWER,
    SECTIONS.window!(0.6, seeded(1)),
    [rectangle(-4, -4, 50, 26)],
    () => [rectangle(2, 2, 12, 9)],
  );
  how = { infill: 0, ...how };
  const bytes = bytesOf(slice(model, how));
  return sourceOf('lantern head.gcode', bytes, readBytes(bytes, heron.machine));
}

const RANGES: Record<Climbs, { from: number; to: number; step: number }> = {
  nozzle: { from: 220, to: 200, step: 5 },
  fan: { from: 0.2, to: 1, step: 0.2 },
  flow: { from: 0.9, to: 1.1, step: 0.05 },
  pace: { from: 0.6, to: 1.4, step: 0.2 },
  retraction: { from: 1, to: 5, step: 1 },
  retractSpeed: { from: 20, to: 40, step: 5 },
  restartExtra: { from: -0.1, to: 0.1, step: 0.05 },
  restartSpeed: { from: 20, to: 40, step: 5 },
  lift: { from: 0, to: 0.8, step: 0.2 },
  advance: { from: 0, to: 0.8, step: 0.2 },
  acceleration: { from: 500, to: 2500, step: 500 },
  jerk: { from: 4, to: 12, step: 2 },
  deviation: { from: 0.01, to: 0.05, step: 0.01 },
  square: { from: 2, to: 10, step: 2 },
};
const LIFTED = Object.fromEntries(
  OBSTACLES.filter((one) => one !== 'slowed').map((one) => [one, 'lift']),
) as Record<(typeof OBSTACLES)[number], Mend>;

const wishFor = (setting: Climbs, rest: Partial<WishInput> = {}): Wish =>
  Wish.parse({
    rows: good(rowsOf(setting, RANGES[setting], heightsOf(TOWER))).rows,
    mends: LIFTED,
    ...rest,
  });

/** Problems that the file's own check finds, by code. */
function stops({ bytes, plan }: Grafted, bench = heron): string[] {
  const { findings } = audit(readBytes(bytes, bench.machine), bench, askedFor(plan));
  return [...proveGraft(bytes, plan), ...findings]
    .filter(({ grade, code }) => grade === 'stop' && !code.startsWith('heater'))
    .map(({ code, what }) => `${code}: ${what}`);
}

const BENCHES = { jerk: 'heron', deviation: 'otter', square: 'wren' } as const;
const WAYS = [
  ...CLIMBS.map((one) => [one, 'command', CLIMBS.indexOf(one) % 2 === 0] as const),
  ...(['flow', 'pace', 'retraction', 'restartExtra'] as const).flatMap((one) =>
    [false, true].map((absolute) => [one, 'moves', absolute] as const),
  ),
];

test.each(WAYS)(
  '%s by %s is in force in every section, proven from the text (absolute: %s)',
  (setting, way, absolute) => {
    const bench = benchFor(BENCHES[setting as 'jerk'] ?? 'heron');
    const source = sliced({
      absolute,
      resets: setting === 'flow' || setting === 'pace',
      lift: 0.4,
      accelerations: true,
      meddles: [6, 12],
    });
    const made = good(graft(source, wishFor(setting, { ways: { [setting]: way } }), bench));
    expect(stops(made, bench)).toEqual([]);
    expect(made.plan.rungs).toHaveLength(5);
    expect(good(ungraft(made.bytes)).bytes).toEqual(source.bytes);
  },
);

test.each(['retraction', 'retractSpeed', 'restartExtra', 'restartSpeed', 'lift'] as const)(
  '%s by the firmware’s own retraction, where the file uses it',
  (setting) => {
    const text = new TextDecoder().decode(sliced({ retraction: 1 }).bytes);
    const own = text.replace(/^G1 E-1\.0+.*$/gm, 'G10').replace(/^G1 E1\.0+.*$/gm, 'G11');
    const source = sourceOf('own.gcode', bytesOf(own), readBytes(bytesOf(own), heron.machine));
    const made = good(graft(source, wishFor(setting), heron));
    expect(made.plan.ways![setting]).toBe('firmware');
    expect(stops(made)).toEqual([]);
    expect(good(ungraft(made.bytes)).bytes).toEqual(source.bytes);
  },
);

test('of a file without a lift the head is lifted where it is asked to, and comes down again', () => {
  const source = sliced({ retraction: 0.8 });
  const made = good(graft(source, wishFor('lift'), heron));
  expect(stops(made)).toEqual([]);
  expect(good(ungraft(made.bytes)).bytes).toEqual(source.bytes);
});

test('only the lines that the recipe lists differ from the original', () => {
  const source = sliced({ absolute: true, meddles: [10] });
  const { bytes, recipe } = good(
    graft(source, wishFor('flow', { ways: { flow: 'moves' } }), heron),
  );
  const old = new TextDecoder().decode(source.bytes).split('\n');
  const now = new TextDecoder().decode(bytes).split('\n');
  const listed = (runs: number[]) => {
    const all = new Set<number>();
    let end = 0;
    for (let i = 0; i < runs.length; i += 2) {
      for (let n = end + runs[i]!; n < end + runs[i]! + runs[i + 1]!; n++) all.add(n);
      end += runs[i]! + runs[i + 1]!;
    }
    return all;
  };
  const [inserted, lifted, rewritten] = [recipe.inserted, recipe.lifted, recipe.rewritten].map(
    listed,
  );
  let at = 0;
  for (let n = 1; n < recipe.tail; n++) {
    if (inserted!.has(n)) continue;
    if (!lifted!.has(n) && !rewritten!.has(n)) expect(now[n - 1]).toBe(old[at]);
    at++;
  }
  expect(at).toBe(old.length - 1);
  expect(rewritten!.size).toBeGreaterThan(100);
});

test('taking out again is the identity, whatever the file and the recipe', () => {
  const seen: Record<string, number> = {};
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 60 }),
      fc.constantFrom(...CLIMBS),
      fc.constantFrom('command' as const, 'moves' as const),
      fc.boolean(),
      fc.boolean(),
      fc.uniqueArray(fc.integer({ min: 1, max: 500 }), { minLength: 1, maxLength: 8 }),
      (seed, setting, way, lift, own, tenths) => {
        const source = files(seed);
        const heights = tenths.sort((a, b) => a - b).map((one) => one / 10);
        const { from, step } = RANGES[setting];
        const wish = Wish.parse({
          rows: heights.map((at, i) => ({
            from: at,
            set: { [setting]: from + (i % 5) * step * (setting === 'nozzle' ? -1 : 1) },
          })),
          mends: lift ? { ...LIFTED, slowed: 'hold' } : {},
          ways: { [setting]: way },
          ownBlocks: own,
        });
        const bench = benchFor(BENCHES[setting as 'jerk'] ?? 'heron');
        const made = graft(source, wish, bench);
        if (!made.ok) return;
        seen[setting] = (seen[setting] ?? 0) + 1;
        expect(Buffer.compare(good(ungraft(made.value.bytes)).bytes, source.bytes)).toBe(0);
      },
    ),
    { numRuns: Number(process.env.ASH_GRAFTS ?? 16), seed: 14 },
  );
  expect(Object.keys(seen).length).toBeGreaterThan(5);
});

const drawn = new Map<number, Source>();
function files(seed: number): Source {
  const known = drawn.get(seed);
  if (known) return known;
  const { text } = seed % 3 === 0 ? drawnPlain(seed) : drawnTower(seed);
  // Files end as they like, and hold whatever signs they like.
  const odd =
    seed % 4 === 0 ? text.trimEnd() : seed % 5 === 0 ? `; ü\n;@out x\n;@plan {\n${text}` : text;
  const bytes = seed % 7 === 0 ? Uint8Array.from(Buffer.from(odd, 'latin1')) : bytesOf(odd);
  const source = sourceOf('one.gcode', bytes, readBytes(bytes, heron.machine));
  drawn.set(seed, source);
  return source;
}

test('a file that was changed on the way is caught, wherever it was', () => {
  const source = sliced({ absolute: true });
  const { bytes, plan } = good(graft(source, wishFor('flow', { ways: { flow: 'moves' } }), heron));
  const lines = new TextDecoder().decode(bytes).split('\n');
  const random = seeded(3);
  for (let k = 0; k < 12; k++) {
    const at = Math.floor(random() * (lines.length - 1));
    const changed = [...lines];
    changed[at] = changed[at]!.replace(/\d(?=\D*$)/, (digit) => `${(Number(digit) + 1) % 10}`);
    if (changed[at] === lines[at] || lines[at]!.startsWith(';@plan')) continue;
    expect([at, proveGraft(bytesOf(changed.join('\n')), plan).length]).not.toEqual([at, 0]);
  }
});

/** A relative file with lines of the user's own put in before a layer. */
function meddled(...lines: string[]): Source {
  const text = new TextDecoder().decode(sliced().bytes);
  const own = text.replace('; layer 40\n', `; layer 40\n${lines.join('\n')}\n`);
  return sourceOf('own.gcode', bytesOf(own), readBytes(bytesOf(own), heron.machine));
}
const OWN: [string, Climbs, 'command' | 'moves', Mend][] = [
  ['M221 S95', 'flow', 'command', 'lift'],
  ['M221 S95', 'flow', 'moves', 'lift'],
  ['M221 S95', 'nozzle', 'command', 'hold'],
  ['M220 S80', 'pace', 'moves', 'lift'],
  ['M220 S80', 'nozzle', 'command', 'hold'],
  ['M104 S207', 'fan', 'command', 'hold'],
];
test.each(OWN)('%s of the file, while %s climbs by %s: %s', (line, setting, way, mend) => {
  const source = meddled(line);
  const mends = Object.fromEntries(OBSTACLES.map((one) => [one, mend]));
  const made = good(graft(source, wishFor(setting, { ways: { [setting]: way }, mends }), heron));
  expect(stops(made)).toEqual([]);
  expect(new TextDecoder().decode(made.bytes)).toContain(`;@out ${line}\n`);
  expect(good(ungraft(made.bytes)).bytes).toEqual(source.bytes);
});

test('layers that were slowed run as the others where that is held, also while speed climbs', () => {
  const source = sliced({ shortest: 3 });
  const mends = { ...LIFTED, slowed: 'hold' as const };
  for (const setting of ['nozzle', 'pace'] as const) {
    const wish = wishFor(setting, { ways: { pace: 'moves' }, mends });
    const made = good(graft(source, wish, heron));
    expect(stops(made)).toEqual([]);
    expect(good(ungraft(made.bytes)).bytes).toEqual(source.bytes);
  }
});

test('a file that goes on in steps for a while is fed as it was before and after', () => {
  const text = new TextDecoder().decode(sliced({ absolute: true }).bytes);
  const step = 'G91\nG1 E-0.5 F2100\nG1 E0.5\nG90\n';
  const own = text.replace(/(; layer 40\n)/, `$1${step}`);
  const source = sourceOf('own.gcode', bytesOf(own), readBytes(bytesOf(own), heron.machine));
  const made = good(graft(source, wishFor('flow', { ways: { flow: 'moves' } }), heron));
  expect(stops(made)).toEqual([]);
  expect(good(ungraft(made.bytes)).bytes).toEqual(source.bytes);
});

test('sections that no layer of their own has, or that begin above the print, are refused', () => {
  const source = sliced();
  const at = (...heights: number[]) =>
    graft(
      source,
      Wish.parse({ rows: heights.map((from, i) => ({ from, set: { nozzle: 220 - i } })) }),
      heron,
    );
  const said = (result: ReturnType<typeof at>) => (result.ok ? '' : result.problems[0]!.what);
  expect(said(at(1.4, 5, 5.05))).toBe('Sections 2 and 3 would begin with the same layer, at 5 mm.');
  expect(said(at(1.4, 90))).toContain('the print ends at');
});

test('start and end of the bench take the place of those of the file, and the print goes on as it was', () => {
  const source = sliced({
    absolute: true,
    start: ['M502', 'G28', 'M109 S215', 'G90', 'G1 Z0.3 F600'],
  });
  const made = good(graft(source, wishFor('nozzle', { ownBlocks: true }), heron));
  expect(stops(made)).toEqual([]);
  const text = new TextDecoder().decode(made.bytes);
  expect(text).toContain(';@out M502');
  expect(text).not.toMatch(/^M502/m);
  // Every stroke is where it was, with as much plastic at the same speed.
  const strokes = (bytes: Uint8Array) => {
    const { moves } = readBytes(bytes, heron.machine);
    return [...Array(moves.count).keys()]
      .filter((i) => moves.kind[i] === MOVE.extrude && moves.z[i]! > 0.5)
      .map((i) => [moves.x[i], moves.y[i], moves.z[i], moves.e[i]!.toFixed(4), moves.speed[i]]);
  };
  expect(strokes(made.bytes)).toEqual(strokes(source.bytes));
  // The head comes over what the bench's start has laid, and goes down only where the print begins.
  expect(text).toMatch(/G1 Z5 F600\nG1 X\S+ Y\S+ F3000\nG1 Z/);
  expect(good(ungraft(made.bytes)).bytes).toEqual(source.bytes);
});

test('retraction of the firmware stands afterwards as the file said it, not as the machine is described', () => {
  const text = new TextDecoder().decode(sliced({ retraction: 1 }).bytes);
  const own = text
    .replace(/^G1 E-1\.0+.*$/gm, 'G10')
    .replace(/^G1 E1\.0+.*$/gm, 'G11')
    .replace('; layer 0\n', 'M207 S2.2 F1500\n; layer 0\n');
  const source = sourceOf('own.gcode', bytesOf(own), readBytes(bytesOf(own), heron.machine));
  const made = good(graft(source, wishFor('retraction'), heron));
  const [, end] = new TextDecoder().decode(made.bytes).split('; sections end: as before\n');
  expect(
    end!
      .split('\n')
      .filter((line) => line.startsWith('M207'))
      .at(-1),
  ).toBe('M207 S2.2 F1500');
});

test('what climbs and is set by the file itself has to be lifted out', () => {
  const source = sliced({ meddles: [6, 12] });
  const made = graft(source, wishFor('nozzle', { mends: {} }), heron);
  expect(made.ok).toBe(false);
  if (!made.ok) expect(made.problems[0]!.what).toContain('2 times');
});

test('after the sections stands again what stood before them', () => {
  const source = sliced({ meddles: [6] });
  const { bytes } = good(graft(source, wishFor('nozzle'), heron));
  const text = new TextDecoder().decode(bytes);
  const [, end] = text.split('; sections end: as before\n');
  expect(end!.split('\n')[0]).toBe('M104 S215');
  expect(text).toContain(';@out M104');
});

test('a table comes in and goes out the same', () => {
  const rows = good(tableOf('height,nozzle,fan\n1.4,220,0.3\n5.4,215,\n9.4,210,0.6\n', heron));
  expect(rows[1]!.set).toEqual({ nozzle: 215, fan: 0.3 });
  expect(good(tableOf(tableText(rows), heron))).toEqual(rows);
  const source = sliced();
  const made = good(graft(source, Wish.parse({ rows, mends: LIFTED }), heron));
  expect(stops(made)).toEqual([]);
  for (const text of [
    '',
    'height\n1',
    'height,colour\n1,2',
    'height,nozzle\n1,hot',
    'height,nozzle\n5,200\n1,200',
  ])
    expect(tableOf(text, heron).ok).toBe(false);
});

test('a steady climb has a value for every layer', () => {
  const source = sliced();
  const wish = Wish.parse({
    rows: [{ from: 1.4, set: { advance: 0.1 } }],
    slope: { setting: 'advance', perMm: 0.01 },
    mends: LIFTED,
  });
  const made = good(graft(source, wish, heron));
  expect(stops(made)).toEqual([]);
  const set = new TextDecoder().decode(made.bytes).match(/^M900 K/gm)!;
  expect(set.length).toBeGreaterThan(90);
  expect(good(ungraft(made.bytes)).bytes).toEqual(source.bytes);
});
