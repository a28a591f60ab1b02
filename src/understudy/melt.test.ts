import fc from 'fast-check';
import { roundArea } from '../core/deposit/bead';
import { benchFor } from '../core/testing';
import { CELL, Surface } from './surface';
import { Melt } from './melt';
import { drawTruths } from './truths';

const bench = benchFor();
const strand = roundArea(1.75);
const truthsOf = (seed: number) => ({ ...drawTruths(bench, seed), feeds: 1 });

describe('the melt', () => {
  test('what goes in comes out in the end: nothing is made or lost', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 200 }),
        fc.array(fc.double({ min: 0, max: 0.02, noNaN: true }), { minLength: 5, maxLength: 60 }),
        (seed, feeds) => {
          const truths = truthsOf(seed);
          const melt = new Melt(truths, strand);
          let [fed, out] = [0, 0];
          for (const length of feeds) {
            fed += length;
            out += melt.feed(length, 0.01, truths.works);
          }
          expect(out + melt.pressed * strand).toBeCloseTo(fed * strand, 6);
          expect(out).toBeGreaterThanOrEqual(0);
        },
      ),
      { seed: 61 },
    );
  });

  test('a steady feed ends in a steady flow, reached with the lag', () => {
    const truths = truthsOf(3);
    const melt = new Melt(truths, strand);
    const rate = 1; // mm/s
    const dt = 0.005;
    let first = 0;
    let last = 0;
    for (let t = 0; t < 8; t += dt) {
      last = melt.feed(rate * dt, dt, truths.works) / dt;
      first ||= last;
    }
    expect(first).toBeLessThan(0.1 * rate * strand);
    expect(last).toBeCloseTo(rate * strand, 2);
  });

  test('a flow that rises quickly presses less together than one that rises slowly', () => {
    const pressedAt = (ramp: number) => {
      const truths = { ...truthsOf(3), creeps: 0.3, creepsOver: 0.05, lag: 0.05 };
      const melt = new Melt(truths, strand);
      const [rate, dt] = [1, 5e-4];
      // Until half of what is fed in the end comes out.
      for (let t = 0; t < 3; t += dt) {
        const fed = rate * Math.min(1, t / ramp);
        if (melt.feed(fed * dt, dt, truths.works) / dt > 0.5 * rate * strand) break;
      }
      return melt.pressed;
    };
    expect(pressedAt(0.01)).toBeLessThan(0.92 * pressedAt(1));
  });

  test('a retraction within the slack leaves the pressure, one beyond it draws the nozzle empty', () => {
    const truths = truthsOf(5);
    const melt = new Melt(truths, strand);
    for (let i = 0; i < 400; i++) melt.feed(0.01, 0.01, truths.works);
    const before = melt.pressed;
    melt.feed(-truths.slack * 0.9, 0, truths.works);
    expect(melt.pressed).toBeCloseTo(before, 9);
    melt.feed(-truths.slack * 0.1 - 2, 0, truths.works);
    expect(melt.pressed).toBeCloseTo(before - 2, 6);
    melt.feed(truths.slack + 2, 0, truths.works);
    expect(melt.pressed).toBeCloseTo(before, 6);
  });

  test('no more comes out than is melted, and less of it when it is cold', () => {
    const flow = (celsius: number) => {
      const truths = truthsOf(2);
      const melt = new Melt(truths, strand);
      let out = 0;
      for (let i = 0; i < 2000; i++) out = melt.feed(0.2, 0.01, celsius) / 0.01;
      return { out, limit: melt.limit(celsius) };
    };
    const [cold, hot] = [flow(190), flow(225)];
    expect(cold.out).toBeLessThanOrEqual(cold.limit * 1.001);
    expect(hot.out).toBeGreaterThan(cold.out * 1.3);
  });

  test('a slow pull leaves melt behind, a quick one draws nearly all of it back', () => {
    const truths = truthsOf(4);
    const drawn = (pace: number) => {
      const melt = new Melt(truths, strand);
      const length = truths.slack + 2;
      melt.feed(-length, length / pace, truths.works);
      return -melt.pressed;
    };
    const paces = [5, 10, 20, 40, 80, 200];
    paces.slice(1).forEach((pace, i) => expect(drawn(pace)).toBeGreaterThan(drawn(paces[i]!)));
    expect(drawn(truths.follows)).toBeCloseTo(1, 1);
    expect(drawn(1e6)).toBeCloseTo(2, 3);
  });

  test('what was drawn back comes back, at whatever pace either was done', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 60 }),
        fc.double({ min: 5, max: 120, noNaN: true }),
        fc.double({ min: 5, max: 120, noNaN: true }),
        fc.double({ min: 0.2, max: 8, noNaN: true }),
        (seed, back, forth, length) => {
          const truths = truthsOf(seed);
          const melt = new Melt(truths, strand);
          melt.feed(-length, length / back, truths.works);
          const out = melt.feed(length, length / forth, truths.works);
          expect(out).toBeCloseTo(0, 6);
          expect(melt.pressed).toBeCloseTo(0, 6);
        },
      ),
      { seed: 17 },
    );
  });

  test('what drips on the way is missing at the next start', () => {
    const truths = truthsOf(6);
    const melt = new Melt(truths, strand);
    const dripped = melt.leak(0.5, truths.works);
    expect(dripped).toBeGreaterThan(0);
    expect(melt.pressed * strand).toBeCloseTo(-dripped, 9);
    const first = melt.feed(dripped / strand / 2, 0.01, truths.works);
    expect(first).toBe(0);
  });

  test('a closed nozzle leaks less than an open one, a hot one more than a cold one', () => {
    const truths = truthsOf(7);
    const leak = (pressed: number, celsius: number) => {
      const melt = new Melt(truths, strand);
      melt.pressed = pressed;
      return melt.leak(0.2, celsius);
    };
    expect(leak(-2, 207)).toBeLessThan(leak(0, 207));
    expect(leak(0, 207)).toBeLessThan(leak(0.5, 207));
    expect(leak(-2, 225)).toBeGreaterThan(leak(-2, 207));
  });
});

