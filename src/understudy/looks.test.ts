import fc from 'fast-check';
import { beadArea, beadWidth } from '../core/deposit/bead';
import { look, type Place } from './looks';
import type { Printed } from './print';
import { SAMPLE, samplesFor, type Samples } from './samples';

const LAYER = 0.2;
const WIDTH = 0.45;
const PITCH = WIDTH - LAYER * (1 - Math.PI / 4);

const printedOf = (samples: Samples, threads: Printed['threads'] = []): Printed => ({
  samples,
  threads,
  seconds: 1,
  filament: 1,
  came: 1,
  bore: 0.4,
  failed: null,
});

/** Sound samples, all resting, one after another along x at a height; `change` says what is odd of each. */
function line(count: number, z: number, change: (samples: Samples, n: number) => void = () => {}) {
  const samples = samplesFor(count);
  for (let n = 0; n < count; n++) {
    samples.x[n] = n * SAMPLE;
    samples.z[n] = z;
    samples.gap[n] = LAYER;
    samples.width[n] = WIDTH;
    samples.asked[n] = WIDTH;
    samples.ratio[n] = 1;
    samples.support[n] = 1;
    samples.bond[n] = 1;
    samples.shine[n] = 1;
    samples.since[n] = 20;
    samples.until[n] = 20;
    samples.begun[n] = 20;
    change(samples, n);
  }
  return samples;
}

/** A pad of 12 mm filled line by line with a share of the plastic that closes it. */
function pad(share: number): { printed: Printed; place: Place } {
  const side = 12;
  const rows = Math.round(side / PITCH);
  const inRow = Math.round(side / SAMPLE);
  const width = beadWidth(beadArea(WIDTH, LAYER) * share, LAYER);
  const samples = line(rows * inRow, LAYER, (one, n) => {
    one.x[n] = ((n % inRow) + 0.5) * SAMPLE;
    one.y[n] = (Math.floor(n / inRow) + 0.5) * (side / rows);
    one.width[n] = width;
  });
  const box = { minX: 0, maxX: side, minY: 0, maxY: side };
  return { printed: printedOf(samples), place: { z: { from: 0, to: LAYER }, box } };
}

/** The same pad, layer upon layer, each with its own share. */
function stacked(shares: readonly number[]) {
  const pads = shares.map((share) => pad(share).printed.samples);
  const { count } = pads[0]!;
  const samples = line(count * shares.length, LAYER, (one, n) => {
    const from = pads[Math.floor(n / count)]!;
    one.x[n] = from.x[n % count]!;
    one.y[n] = from.y[n % count]!;
    one.width[n] = from.width[n % count]!;
    one.z[n] = (Math.floor(n / count) + 1) * LAYER;
  });
  const { place } = pad(1);
  const z = { from: 0, to: shares.length * LAYER };
  return look(printedOf(samples), { ...place, z });
}

test('what has no room in one layer takes room from the next; a gap takes nothing from the layer over it', () => {
  const off = stacked([1]).ridges! - stacked([1]).gaps!;
  const over = (share: number) => stacked([share]).ridges! - off;
  const once = over(1.05);
  expect(stacked([1.05, 1.05, 1.05, 1.05]).ridges! - 4 * off).toBeCloseTo(4 * once, 3);
  // Too little is seen as it is in the top layer, however many lie below.
  expect(stacked([0.9, 0.9, 0.9]).gaps).toBeCloseTo(stacked([0.9]).gaps!, 6);
  // A surplus below fills what the top layer would leave open.
  expect(stacked([1.1, 0.95]).gaps!).toBeLessThan(stacked([0.95]).gaps!);
});

/** Two lines along x, some beads apart, each with faults of its own by its place, mm of width. */
function legs(apart: number, front: (x: number) => number, rear: (x: number) => number) {
  const samples = line(400, LAYER, (one, n) => {
    const back = n >= 200;
    one.x[n] = (back ? 399 - n : n) * SAMPLE;
    one.y[n] = back ? apart * WIDTH : 0;
    one.move[n] = back ? 2 : 1;
    one.ratio[n] = 1 + (back ? rear : front)(one.x[n]) / WIDTH;
  });
  const box = { minX: 0, maxX: 50, minY: -1, maxY: apart * WIDTH + 1 };
  return look(printedOf(samples), { z: { from: 0, to: LAYER }, box }).evenness!;
}

