import fc from 'fast-check';
import { boxOnBed } from '../../bench/bed';
import { FILAMENTS, MACHINES, type MachinePreset } from '../../bench/presets';
import { DIALECTS, type Column } from '../../dialect/dialect';
import { MOVE } from '../../gcode/trace';
import { benchFor, good, makeTemperature, temperatureKind } from '../../testing';
import { SETTINGS } from '../../bench/settings';
import { makeLadder, rungTimes } from '../make';
import { parsePlan } from '../../plan/plan';
import { dimensionsOf, layersOf } from './form';
import { Spec } from './spec';

const kind = temperatureKind();
const machines = Object.keys(MACHINES) as MachinePreset[];
const codes = (spec: Record<string, number>, bench = benchFor()) =>
  kind.check({ ...kind.defaults(bench), ...spec }, bench).map(({ code }) => code);

describe.each(machines)('on %s', (name) => {
  test.each([0.2, 0.4, 0.8, 1])('a %p mm nozzle gives a file with nothing amiss', (bore) => {
    const bench = benchFor(name, { bore });
    const made = makeTemperature({ from: 215, to: 200 }, bench);
    // A fine nozzle feeds little between the long ways back of a tube.
    expect(made.audit.findings.map(({ code, grade }) => `${grade} ${code}`)).toEqual(
      name === 'heron' && bore === 0.2 ? ['note filament-chewed'] : [],
    );
    expect(made.audit.rungs.map(({ ok }) => ok)).toEqual([true, true, true, true]);
    expect(boxOnBed(bench.machine.bed, made.audit.box!)).toBe(true);
    expect(makeTemperature({ from: 215, to: 200 }, bench).text).toBe(made.text);
  });

  test.each(Object.keys(DIALECTS) as Column[])('column %s is written and put back', (column) => {
    const bench = benchFor(name);
    bench.machine.dialect = DIALECTS[column];
    expect(makeTemperature({ from: 210, to: 205 }, bench).audit.findings).toEqual([]);
  });
});

test('filament of 2.85 mm takes as much plastic in less length', () => {
  const thin = makeTemperature({ from: 205, to: 200 });
  const thick = makeTemperature(
    { from: 205, to: 200 },
    benchFor('heron', { filament: { ...FILAMENTS.moss, diameter: 2.85 } }),
  );
  const plastic = ({ audit }: typeof thin, diameter: number) => audit.filament * diameter ** 2;
  // The last retraction stays drawn, and takes more plastic out of a thicker strand.
  expect(plastic(thick, 2.85) / plastic(thin, 1.75)).toBeGreaterThan(0.9);
  expect(plastic(thick, 2.85) / plastic(thin, 1.75)).toBeLessThan(1.25);
});

test.each([
  ['descending', { from: 225, to: 190, step: 5 }, 8],
  ['ascending', { from: 190, to: 225, step: 5 }, 8],
  ['a step that does not divide the range', { from: 225, to: 192, step: 5 }, 7],
  ['one rung', { from: 205, to: 205, step: 5 }, 1],
  ['two rungs of one degree', { from: 205, to: 204, step: 1 }, 2],
])('%s: the value changes on the first layer of its rung', (_, spec, count) => {
  const { plan, trace, audit, text } = makeTemperature(spec);
  expect(plan.rungs).toHaveLength(count);
  expect(audit.rungs.every(({ ok }) => ok)).toBe(true);
  const lines = text.split('\n');
  for (const { line, set, layers, z } of plan.rungs) {
    expect(lines[line - 1]).toBe(`M104 S${set.nozzle}`);
    expect(z.to - z.from).toBeCloseTo((layers.last - layers.first + 1) * plan.layerHeight, 6);
    // Nothing of this rung is laid before its line, nothing of the one below after it.
    const { moves } = trace;
    for (let i = 0; i < moves.count; i++) {
      if (moves.kind[i] !== MOVE.extrude) continue;
      if (moves.z[i]! > z.from + 1e-3 && moves.z[i]! <= z.to + 1e-3)
        expect(moves.line[i]!).toBeGreaterThan(line);
      if (moves.z[i]! <= z.from + 1e-3) expect(moves.line[i]!).toBeLessThan(line);
    }
  }
});

