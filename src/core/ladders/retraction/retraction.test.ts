import { rungFinder } from '../../gcode/rungs';
import { MOVE } from '../../gcode/trace';
import { benchFor, good, makeOn, movesOf } from '../../testing';
import { specFor } from '../make';
import { kindOf } from '../registry';

const bench = benchFor();
/**
 * Values of what each rung draws back, or gives back, without doubles, as the file has them. It is the rung's that was
 * printed before: what a way to another one draws back, it gives back as well.
 */
const seen = (
  { trace, plan, text }: ReturnType<typeof makeOn>,
  kind: 'retract' | 'restart',
  of: 'e' | 'speed',
): number[][] => {
  const { moves } = trace;
  const rungOf = rungFinder(plan.rungs, moves);
  // The end of the file draws back as the bench does.
  const end = text.split('\n').indexOf('; restore');
  const found = plan.rungs.map((): number[] => []);
  let [printed, drew] = [-1, -1];
  for (let i = 1; i < moves.count && moves.line[i]! < end; i++) {
    const now = moves.kind[i];
    if (now === MOVE.extrude) printed = rungOf(i);
    if (now === MOVE.retract) drew = printed;
    if (now !== MOVE[kind] || drew === -1) continue;
    found[drew]!.push(Number(moves[of][i]!.toFixed(3)));
  }
  for (const own of found) expect(own.length).toBeGreaterThan(10);
  return found.map((own) => [...new Set(own)]);
};
const valuesOf = ({ plan }: ReturnType<typeof makeOn>) =>
  plan.rungs.map(({ set }) => Object.values(set)[0]!);
const { retraction } = bench.machine;

test('distance: every rung draws back and gives back its own, at the speeds of the bench', () => {
  const made = makeOn(bench, 'retraction', { from: 3, to: 6, step: 1 });
  expect(seen(made, 'retract', 'e')).toEqual([[-3], [-4], [-5], [-6]]);
  expect(seen(made, 'restart', 'e')).toEqual([[3], [4], [5], [6]]);
  expect(new Set(seen(made, 'retract', 'speed').flat())).toEqual(new Set([retraction.speed]));
  expect(new Set(seen(made, 'restart', 'speed').flat())).toEqual(new Set([retraction.speed]));
});

test('speed: drawn back at the pace of the rung, the distance and the way back held', () => {
  const made = makeOn(bench, 'retraction-speed');
  expect(seen(made, 'retract', 'speed')).toEqual(valuesOf(made).map((value) => [value]));
  expect(new Set(seen(made, 'retract', 'e').flat())).toEqual(new Set([-retraction.distance]));
  expect(new Set(seen(made, 'restart', 'speed').flat())).toEqual(new Set([retraction.speed]));
});

test('extra restart: so much more is given back than was drawn', () => {
  const made = makeOn(bench, 'extra-restart');
  expect(new Set(seen(made, 'retract', 'e').flat())).toEqual(new Set([-retraction.distance]));
  seen(made, 'restart', 'e').forEach(([back], i) =>
    expect(back).toBeCloseTo(retraction.distance + valuesOf(made)[i]!, 3),
  );
});

test('restart speed: given back at the pace of the rung alone', () => {
  const made = makeOn(bench, 'restart-speed');
  expect(seen(made, 'restart', 'speed')).toEqual(valuesOf(made).map((value) => [value]));
  expect(new Set(seen(made, 'retract', 'speed').flat())).toEqual(new Set([retraction.speed]));
});

test('lift: the head rises by the value of the rung for every way across air, and by no other', () => {
  const made = makeOn(bench, 'lift', { from: 0.2, to: 1, step: 0.4 });
  const { rungs, layerHeight } = made.plan;
  for (const { set, z } of rungs) {
    const ways = movesOf(made, 'travel').filter(
      ({ from, length }) => from.z > z.from + layerHeight && from.z < z.to && length > 12,
    );
    expect(ways.length).toBeGreaterThan(20);
    for (const { from } of ways) {
      const risen = (from.z / layerHeight - set.lift! / layerHeight) % 1;
      expect(Math.min(risen, 1 - risen)).toBeLessThan(0.01);
    }
  }
});

test('what is tuned is held while another setting climbs', () => {
  const tuned = { ...bench, tuned: { retraction: 3.4, lift: 0.4 } };
  const made = makeOn(tuned, 'retraction-speed');
  expect(new Set(seen(made, 'retract', 'e').flat())).toEqual(new Set([-3.4]));
});

test.each(['retraction-speed', 'extra-restart', 'restart-speed', 'lift'])(
  '%s is stopped where nothing is drawn back',
  (id) => {
    const none = { ...bench, tuned: { retraction: 0 } };
    const kind = good(kindOf(id));
    const codes = kind.check(good(specFor(kind, none, {})), none).map(({ code }) => code);
    expect(codes).toContain('no-retraction');
  },
);

test('the gap is as wide as asked, and posts stand apart by it', () => {
  const made = makeOn(bench, 'retraction', { from: 4, to: 5, gap: 30 });
  const ways = movesOf(made, 'travel').filter(({ rung, length }) => rung === 1 && length > 25);
  expect(ways.length).toBeGreaterThan(10);
  for (const { length } of ways) expect(length).toBeGreaterThanOrEqual(30 - 0.5);
});
