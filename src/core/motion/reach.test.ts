import { readText } from '../gcode/read';
import { benchFor } from '../testing';
import { planMotion } from './plan-motion';
import { accelerationFor, reachOf } from './reach';

const { machine } = benchFor();
const BAND = [{ z: { from: 0, to: 1 } }];
const reach = (text: string, asked: number) => {
  const trace = readText(`G28\nM83\nG1 Z0.5 F600\n${text}`);
  const wanted = { speed: asked, acceleration: 1000 };
  return reachOf(trace, planMotion(trace, machine), BAND, wanted).all;
};

test('a long stroke runs almost wholly at its speed, a short one never', () => {
  // Heron prints under 1000 mm/s²: 50 mm/s wants 1.25 mm at either end.
  expect(reach('G1 X100 E4 F3000', 50).share).toBeCloseTo(1 - 2.5 / 100, 2);
  expect(reach('G1 X2 E0.1 F3000', 50).share).toBe(0);
});

test('strokes that were slowed on purpose do not count as run at the speed asked for', () => {
  const { share, speed } = reach('G1 X100 E4 F1200', 50);
  expect(share).toBe(0);
  expect(speed).toBeLessThan(20);
  expect(speed).toBeGreaterThan(19);
});

test('fill that is faster on purpose does not count', () => {
  const walls = reach('G1 X100 E4 F3000', 50);
  const both = reach('G1 X100 E4 F3000\nG0 X0 F9000\nG1 X100 E4 F6000', 50);
  expect(both.share).toBeCloseTo(walls.share, 2);
});

test('travel and plastic outside the rungs do not count', () => {
  expect(reach('G0 X100 F9000', 150)).toMatchObject({ share: 0, speed: 0 });
  expect(reach('G1 Z5 F600\nG1 X100 E4 F3000', 50)).toMatchObject({ share: 0, speed: 0 });
});

test('a corner in the middle takes its toll', () => {
  const straight = reach('G1 X60 E2 F3000', 50).share;
  const bent = reach('G1 X30 E1 F3000\nG1 Y30 E1', 50).share;
  expect(bent).toBeLessThan(straight);
  expect(bent).toBeGreaterThan(0.8);
});

test('each rung has a reach of its own, and says why it is slow', () => {
  const trace = readText(
    'G28\nM83\nG1 Z0.5 F600\nG1 X100 E4 F3000\nG1 Z1.5 F600\nG1 X0 E4 F1200\nG1 Z2.5 F600\n' +
      'M204 P300\nG1 X100 E4 F3000',
  );
  const bands = [0, 1, 2].map((from) => ({ z: { from, to: from + 1 } }));
  const { rungs, all } = reachOf(trace, planMotion(trace, machine), bands, {
    speed: 50,
    acceleration: 1000,
  });
  expect(rungs.map(({ slowed }) => slowed)).toEqual([0, 1, 0]);
  expect(rungs.map(({ accelerated }) => accelerated)).toEqual([1, 1, 0]);
  expect(rungs.map(({ stroke }) => stroke)).toEqual([100, 100, 100]);
  expect(rungs[2]!.share).toBeCloseTo(1 - 2500 / (300 * 100), 2);
  expect(all.share).toBeCloseTo((rungs[0]!.share + rungs[2]!.share) / 3, 5);
});

test('the acceleration that is said to be enough is enough', () => {
  const text = (a: number) => `M204 P${a}\nG1 X20 E1 F3000`;
  const needed = accelerationFor(50, 20, 0.5);
  expect(reach(text(needed), 50).share).toBeCloseTo(0.5, 2);
});