test('lines side by side are compared: what both have in common is not minded, what one has against the other is', () => {
  const thick = (x: number) => (x > 20 && x < 30 ? 0.1 : 0);
  const thin = (x: number) => -thick(x);
  expect(legs(4.5, thick, thick)).toBeCloseTo(0, 6);
  const alone = legs(12, thick, thin);
  expect(legs(4.5, thick, thin)).toBeGreaterThan(1.9 * alone);
  expect(legs(4.5, thick, () => 0)).toBeGreaterThan(0.04);
});

test('a pad is judged by the plastic in its middle: less leaves gaps, more makes ridges', () => {
  const seen = (share: number) => {
    const { printed, place } = pad(share);
    const { gaps, ridges } = look(printed, place);
    expect(Math.min(gaps!, ridges!)).toBe(0);
    return 1 - gaps! + ridges!;
  };
  const full = seen(1);
  // The middle holds a whole number of lines, at most one more or less than would fit.
  expect(Math.abs(full - 1)).toBeLessThan(0.06);
  fc.assert(
    fc.property(fc.double({ min: 0.75, max: 1.25, noNaN: true }), (share) => {
      expect(seen(share) / full).toBeCloseTo(share, 3);
    }),
    { seed: 9, numRuns: 20 },
  );
});

test('a place is judged by its own height and box alone', () => {
  const samples = line(200, LAYER, (one, n) => {
    const second = n >= 100;
    one.z[n] = second ? 2 * LAYER : LAYER;
    one.bond[n] = second ? 0.2 : 1;
    one.x[n] = n % 100;
    one.rough[n] = n % 100 < 50 ? 0 : 0.05;
  });
  const printed = printedOf(samples);
  expect(look(printed, { z: { from: 0, to: LAYER } })['layer adhesion']).toBeCloseTo(0, 6);
  expect(look(printed, { z: { from: LAYER, to: 2 * LAYER } })['layer adhesion']).toBeCloseTo(
    0.8,
    6,
  );
  const left = { minX: 0, maxX: 49, minY: -1, maxY: 1 };
  const right = { minX: 50, maxX: 99, minY: -1, maxY: 1 };
  expect(look(printed, { z: { from: 0, to: LAYER }, box: left }).surface).toBeCloseTo(0, 6);
  expect(look(printed, { z: { from: 0, to: LAYER }, box: right }).surface).toBeCloseTo(0.05, 6);
});

test('what cannot be judged at a place is left out, not told as clean', () => {
  const seen = look(printedOf(line(100, LAYER)), { z: { from: 0, to: LAYER } });
  for (const name of ['stringing', 'bridging', 'overhang', 'line-up'] as const)
    expect(seen[name]).toBeUndefined();
  expect(look(printedOf(line(100, LAYER)), { z: { from: 5, to: 6 } })).toEqual({});
});

test('echoes are judged past the bulge of a corner, and not where they have died away', () => {
  const ringing = (from: number, to: number) =>
    look(
      printedOf(
        line(200, LAYER, (one, n) => {
          one.since[n] = n * SAMPLE;
          one.swing[n] = n * SAMPLE >= from && n * SAMPLE < to ? 0.04 : 0;
        }),
      ),
      { z: { from: 0, to: LAYER } },
    ).ringing;
  expect(ringing(2, 6)).toBeCloseTo(0.04, 4);
  expect(ringing(0, 1)).toBe(0);
  expect(ringing(12, 30)).toBe(0);
});

test('the strands of a deck are laid a bore apart: thinner ones leave light between them', () => {
  const deck = (thick: number) =>
    look(
      printedOf(
        line(100, LAYER, (one, n) => {
          one.support[n] = 0;
          one.drop[n] = 0.1;
          const area = (Math.PI * (0.4 * thick) ** 2) / 4;
          one.gap[n] = LAYER;
          one.width[n] = beadWidth(area, LAYER);
        }),
      ),
      { z: { from: 0, to: LAYER } },
    );
  expect(deck(1).gaps).toBeCloseTo(0, 3);
  expect(deck(0.9).gaps).toBeCloseTo(0.1, 3);
  expect(deck(1).bridging).toBeCloseTo(0.1, 6);
});

test('threads are told by their mean, from three travels on', () => {
  const thread = (thick: number) => ({
    from: { x: 1, y: 0 },
    to: { x: 9, y: 0 },
    z: LAYER,
    length: 8,
    thick,
  });
  const seen = (threads: Printed['threads']) =>
    look(printedOf(line(100, LAYER), threads), { z: { from: 0, to: LAYER } }).stringing;
  expect(seen([thread(0.02), thread(0.04)])).toBeUndefined();
  expect(seen([thread(0.02), thread(0.04), thread(0)])).toBeCloseTo(0.02, 9);
});
