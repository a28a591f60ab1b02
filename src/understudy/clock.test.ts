import { Clock } from './clock';

let now = 0;
beforeEach(() => {
  now = 0;
  jest.useFakeTimers();
  jest.spyOn(performance, 'now').mockImplementation(() => now);
});
afterEach(() => {
  jest.useRealTimers();
  jest.restoreAllMocks();
});
/** Lets real time pass, ms. */
function pass(ms: number): void {
  for (let i = 0; i < ms; i += 10) {
    now += 10;
    jest.advanceTimersByTime(10);
  }
}

test('it lives so many times as fast, and what is skipped counts as well', () => {
  const clock = new Clock(20);
  pass(500);
  clock.skip(3);
  expect(clock.now()).toBeCloseTo(13, 9);
  expect(clock.elapsed()).toBeCloseTo(13, 9);
  expect(clock.elapsed()).toBe(0);
});

test('another speed counts from then on, and 0 holds it', () => {
  let speed = 10;
  const clock = new Clock(() => speed);
  pass(1000);
  expect(clock.now()).toBeCloseTo(10, 9);
  speed = 0;
  pass(5000);
  expect(clock.now()).toBeCloseTo(10, 9);
});

test('a wait that was held goes on when it is let go, and comes once', () => {
  let speed = 0;
  const clock = new Clock(() => speed);
  const come = jest.fn();
  clock.after(30, come);
  pass(10_000);
  expect(come).not.toHaveBeenCalled();
  speed = 1000;
  pass(400);
  expect(come).toHaveBeenCalledTimes(1);
  pass(1000);
  expect(come).toHaveBeenCalledTimes(1);
});

test('a wait that is ended does not come, and one without end never does', () => {
  const clock = new Clock(100);
  const come = jest.fn();
  clock.after(10, come)();
  clock.after(Infinity, come);
  pass(60_000);
  expect(come).not.toHaveBeenCalled();
  clock.after(10, come);
  pass(150);
  expect(come).toHaveBeenCalledTimes(1);
});

test('getting ready has a pace of its own, from one moment to another', () => {
  const clock = new Clock((readies) => (readies ? 100 : 1));
  pass(1000);
  clock.readying(true);
  pass(1000);
  clock.readying(false);
  pass(1000);
  expect(clock.now()).toBeCloseTo(102, 9);
});

test('a clock without speed stands still by itself', () => {
  const clock = new Clock(Infinity);
  pass(1000);
  expect(clock.instant).toBe(true);
  expect(clock.now()).toBe(0);
  expect(clock.realMs(50)).toBe(0);
});
