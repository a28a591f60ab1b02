import { HeatWatch } from './heat-watch';

/** Temperatures a second apart, with the target of each; what was said first, and when. */
function watched(readings: readonly [now: number, target: number][]): [number, string] | null {
  const watch = new HeatWatch();
  for (const [at, [now, target]] of readings.entries()) {
    const wrong = watch.look({ nozzle: { now, target } }, at);
    if (wrong) return [at, wrong];
  }
  return null;
}
const steady = (now: number, target: number, seconds: number): [number, number][] =>
  Array.from({ length: seconds }, () => [now, target]);
const ramp = (from: number, to: number, target: number, seconds: number): [number, number][] =>
  Array.from({ length: seconds }, (_, i) => [from + ((to - from) * i) / seconds, target]);

test('a heater that does its work is left alone: warming slowly, a ladder of steps, cooling, off', () => {
  expect(
    watched([
      ...steady(23, 0, 30),
      ...ramp(23, 210, 210, 240),
      ...steady(209, 210, 300),
      // Steps of a ladder, up and down.
      ...ramp(210, 220, 220, 20),
      ...steady(220, 220, 60),
      ...ramp(220, 190, 190, 90),
      ...steady(190, 190, 100),
      ...ramp(190, 30, 0, 400),
    ]),
  ).toBeNull();
});

test('one that does not rise is told of after a minute', () => {
  const [at, wrong] = watched([...steady(23, 0, 5), ...steady(23, 200, 100)])!;
  expect(at).toBe(66);
  expect(wrong).toMatch(/nozzle does not get warmer: 23 °C/);
});

test('one that falls away, and one that runs past, are told of', () => {
  expect(watched([...steady(200, 200, 60), ...ramp(200, 100, 200, 50)])![1]).toMatch(/fallen away/);
  expect(watched([...steady(200, 200, 60), ...ramp(200, 260, 200, 60)])![1]).toMatch(/runs past/);
  // Told to cool, but it goes on rising.
  expect(watched([...steady(200, 200, 60), ...ramp(200, 260, 150, 60)])![1]).toMatch(/runs past/);
});

test('readings without a target, or none at all, say nothing', () => {
  const watch = new HeatWatch();
  for (let at = 0; at < 300; at += 10) {
    expect(watch.look({ nozzle: { now: 20, target: NaN } }, at)).toBeNull();
    expect(watch.look({}, at)).toBeNull();
  }
});
