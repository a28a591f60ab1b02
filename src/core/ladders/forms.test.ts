/** What forms must have for their effect to show, seen in the moves of their files. */

import { inForce, tunedMachine } from '../bench/in-force';
import { conditionsOf } from '../deposit/conditions';
import { unheld } from '../deposit/testing';
import { askedFor } from '../gcode/asked';
import { audit } from '../gcode/audit';
import { readText } from '../gcode/read';
import { rungFinder } from '../gcode/rungs';
import { changeAt, MOVE, type Trace } from '../gcode/trace';
import { benchFor, good } from '../testing';
import { strokesOf } from '../shape/digits';
import { reliefAt, reliefFor } from '../shape/relief';
import { boxOf } from '../shape/region';
import { makeLadder, type Made } from './make';
import { kinds } from './registry';

const make = (kind: string, machine: Parameters<typeof benchFor>[0] = 'heron', spec = {}): Made =>
  good(makeLadder(kind, spec, benchFor(machine)));

const lengthOf = ({ moves: { x, y } }: Trace, i: number) =>
  Math.hypot(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!);

test('every rung of a retraction ladder crosses air many times, and its foot never does', () => {
  const { trace, plan } = make('retraction', 'newt', { from: 0.2, to: 1 });
  const rungOf = rungFinder(plan.rungs, trace.moves);
  const counts = plan.rungs.map(() => 0);
  let inFoot = 0;
  for (let i = 0; i < trace.moves.count; i++) {
    if (trace.moves.kind[i] !== MOVE.retract) continue;
    const rung = rungOf(i);
    if (rung >= 0) counts[rung]!++;
    else if (trace.moves.z[i]! > 1.01 && trace.moves.z[i]! < plan.rungs[0]!.z.from) inFoot++;
  }
  expect(Math.min(...counts)).toBeGreaterThanOrEqual(40);
  // The one way is that from the plate to the foot.
  expect(inFoot).toBeLessThanOrEqual(1);
});

test('the first layer is laid from the highest patch down, and the head rises for every way', () => {
  const { trace, plan } = make('first-layer', 'heron', { places: 1 });
  const { moves } = trace;
  const rungOf = rungFinder(plan.rungs, moves);
  const laid: number[] = [];
  let crossing = 0;
  for (let i = 1; i < moves.count; i++) {
    const rung = rungOf(i);
    if (moves.kind[i] === MOVE.extrude && rung >= 0 && laid.at(-1) !== rung) laid.push(rung);
    if (moves.kind[i] === MOVE.travel && laid.length > 0 && lengthOf(trace, i) > 6) {
      crossing++;
      expect(moves.z[i]).toBeGreaterThanOrEqual(3);
    }
  }
  expect(laid).toEqual(plan.rungs.map((_, i) => i));
  const offsets = plan.rungs.map(({ set }) => set.zOffset!);
  expect(offsets).toEqual([...offsets].sort((a, b) => b - a));
  expect([offsets[0], offsets.at(-1)]).toEqual([0.1, -0.1]);
  expect(crossing).toBeGreaterThan(20);
  expect(plan.rungs[0]!.boxes).toHaveLength(5);
});

test('hairpins run slow, fast, slow out and back without a break, and reach the fast speed', () => {
  const { trace, plan, motion } = make('advance-hairpins', 'wren');
  const rungOf = rungFinder(plan.rungs, trace.moves);
  const { slow, speed } = plan.spec as Record<string, number>;
  const own: number[] = [];
  for (let i = 1; i < trace.moves.count; i++)
    if (trace.moves.kind[i] === MOVE.extrude && rungOf(i) === 7) own.push(i);
  const speeds = own.map((i) => Math.round(trace.moves.speed[i]!));
  const changes = speeds.filter((one, i) => one !== speeds[i - 1]);
  expect(changes).toEqual([slow, speed, slow, speed, slow]);
  // Only the half circle, which belongs to no value, lies between the first and the last of them.
  const fast = own.filter((_, i) => speeds[i] === speed);
  expect(fast).toHaveLength(2);
  for (const i of fast) {
    expect(motion.top[i]).toBeCloseTo(speed!, 1);
    expect(motion.reach[i]).toBeGreaterThan(0.8);
  }
});

