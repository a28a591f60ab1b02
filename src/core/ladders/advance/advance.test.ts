import fc from 'fast-check';
import { FILAMENTS } from '../../bench/presets';
import { roundArea } from '../../deposit/bead';
import { rungFinder } from '../../gcode/rungs';
import { MOVE } from '../../gcode/trace';
import { findValue } from '../../reading/find-value';
import { benchFor, good, makeOn, movesOf, told, type Move } from '../../testing';
import { kindOf } from '../registry';

const heading = ({ from, to }: Move) => Math.atan2(to.y - from.y, to.x - from.x);
/** Angle by which the way turns from one move to the next, degrees, left positive. */
const turn = (a: Move, b: Move): number => {
  const by = ((heading(b) - heading(a)) * 180) / Math.PI;
  return ((by + 540) % 360) - 180;
};

describe('corners', () => {
  const made = makeOn(benchFor('wren'), 'advance-corners');

  test('every figure turns sharply to the left and to the right, equally often', () => {
    made.plan.rungs.forEach((_, index) => {
      const own = movesOf(made, 'extrude').filter(({ rung }) => rung === index);
      const turns = own.slice(1).flatMap((move, i) => {
        const before = own[i]!;
        const joined = Math.hypot(move.from.x - before.to.x, move.from.y - before.to.y) < 0.01;
        return joined ? [turn(before, move)] : [];
      });
      const sharp = turns.filter((by) => Math.abs(by) > 60);
      const left = sharp.filter((by) => by > 0).length;
      expect(sharp.length).toBeGreaterThanOrEqual(8);
      expect(Math.abs(2 * left - sharp.length)).toBeLessThanOrEqual(3);
    });
  });

  test('figures keep clear of each other, so that no rung spoils its neighbour', () => {
    const boxes = made.plan.rungs.map(({ boxes }) => boxes![0]!);
    boxes.slice(1).forEach((box, i) => expect(box.minY).toBeGreaterThanOrEqual(boxes[i]!.maxY));
  });
});

describe('strokes', () => {
  const made = makeOn(benchFor('heron'), 'advance-strokes');

  test('ticks stand where the speed changes, and the frame is printed first', () => {
    const strokes = movesOf(made, 'extrude');
    const first = strokes.findIndex(({ rung }) => rung >= 0);
    const own = strokes.filter(({ rung }) => rung === 0);
    for (const x of [own[0]!.to.x, own[1]!.to.x]) {
      const tick = strokes.findIndex(
        ({ from, to }) =>
          Math.abs(from.x - x) < 0.01 && Math.abs(to.x - x) < 0.01 && Math.abs(to.y - from.y) > 2,
      );
      expect(tick).toBeGreaterThan(0);
      expect(tick).toBeLessThan(first);
    }
  });

  test('no label is crossed by a stroke', () => {
    const strokes = movesOf(made, 'extrude');
    const end = Math.max(...strokes.filter(({ rung }) => rung >= 0).map(({ to }) => to.x));
    const labels = strokes.filter(({ from, to }) => Math.min(from.x, to.x) > end + 1);
    expect(labels.length).toBeGreaterThan(10);
    for (const { from, to } of strokes.filter(({ rung }) => rung >= 0))
      expect(Math.max(from.x, to.x)).toBeLessThanOrEqual(end);
  });

  test('values of a fine second pass stay whole steps of what a machine takes', () => {
    const { plan } = makeOn(benchFor('wren'), 'advance-strokes', {
      from: 0.032,
      to: 0.044,
      step: 0.002,
    });
    expect(plan.rungs.map(({ set }) => set.advance)).toEqual([
      0.032, 0.034, 0.036, 0.038, 0.04, 0.042, 0.044,
    ]);
  });
});

