import fc from 'fast-check';
import { beadWidth, roundArea } from '../core/deposit/bead';
import { SAMPLE, samplesFor } from './samples';
import { sag } from './sag';

const BORE = 0.4;
const LAYER = 0.2;

/** Deepest point, mm, of one strand of a span with a share of a full strand in it. */
function deepest(span: number, full: number, taut: number, soft = 0.3): number {
  const air = Math.round(span / SAMPLE);
  const samples = samplesFor(air + 2);
  for (let n = 0; n < samples.count; n++) {
    samples.support[n] = n === 0 || n === air + 1 ? 1 : 0;
    samples.drop[n] = soft;
    samples.gap[n] = LAYER;
    samples.width[n] = beadWidth(roundArea(BORE) * full, LAYER);
  }
  sag(samples, BORE, taut);
  return Math.max(...samples.drop.slice(1, air + 1));
}

test('a strand is held by what goes on behind it, in whichever move, and hangs more where it ends in the air', () => {
  const depth = (goesOn: boolean) => {
    const samples = samplesFor(42);
    for (let n = 0; n < 42; n++) {
      samples.support[n] = n === 0 || n === 41 ? 1 : 0;
      samples.drop[n] = 0.3;
      samples.gap[n] = LAYER;
      samples.width[n] = beadWidth(roundArea(BORE), LAYER);
      samples.move[n] = n === 41 ? 2 : 1;
      // A way between strokes begins the count anew.
      samples.begun[n] = n === 41 && !goesOn ? SAMPLE : (n + 1) * SAMPLE;
    }
    sag(samples, BORE, 1.5);
    return Math.max(...samples.drop.slice(1, 41));
  };
  expect(depth(false) / depth(true)).toBeCloseTo(1.3, 2);
});

test('a taut strand sags with the square of its span', () => {
  const [short, long] = [deepest(10, 0.8, 1.2), deepest(20, 0.8, 1.2)];
  expect(long / short).toBeCloseTo(4, 1);
});

test('what gets more plastic than pulls straight hangs as an arc as long as its strand', () => {
  const taut = 0.95;
  const slack = (full: number) => deepest(24, full, taut, 0);
  expect(slack(0.85)).toBeLessThan(0.1);
  expect(slack(1)).toBeGreaterThan(0.4);
  // Height of a shallow arc: span · √(3/8 · surplus), of which a twentieth makes the strand longer.
  expect(slack(1.05)).toBeCloseTo(24 * Math.sqrt((3 / 8) * 0.05 * 0.1), 1);
});

test('more plastic never makes a strand hang less, and more slack never less than little', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.5, max: 1.2, noNaN: true }),
      fc.double({ min: 0.01, max: 0.3, noNaN: true }),
      fc.double({ min: 3, max: 40, noNaN: true }),
      (full, more, span) => {
        expect(deepest(span, full + more, 0.95)).toBeGreaterThanOrEqual(
          deepest(span, full, 0.95) - 1e-6,
        );
        expect(deepest(span, full, 0.9)).toBeGreaterThanOrEqual(deepest(span, full, 1) - 1e-6);
      },
    ),
    { seed: 4, numRuns: 60 },
  );
});

test('what is held by its ends does not hang, and what rests is not touched', () => {
  expect(deepest(1, 1.1, 0.9)).toBeLessThan(0.05);
  const samples = samplesFor(3);
  samples.support.fill(1);
  samples.drop.fill(0.12);
  sag(samples, BORE, 1);
  expect([...samples.drop]).toEqual([0.12, 0.12, 0.12].map((one) => Math.fround(one)));
});