test('labels of flat patterns stand clear of every rung', () => {
  for (const kind of ['first-layer', 'advance-hairpins', 'advance-meander']) {
    const { trace, plan } = make(kind);
    const { moves } = trace;
    const begins = moves.line.findIndex((line) => line >= plan.rungs[plan.rungs.length - 1]!.line);
    const first = moves.line.findIndex(
      (line) => line >= Math.min(...plan.rungs.map((r) => r.line)),
    );
    expect(begins).toBeGreaterThanOrEqual(first);
    // What is laid before the rungs lies in no place that is looked at.
    for (let i = 1; i < first; i++)
      if (moves.kind[i] === MOVE.extrude)
        for (const { boxes } of plan.rungs)
          for (const { minX, maxX, minY, maxY } of boxes!) {
            const inside = (x: number, y: number) => x > minX && x < maxX && y > minY && y < maxY;
            expect(inside(moves.x[i]!, moves.y[i]!)).toBe(false);
          }
  }
});

test('on the wall pressure advance changes once a layer, and only upward', () => {
  const { trace, plan } = make('advance-wall');
  const values: number[] = [];
  for (let i = 0; i < trace.changes.count; i++) {
    const { name, value } = changeAt(trace, i);
    if (name === 'advance') values.push(value);
  }
  values.pop(); // put back
  const layers = plan.rungs.length * (plan.rungs[0]!.layers.last - plan.rungs[0]!.layers.first + 1);
  // The lowest layers have no value below none at all.
  expect(values.length).toBeGreaterThan(0.9 * layers);
  // Where a rung begins its value is said again.
  expect(values.length).toBeLessThanOrEqual(layers + plan.rungs.length);
  for (let i = 1; i < values.length; i++) expect(values[i]).toBeGreaterThanOrEqual(values[i - 1]!);
  expect(values.at(-1)).toBeGreaterThan(1);
});

test('layers of ladders of speed are not slowed to cool', () => {
  for (const [kind, machine] of [
    ['advance-wall', 'heron'],
    ['acceleration', 'wren'],
    ['cornering-jerk', 'newt'],
  ] as const) {
    const { trace, plan } = make(kind, machine);
    const rungOf = rungFinder(plan.rungs, trace.moves);
    const speeds = new Set<number>();
    for (let i = 1; i < trace.moves.count; i++)
      if (trace.moves.kind[i] === MOVE.extrude && rungOf(i) >= 0 && lengthOf(trace, i) > 20)
        speeds.add(Math.round(trace.moves.speed[i]!));
    expect([...speeds]).toEqual([plan.spec.speed]);
  }
});

test('decks of strands cross three gaps, rest only on rails, and hang over nothing', () => {
  const { trace, plan } = make('bridge-flow', 'heron', { from: 0.9, to: 1 });
  const { moves } = trace;
  const bridged = new Set<number>();
  const [top] = plan.rungs.map(({ z }) => z.to);
  const below: { y: [number, number]; x: number }[] = [];
  for (let i = 1; i < moves.count; i++) {
    if (moves.kind[i] !== MOVE.extrude || moves.z[i]! < 0.3) continue;
    if (moves.z[i]! < top! - 0.1) below.push({ x: moves.x[i]!, y: [moves.y[i - 1]!, moves.y[i]!] });
    else if (Math.abs(moves.x[i]! - moves.x[i - 1]!) > 5) bridged.add(i);
  }
  const lengths = [...bridged].map((i) => Math.round(lengthOf(trace, i)));
  expect(new Set(lengths).size).toBe(3);
  // No strand has a rail, or anything else, under its middle: it would not hang there.
  const rails = new Set(below.map(({ x }) => Math.round(x)));
  for (const i of bridged) {
    const middle = (moves.x[i]! + moves.x[i - 1]!) / 2;
    expect([...rails].some((x) => Math.abs(x - middle) < 2)).toBe(false);
  }
});