describe('the surface', () => {
  const box = { minX: 0, minY: 0, maxX: 20, maxY: 20 };

  /** A piece of a bead along y, half a millimetre wide. */
  const lay = (surface: Surface, x: number, y: number, z: number, heat = 200, stroke = 1) =>
    surface.lay({ x, y, z, ux: 0, uy: 1 }, CELL, 0.25, { time: z, heat, rests: true, stroke });

  test('what lies below is the newest layer beneath, not the bead beside', () => {
    const surface = new Surface(box);
    lay(surface, 5, 5, 0.2);
    expect(surface.under(5, 5, 0.4, 0.1)).toBe(1);
    lay(surface, 5, 5, 0.4, 205, 2);
    expect(surface.under(5, 5, 0.4, 0.1)).toBe(1);
    expect(surface.under(5, 5, 0.4, 0.3)).toBe(0);
    expect(surface.under(5, 5, 0.6, 0.3)).toBe(1);
    expect(surface.under(8, 8, 0.4, 0.1)).toBe(0);
    expect(surface.last(5, 5)).toEqual({ heat: 205, at: expect.closeTo(0.4, 6) as number });
  });

  test('a cell at the rim of a bead is covered by the share that the bead reaches', () => {
    const middle = 33 * CELL;
    const shares = [0, 0.25, 0.5, 0.75].map((part) => {
      const surface = new Surface(box);
      // The rim runs through the cell, `part` of it past its left edge.
      lay(surface, middle - 0.25 - CELL / 2 + part * CELL, 5, 0.2);
      return surface.under(middle, 5, 0.4, 0.1);
    });
    shares.slice(1).forEach((share, i) => expect(share - shares[i]!).toBeCloseTo(0.25, 3));
  });

  test('two beads side by side close the cell between them, one alone does not', () => {
    const surface = new Surface(box);
    const at = Math.round(5 / CELL) * CELL;
    lay(surface, at - 0.25, 5, 0.2, 200, 1);
    lay(surface, at - 0.25, 5, 0.2, 200, 1);
    expect(surface.under(at, 5, 0.4, 0.1)).toBeCloseTo(0.5, 3);
    lay(surface, at + 0.25, 5, 0.2, 200, 2);
    expect(surface.under(at, 5, 0.4, 0.1)).toBeCloseTo(1, 3);
  });

  test('outside the map there is the bed, and nothing breaks', () => {
    const surface = new Surface(box);
    lay(surface, 500, 5, 0.2);
    lay(surface, NaN, 5, 0.2);
    expect(surface.under(500, 5, 0.4, 0.1)).toBe(0);
    expect(surface.holds(-3, 5, 0.2, 0.2)).toBe(false);
  });

  test('a place inside four walls is out of sight, one between two posts is not', () => {
    const surface = new Surface(box);
    const line = (x0: number, y0: number, x1: number, y1: number) => {
      const steps = Math.ceil(Math.hypot(x1 - x0, y1 - y0) / CELL);
      for (let i = 0; i <= steps; i++)
        lay(surface, x0 + ((x1 - x0) * i) / steps, y0 + ((y1 - y0) * i) / steps, 1);
    };
    line(2, 2, 8, 2);
    line(8, 2, 8, 8);
    line(8, 8, 2, 8);
    line(2, 8, 2, 2);
    line(12, 5, 12, 8);
    expect(surface.inSight(5, 5, 1, 0.2)).toBe(false);
    expect(surface.inSight(10, 5, 1, 0.2)).toBe(true);
  });
});