test('thirty rungs fit a tall machine, and a low one says how many would', () => {
  const bench = benchFor();
  bench.machine.height = 300;
  const spec = { from: 235, to: 206, step: 1, rungHeight: 6 };
  expect(makeTemperature(spec, bench).plan.rungs).toHaveLength(30);
  const refused = makeLadder('temperature', { ...spec, rungHeight: 12 }, benchFor());
  expect(refused.ok).toBe(false);
  expect(codes({ ...spec, rungHeight: 12 })).toContain('too-tall');
  expect(codes({ from: 235, to: 205, step: 1 })).toContain('too-many-rungs');
});

test.each([
  [{ from: 300 }, 'above-hot-end'],
  [{ to: 165 }, 'too-cold'],
  [{ from: 235 }, 'outside-label'],
  [{ from: 190, to: 225 }, 'coolest-first'],
  [{ to: 192 }, 'not-whole'],
  [{ shiftX: 90 }, 'off-bed'],
  [{ layerHeight: 0.35 }, 'layer-height'],
  [{ span: 11 }, 'span-narrow'],
  [{ rungHeight: 8.1 }, 'rung-rounded'],
])('%j is told as %s', (spec, code) => {
  expect(codes(spec)).toContain(code);
});

test('the defaults of every demo bench have nothing to tell', () => {
  for (const name of machines)
    for (const filament of Object.values(FILAMENTS)) {
      const bench = benchFor(name, { filament });
      const stops = kind.check(kind.defaults(bench), bench).filter(({ grade }) => grade !== 'note');
      expect(stops).toEqual([]);
    }
});

test('a rung is given at least twice the time that its temperature drifts', () => {
  const { plan, motion, trace } = makeTemperature({ from: 210, to: 200 });
  for (const seconds of rungTimes(plan, motion, trace))
    expect(seconds).toBeGreaterThan(2 * SETTINGS.nozzle.settlesS);
});

test('in every rung strands bridge, walls overhang and digits stand out of the face', () => {
  const dims = dimensionsOf(Spec.parse(kind.defaults(benchFor())), 0.4);
  const layers = layersOf(dims, 1, ['205', '200']);
  for (const rung of [0, 1]) {
    const own = layers.flatMap(({ parts }) => parts.filter((part) => part.rung === rung));
    const front = own.map(({ outline }) => Math.min(...outline.flat().map(({ y }) => y)));
    expect(Math.min(...front)).toBeCloseTo(-dims.digits.relief, 3);
    const right = own.map(({ outline }) => Math.max(...outline.flat().map(({ x }) => x)));
    expect(Math.max(...right)).toBeGreaterThan(dims.end + 1.5);
    // Leaning out by the angle asked for: no layer stands further out than that allows.
    const steps = right.slice(1).map((x, i) => x - right[i]!);
    expect(Math.max(...steps)).toBeCloseTo(dims.layer * Math.tan((55 * Math.PI) / 180), 2);
    const islands = own.map(({ outline }) => outline.length);
    expect(Math.max(...islands)).toBe(3);
    expect(islands.at(-1)).toBe(1);
  }
});

test('plastic laid agrees with the bead section, stroke by stroke', () => {
  const { trace } = makeTemperature({ from: 205, to: 205 });
  const wall = (0.2 * (0.45 - 0.2) + (Math.PI * 0.2 ** 2) / 4) / ((Math.PI * 1.75 ** 2) / 4);
  const strand = (Math.PI * 0.4 ** 2) / 4 / ((Math.PI * 1.75 ** 2) / 4);
  const { moves } = trace;
  for (let i = 1; i < moves.count; i++) {
    if (moves.kind[i] !== MOVE.extrude || moves.z[i]! < 0.3) continue;
    const length = Math.hypot(moves.x[i]! - moves.x[i - 1]!, moves.y[i]! - moves.y[i - 1]!);
    if (length < 1) continue;
    const perMm = moves.e[i]! / length;
    const nearest = Math.min(Math.abs(perMm / wall - 1), Math.abs(perMm / strand - 1));
    expect(nearest).toBeLessThan(0.003);
  }
});

test('travel between islands is drawn back, travel inside one is not', () => {
  const { text } = makeTemperature({ from: 205, to: 205 });
  const lines = text.split('\n');
  const layer = lines.indexOf('; layer 12, z 2.4');
  const own = lines.slice(layer, lines.indexOf('; layer 13, z 2.6'));
  const drawn = own.filter((line) => line.startsWith('G1 E-5')).length;
  expect(drawn).toBe(3); // three islands: two gaps, and the way back to the first
});