test('both nozzles are primed before their lines, and the second is turned off', () => {
  const { trace, text } = make('nozzle-alignment', 'otter');
  const { moves } = trace;
  const first = (tool: number) => {
    for (let i = 1; i < moves.count; i++)
      if (moves.kind[i] === MOVE.extrude && moves.tool[i] === tool) return lengthOf(trace, i);
    return 0;
  };
  expect(first(0)).toBeGreaterThan(30);
  expect(first(1)).toBeGreaterThan(10);
  const change = text.indexOf('\nT1\n');
  expect(change).toBeGreaterThan(0);
  // Drawn back first, then raised, then beside the print: nothing drips onto it.
  expect(text.slice(change - 80, change)).toMatch(/G1 E-1.*\nG0 Z8.*\nG0 X[-.\d]+ Y[-.\d]+.*$/);
  const aside = text.slice(0, change).match(/G0 X([-.\d]+) Y([-.\d]+)[^\n]*$/)!;
  const { minX, maxX, minY, maxY } = boxOf([
    make('nozzle-alignment', 'otter').plan.rungs.flatMap(({ boxes }) =>
      boxes!.flatMap((box) => [
        { x: box.minX, y: box.minY },
        { x: box.maxX, y: box.maxY },
      ]),
    ),
  ]);
  const [x, y] = [Number(aside[1]), Number(aside[2])];
  expect(x > minX && x < maxX && y > minY && y < maxY).toBe(false);
  // It has been heating since the first nozzle began.
  expect(text.indexOf('M104 T1 S2')).toBeLessThan(text.indexOf('; rung 1 of', change - 4000));
  expect(text.indexOf('M109 T1')).toBeGreaterThan(change);
  expect(text.indexOf('M104 T1 S0')).toBeGreaterThan(text.indexOf('M109 T1'));
});

test.each([
  ['extruder-steps', 'heron', /\nM0\n/],
  ['rotation-distance', 'wren', /\nG4 P60000\n/],
] as const)(
  '%s waits for the mark after the start block, and counts from there',
  (kind, machine, waits) => {
    const plain = benchFor(machine);
    const { startBlock } = plain.machine;
    const purging = { ...plain.machine, startBlock: `${startBlock}\nG1 E30 F200` };
    const bench = { ...plain, machine: purging };
    const made = good(makeLadder(kind, {}, bench));
    expect(made.text).toMatch(waits);
    expect(made.text.search(waits)).toBeGreaterThan(made.text.indexOf('G1 E30'));
    expect(made.audit.findings).toEqual([]);
    // A file in which something else is fed after the mark, or that does not wait, is stopped.
    const stops = (text: string) =>
      audit(readText(text, bench.machine), bench, askedFor(made.plan)).findings.map(
        ({ code }) => code,
      );
    expect(stops(made.text.replace('G1 E33.333', 'G1 E34.333'))).toEqual(['fed-otherwise']);
    expect(stops(made.text.replace(waits, '\n'))).toEqual(['fed-otherwise']);
  },
);

test('feeding for steps lays nothing on the bed, and draws nothing back before it is measured', () => {
  const { trace, audit, text } = make('extruder-steps');
  expect(audit.box).toBeNull();
  const fed = [...trace.moves.e].reduce((sum, e) => sum + e, 0);
  expect(fed).toBeCloseTo(100, 3);
  expect(text).not.toContain('E-');
});

test('a slanted stroke of a letter wanders as it climbs, an upright one does not', () => {
  const signs = reliefFor(0.45, 0.2, 8);
  const middleAt = (text: string, z: number) =>
    reliefAt(text, z, 0.2, 0, signs).map((one) => {
      const { minX, maxX } = boxOf(one);
      return (minX + maxX) / 2;
    });
  const [low, high] = [signs.foot + 1.2, signs.foot + 5];
  expect(middleAt('1', low)).toEqual(middleAt('1', high));
  expect(middleAt('X', low)).not.toEqual(middleAt('X', high));
  expect(() => strokesOf('?')).toThrow(RangeError);
});

test('what was tuned is in force, and what was not is what the machine starts with', () => {
  const bench = benchFor('heron');
  expect(inForce(bench)).toMatchObject({
    retraction: 5,
    jerk: 8,
    advance: 0,
    flow: 1,
    nozzle: 210,
  });
  expect(inForce(bench).square).toBeNaN();
  const tuned = { ...bench, tuned: { retraction: 3.4, jerk: 6, acceleration: 800 } };
  expect(inForce(tuned)).toMatchObject({ retraction: 3.4, jerk: 6, acceleration: 800 });
  expect(tunedMachine(tuned).limits).toMatchObject({
    printAcceleration: 800,
    cornering: { model: 'jerk', x: 6, y: 6 },
  });
  expect(tunedMachine(bench)).toBe(bench.machine);
});

test.each(kinds().map((kind) => [kind.id, kind] as const))(
  '%s: nothing is laid over air before what holds its ends',
  (_, kind) => {
    const bench = benchFor(
      (['heron', 'wren', 'otter'] as const).find((one) => !kind.unfit?.(benchFor(one))),
    );
    const { steps, layerHeight } = kind.lay(kind.defaults(bench), bench);
    const { width } = conditionsOf(bench, layerHeight, bench.machine.speeds.print);
    expect(unheld(steps, width)).toEqual([]);
  },
);
