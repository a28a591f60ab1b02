import fc from 'fast-check';
import { FILAMENTS } from '../../bench/presets';
import { beadPitch, roundArea } from '../../deposit/bead';
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

describe('meander', () => {
  const made = makeOn(benchFor('wren'), 'advance-meander');
  const ownOf = (index: number) => movesOf(made, 'extrude').filter(({ rung }) => rung === index);

  test('every figure turns at right angles to the left and to the right, equally often', () => {
    made.plan.rungs.forEach((_, index) => {
      const own = ownOf(index);
      const turns = own.slice(1).flatMap((move, i) => {
        const before = own[i]!;
        const joined = Math.hypot(move.from.x - before.to.x, move.from.y - before.to.y) < 0.01;
        return joined ? [turn(before, move)] : [];
      });
      const sharp = turns.filter((by) => Math.abs(by) > 60);
      for (const by of sharp) expect(Math.abs(by)).toBeCloseTo(90, 1);
      const left = sharp.filter((by) => by > 0).length;
      expect(sharp.length).toBeGreaterThanOrEqual(10);
      expect(2 * left).toBe(sharp.length);
    });
  });

  test('the second bead touches the first all along, and is laid the other way round', () => {
    const own = ownOf(3);
    const half = own.length / 2;
    const [one, two] = [own.slice(0, half), own.slice(half).reverse()];
    const middles = (moves: Move[]) =>
      moves.map(({ from, to }) => ({ x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 }));
    const [a, b] = [middles(one), middles(two)];
    one.forEach((move, i) => {
      expect(Math.cos(heading(move) - heading(two[i]!))).toBeCloseTo(-1, 6);
      const across = Math.abs(Math.sin(heading(move))) > 0.5;
      const apart = across ? Math.abs(a[i]!.x - b[i]!.x) : Math.abs(a[i]!.y - b[i]!.y);
      expect(apart).toBeCloseTo(beadPitch(0.45, 0.2), 2);
    });
  });

  test('figures keep clear of each other, so that no rung spoils its neighbour', () => {
    const boxes = made.plan.rungs.map(({ boxes }) => boxes![0]!);
    boxes.slice(1).forEach((box, i) => expect(box.minY).toBeGreaterThanOrEqual(boxes[i]!.maxY));
  });
});