test('no travel crosses the gap undrawn, not even while the deck is being laid', () => {
  const { trace, plan } = makeTemperature({ from: 205, to: 205 });
  const { moves } = trace;
  const dims = dimensionsOf(Spec.parse(kind.defaults(benchFor())), 0.4);
  // The gap in machine coordinates, from where the left body's outer wall runs.
  const laid = [...moves.x].filter((_, i) => moves.kind[i] === MOVE.extrude && moves.z[i]! > 1.5);
  const leftEdge = Math.min(...laid) - dims.bead / 2;
  const [from, to] = [leftEdge + dims.left + 2, leftEdge + dims.right - 2];
  let drawn = 0;
  for (let i = 1; i < moves.count; i++) {
    drawn += moves.e[i]! < 0 || moves.kind[i] === MOVE.restart ? moves.e[i]! : 0;
    if (moves.kind[i] !== MOVE.travel || moves.z[i]! <= plan.rungs[0]!.z.from + 0.1) continue;
    const [a, b] = [moves.x[i - 1]!, moves.x[i]!].sort((p, q) => p - q);
    // Over the second and later deck layers there is plastic below.
    const deckLaid = moves.z[i]! > plan.rungs[0]!.z.to - (dims.deckLayers - 1) * dims.layer + 0.01;
    if (a! < from && b! > to && !deckLaid) expect(drawn).toBeLessThan(-1);
  }
});

test('a file carries its plan and gives it back', () => {
  const { trace, plan } = makeTemperature({ from: 205, to: 200 });
  expect(good(parsePlan(trace.planText!))).toEqual(plan);
});

test('no name of the user’s adds a command', () => {
  const plain = benchFor('heron', { filament: { ...FILAMENTS.moss, name: 'x' } });
  const evil = benchFor('heron', { filament: { ...FILAMENTS.moss, name: 'x\nM104 S300' } });
  for (const bench of [plain, evil])
    bench.machine.startBlock = `M117 {filament} on {machine}\n${bench.machine.startBlock}`;
  evil.machine.name = 'Heron\r\nM112;\u2028G28';
  const commands = (bench: typeof plain) =>
    makeTemperature({ from: 205, to: 200 }, bench)
      .text.split(/[\r\n\u2028]/)
      .filter((line) => !line.startsWith(';') && !line.startsWith('M117'));
  expect(commands(evil)).toEqual(commands(plain));
});

test('an unknown placeholder in a block is refused with its line', () => {
  const bench = benchFor();
  bench.machine.endBlock = 'M104 S0\nM117 {nonsense}';
  const made = makeLadder('temperature', {}, bench);
  expect(made).toMatchObject({ ok: false, problems: [{ where: 'end block, line 2' }] });
});

test('a file that fails its own audit is not handed out', () => {
  const bench = benchFor();
  bench.machine.endBlock = 'M84';
  const made = makeLadder('temperature', {}, bench);
  expect(made.ok).toBe(false);
});

test('the name of the file tells bench, kind, range and step', () => {
  expect(makeTemperature({ from: 210, to: 200 }).plan.file).toBe(
    'heron-0.4-moss-matte-pla_temperature_210-200-by-5.gcode',
  );
});

test('any spec is either made as asked or refused with reasons', () => {
  const bench = benchFor('newt');
  const whole = (min: number, max: number) => fc.integer({ min, max });
  const spec = fc.record({
    from: whole(150, 300),
    to: whole(150, 300),
    step: whole(3, 60),
    rungHeight: fc.double({ min: 6, max: 14, noNaN: true }),
    walls: whole(1, 3),
    overhangDeg: whole(30, 70),
    span: whole(16, 60),
    brim: whole(0, 12),
    skirtLoops: whole(0, 3),
    shiftX: whole(-80, 80),
  });
  fc.assert(
    fc.property(spec, (given) => {
      const made = makeLadder('temperature', given, bench);
      if (!made.ok) {
        expect(made.problems.length).toBeGreaterThan(0);
        return;
      }
      expect(made.value.audit.rungs.every(({ ok }) => ok)).toBe(true);
      expect(boxOnBed(bench.machine.bed, made.value.audit.box!, 1)).toBe(true);
    }),
    { seed: 61, numRuns: 12 },
  );
});
