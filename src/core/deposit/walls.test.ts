import { rect } from '../shape/region';
import { pathLength } from './step';
import { piecesOf, startAt, supportOf, wallLoops } from './walls';

test('walls lie half a bead inside the rim, innermost first', () => {
  const loops = wallLoops(rect(0, 0, 20, 10), 2, 0.5, 0.45);
  expect(loops.map((loop) => Math.min(...loop.map(({ x }) => x)))).toEqual([0.7, 0.25]);
});

const loopTo = (x: number) => [
  { x: 1, y: 1 },
  { x, y: 1 },
  { x, y: 9 },
  { x: 1, y: 9 },
];

test('a wall that leans out is a wall all the way; only what spans open air bridges', () => {
  const below = supportOf(rect(0, 0, 10, 10), 0.5);
  // The loop leans out by a fifth of a bead, by more than a bead, and hangs ten millimetres far.
  for (const x of [10.1, 10.7])
    expect(piecesOf(loopTo(x), below, 0.5).map(({ role }) => role)).toEqual(['wall']);
  const bridged = piecesOf(loopTo(20), below, 0.5).filter(({ role }) => role === 'bridge');
  expect(bridged.reduce((sum, { path }) => sum + pathLength(path), 0)).toBeGreaterThan(26);
});

test('pieces join end to end and keep the whole length', () => {
  const loop = [
    { x: 1, y: 1 },
    { x: 20, y: 1 },
    { x: 20, y: 9 },
    { x: 1, y: 9 },
  ];
  const pieces = piecesOf(loop, supportOf(rect(0, 0, 10, 10), 0.5), 0.5);
  pieces.slice(1).forEach(({ path }, i) => expect(path[0]).toEqual(pieces[i]!.path.at(-1)));
  expect(pieces.reduce((sum, { path }) => sum + pathLength(path), 0)).toBeCloseTo(54, 6);
});

test('the seam stands at the same corner wherever the loop began', () => {
  const loop = rect(0, 0, 4, 4)[0]!;
  for (let turn = 0; turn < 4; turn++) {
    const turned = [...loop.slice(turn), ...loop.slice(0, turn)];
    expect(startAt(turned, { x: -1, y: 1 })[0]).toEqual({ x: 0, y: 4 });
  }
});