describe('hairpins', () => {
  const made = makeOn(benchFor('heron'), 'advance-hairpins');
  const ownOf = (index: number) => movesOf(made, 'extrude').filter(({ rung }) => rung === index);

  test('both legs change speed at the same two places, where arrows point at each other between hairpins', () => {
    const strokes = movesOf(made, 'extrude');
    const first = strokes.findIndex(({ rung }) => rung >= 0);
    const own = ownOf(0);
    const { speed } = made.plan.spec as { speed: number };
    const fast = own.filter((one) => Math.abs(one.speed - speed) < 0.5);
    expect(fast).toHaveLength(2);
    const [out, back] = fast as [Move, Move];
    expect([back.to.x, back.from.x]).toEqual([out.from.x, out.to.x]);
    for (const x of [out.from.x, out.to.x]) {
      // Two strokes each, with the tip where the speed changes and the tail outside of the fast part.
      const inside = x === Math.min(out.from.x, out.to.x) ? -1 : 1;
      const arrows = strokes
        .slice(0, first)
        .filter(({ from, to }) => Math.abs(from.x - x) < 0.01 !== Math.abs(to.x - x) < 0.01);
      expect(arrows.length).toBe(2 * (made.plan.rungs.length + 1));
      for (const { from, to } of arrows) expect(Math.sign(from.x + to.x - 2 * x)).toBe(inside);
      // None of them lies where anything is looked at.
      for (const { from, to } of arrows)
        for (const { boxes } of made.plan.rungs) {
          const { minY, maxY } = boxes![0]!;
          const [low, high] = [Math.min(from.y, to.y), Math.max(from.y, to.y)];
          expect(low > maxY || high < minY).toBe(true);
        }
    }
  });

  test('legs lie at least four and a half beads apart, and begin and end on one rail', () => {
    const own = ownOf(5);
    const [start, end] = [own[0]!.from, own.at(-1)!.to];
    expect(start.x).toBeCloseTo(end.x, 3);
    expect(end.y - start.y).toBeGreaterThanOrEqual(4.5 * 0.45 - 1e-6);
    const next = ownOf(6)[0]!.from;
    expect(next.y - end.y).toBeGreaterThan(end.y - start.y);
    const rail = movesOf(made, 'extrude').filter(
      ({ rung, from, to }) => rung < 0 && Math.abs(from.x - start.x) < 0.01 && to.x === from.x,
    );
    expect(rail).toHaveLength(1);
    // What is read begins past the rail.
    expect(made.plan.rungs[5]!.boxes![0]!.minX).toBeGreaterThan(start.x + 0.45);
  });

  test('no label is crossed by a stroke', () => {
    const strokes = movesOf(made, 'extrude');
    const end = Math.max(...strokes.filter(({ rung }) => rung >= 0).map(({ to }) => to.x));
    const labels = strokes.filter(({ from, to }) => Math.min(from.x, to.x) > end + 1.5);
    expect(labels.length).toBeGreaterThan(10);
    for (const { from, to } of strokes.filter(({ rung }) => rung >= 0))
      expect(Math.max(from.x, to.x)).toBeLessThanOrEqual(end);
  });

  test('what strokes were printed as before is read as hairpins are, and printed as them', () => {
    const former = good(kindOf('advance-strokes'));
    expect(former).toMatchObject({ now: 'advance-hairpins', finds: ['advance'] });
    expect(former.criteria).toEqual(good(kindOf('advance-hairpins')).criteria);
    expect(good(kindOf('advance-corners')).now).toBe('advance-meander');
  });

  test('values of a fine second pass stay whole steps of what a machine takes', () => {
    const { plan } = makeOn(benchFor('wren'), 'advance-hairpins', {
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
      makeOn(benchFor('wren'), 'advance-hairpins'),
      makeOn(soft('wren'), 'advance-hairpins'),
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
    const { plan, warnings } = makeOn(bench, 'advance-hairpins');
    expect(warnings.map(({ code }) => code)).toContain('held-by-jerk');
    const slower = makeOn(benchFor(), 'advance-hairpins').plan.spec.acceleration as number;
    expect(plan.spec.acceleration).toBeLessThan(slower);
    const asked = makeOn(benchFor(), 'advance-hairpins', { acceleration: 1000 });
    expect(asked.warnings.find(({ code }) => code === 'jerk-cuts-acceleration')!.offers).toEqual([
      { label: 'Hold 140 mm/s²', patch: { acceleration: 140 } },
    ]);
  });

  test('under a wide nozzle that is little, and every rung gets it', () => {
    const bench = benchFor('heron', { bore: 1 });
    const { plan, motion, trace, warnings } = makeOn(bench, 'advance-hairpins');
    expect(warnings.filter(({ grade }) => grade !== 'note')).toEqual([]);
    const asked = plan.spec.acceleration as number;
    expect(asked).toBeLessThan(50);
    const rungOf = rungFinder(plan.rungs, trace.moves);
    for (let i = 1; i < trace.moves.count; i++)
      if (trace.moves.kind[i] === MOVE.extrude && rungOf(i) >= 0)
        expect(motion.acceleration[i]).toBeCloseTo(asked, 3);
  });
});

test('hairpins find room for the widest nozzle on the smallest bed', () => {
  const bench = benchFor('newt', { bore: 1 });
  const { plan, audit } = makeOn(bench, 'advance-hairpins');
  expect(plan.rungs.length).toBeGreaterThanOrEqual(5);
  expect(audit.findings.filter(({ grade }) => grade === 'stop')).toEqual([]);
});