describe('the wall', () => {
  const bench = benchFor('heron');
  const { plan } = makeOn(bench, 'advance-wall');
  const kind = good(kindOf('advance-wall'));
  const low = plan.rungs[0]!.z.from;
  const high = plan.rungs.at(-1)!.z.to;
  const at = (height: number) =>
    findValue(kind, plan, bench, { readings: [], measured: [{ height: [height] }] });

  test('a caliper height tells the value that the file ran at there, with half a layer of doubt', () => {
    const [first, second] = plan.rungs;
    const middle = ({ z }: { z: { from: number; to: number } }) => (z.from + z.to) / 2;
    const slope = (second!.set.advance! - first!.set.advance!) / (middle(second!) - middle(first!));
    fc.assert(
      fc.property(fc.double({ min: low + 0.01, max: high, noNaN: true }), (height) => {
        const { value, range } = told(at(height));
        const ran = Math.max(0, first!.set.advance! + slope * (height - middle(first!)));
        // Snapped to what the machine takes, on the lower side.
        expect(Math.abs(value! - ran)).toBeLessThan(0.0055);
        expect(range![1] - range![0]).toBeGreaterThan(slope * plan.layerHeight * 0.3);
      }),
      { seed: 2, numRuns: 60 },
    );
  });

  test('a height outside of what climbs is refused with the ends', () => {
    for (const height of [low - 0.5, high + 1]) {
      const refused = at(height);
      expect(refused.ok).toBe(false);
      if (!refused.ok) expect(refused.problems[0]!.what).toContain(String(low));
    }
  });

  test('every layer but those of the labels starts at one upright edge, at the rear left', () => {
    const made = makeOn(bench, 'advance-wall', { from: 0, to: 0.2 });
    const starts = new Map<number, Move>();
    for (const move of movesOf(made, 'extrude'))
      if (move.rung >= 0 && !starts.has(move.to.z)) starts.set(move.to.z, move);
    const xs = [...starts.values()].map(({ from }) => from.x);
    const ys = [...starts.values()].map(({ from }) => from.y);
    expect(Math.max(...xs) - Math.min(...xs)).toBeLessThan(0.1);
    expect(Math.max(...ys) - Math.min(...ys)).toBeLessThan(0.1);
    const own = movesOf(made, 'extrude').filter(({ rung }) => rung >= 0);
    expect(Math.max(...ys)).toBeCloseTo(Math.max(...own.map(({ to }) => to.y)), 1);
    expect(Math.min(...xs)).toBeCloseTo(Math.min(...own.map(({ to }) => to.x)), 1);
  });
});

describe('soft filament', () => {
  const soft = (machine: 'wren' | 'heron') => benchFor(machine, { filament: FILAMENTS.eel });

  test('gets a range several times as high, and is fed no faster than it stands', () => {
    const [stiff, own] = [
      makeOn(benchFor('wren'), 'advance-strokes'),
      makeOn(soft('wren'), 'advance-strokes'),
    ];
    expect(own.plan.spec.to).toBeCloseTo(4 * Number(stiff.plan.spec.to), 9);
    expect(own.plan.rungs.length).toBe(stiff.plan.rungs.length);
    const { diameter } = soft('wren').filament;
    const flows = movesOf(own, 'extrude')
      .filter(({ rung, length }) => rung >= 0 && length > 1)
      .map(({ e, length, speed }) => (e * roundArea(diameter) * speed) / length);
    expect(Math.max(...flows)).toBeLessThanOrEqual(2.6);
  });

  test('behind a tube all rungs are held to what the extruder’s jerk leaves at the highest', () => {
    const bench = soft('heron');
    const { plan, warnings } = makeOn(bench, 'advance-strokes');
    expect(warnings.map(({ code }) => code)).toContain('held-by-jerk');
    const slower = makeOn(benchFor(), 'advance-strokes').plan.spec.acceleration as number;
    expect(plan.spec.acceleration).toBeLessThan(slower);
    const asked = makeOn(benchFor(), 'advance-strokes', { acceleration: 1000 });
    expect(asked.warnings.find(({ code }) => code === 'jerk-cuts-acceleration')!.offers).toEqual([
      { label: 'Hold 140 mm/s²', patch: { acceleration: 140 } },
    ]);
  });

  test('under a wide nozzle that is little, and every rung gets it', () => {
    const bench = benchFor('heron', { bore: 1 });
    const { plan, motion, trace, warnings } = makeOn(bench, 'advance-strokes');
    expect(warnings.filter(({ grade }) => grade !== 'note')).toEqual([]);
    const asked = plan.spec.acceleration as number;
    expect(asked).toBeLessThan(50);
    const rungOf = rungFinder(plan.rungs, trace.moves);
    for (let i = 1; i < trace.moves.count; i++)
      if (trace.moves.kind[i] === MOVE.extrude && rungOf(i) >= 0)
        expect(motion.acceleration[i]).toBeCloseTo(asked, 3);
  });
});
