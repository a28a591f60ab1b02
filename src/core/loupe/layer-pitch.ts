/**
 * Layer pitch of every rung, by the spectrum along height (domain.md §12). The face is cut into upright strips, so
 * that a slight tilt of the layers does no harm, and the powers of the strips are added.
 */

import { quantile } from '../numbers';
import { hann, powerAt, vertex, windowed, withoutTrend } from './periods';
import { cannotTell, EIGHT_OF_TEN, type Sight, type Spot, type Taken } from './sight';
import { columnOf, rowOf } from './straighten';

/** Width of a strip, mm. */
const STRIP = 1.2;
/** Pitches that are looked for, as shares of what was asked, and those among which a peak must stand out. */
const [NARROWEST, WIDEST] = [0.78, 1.28];
const [LOWEST, HIGHEST] = [0.35, 1.75];
/** A layer needs this many pixels of the photo: with fewer, lines and pixels beat. */
export const FEWEST_PX = 2.3;
/** A peak must stand over the middle of the spectrum by this much. */
const STANDS_OUT = 6;
/** It must stand over other peaks of pitches that are looked for by this much; nearer to it than so many cycles is its own. */
const [OVER_OTHERS, LOBE] = [1.6, 2.2];
/** Fewest layers of which a pitch is told. */
const FEWEST_LAYERS = 6;
/** Groups of strips that are measured apart: how they scatter is how sure the number is. */
const GROUPS = 8;
const FREQUENCIES = 121;

/** `line` is faded out toward its ends, `plain` is not. */
type Strip = { line: Float64Array; plain: Float64Array; weight: number };

export function layerPitch(sight: Sight, { box }: Spot): Taken {
  const { plan, flat, up, scaleError } = sight;
  const asked = plan.layerHeight;
  if (up * asked < FEWEST_PX)
    return cannotTell(
      box,
      `A layer has ${(up * asked).toFixed(1)} pixels: go nearer, until it has four or more.`,
    );
  // The first layer of a band and the last are often squeezed: half a layer is left out.
  const inner = { ...box, minY: box.minY + asked / 2, maxY: box.maxY - asked / 2 };
  if (inner.maxY - inner.minY < FEWEST_LAYERS * asked)
    return cannotTell(box, 'There are too few layers to count.');
  const strips = stripsOf(sight, inner);
  if (strips.length < 2) return cannotTell(box, 'Nothing of this rung is seen.');
  const perSample = 1 / flat.pxPerMm;
  const frequencies = Array.from(
    { length: FREQUENCIES },
    (_, i) => (LOWEST + ((HIGHEST - LOWEST) * i) / (FREQUENCIES - 1)) / asked,
  );
  const powers = strips.map(({ line }) =>
    Float64Array.from(frequencies, (f) => powerAt(line, f * perSample)),
  );
  const pooled = poolOf(powers, strips);
  const top = peakIn(pooled, frequencies, asked);
  if (top === null) return cannotTell(box, UNSEEN);
  const floor = quantile(pooled, 0.4);
  if (pooled[top]! < STANDS_OUT * floor) return cannotTell(box, UNSEEN);
  // Noise has several peaks that are nearly as high as its highest.
  const lobe = LOBE / (inner.maxY - inner.minY);
  const other = pooled.filter(
    (_, i) =>
      isLookedFor(frequencies[i]! * asked) && Math.abs(frequencies[i]! - frequencies[top]!) > lobe,
  );
  if (pooled[top]! < OVER_OTHERS * Math.max(...other)) return cannotTell(box, UNSEEN);
  const frequency = refined(strips, frequencies[top]!, asked, perSample);
  const apart = Array.from({ length: GROUPS }, (_, g) => {
    // What is left when one group of strips is taken away.
    const rest = strips.filter((_, i) => i % GROUPS !== g);
    return refined(rest, frequency, asked, perSample);
  });
  const middle = apart.reduce((a, b) => a + b, 0) / GROUPS;
  const byStrips = ((GROUPS - 1) / GROUPS) * apart.reduce((a, b) => a + (b - middle) ** 2, 0);
  const layersSeen = (inner.maxY - inner.minY) * frequency;
  const jitter = SMOOTHED * jitterOf(strips, frequency, perSample);
  // A line through n places that each scatter by j is off by j √(12 / n³) a layer.
  const byJitter = (jitter * Math.sqrt(12 / layersSeen ** 3) * frequency) ** 2;
  const share = SURE * Math.sqrt(byStrips / frequency ** 2 + byJitter + scaleError ** 2);
  const value = 1 / frequency;
  if (!(share < MOST_SHARE)) return cannotTell(box, UNSEEN);
  return {
    value,
    spread: EIGHT_OF_TEN * share * value,
    told: true,
    at: inner,
    also: { jitter, layers: Math.round(layersSeen) },
  };
}

const UNSEEN =
  'Layers are not seen here: hold it still, focus, and let light graze the face from above.';
/** A phase is read over one and a half layers, which hides this much of the scatter of single ones. */
const SMOOTHED = 1.7;
/** Scatter of made-up photos, over what strips, jitter and corners together say: they tell part of it twice. */
const SURE = 0.92;
/** A pitch that is less sure than this, as a share, is none. */
const MOST_SHARE = 0.05;

/** Upright strips of a band, each with the mean of its columns along height, from below. */
function stripsOf(
  { flat, grey, plastic, plan }: Sight,
  { minX, maxX, minY, maxY }: Spot['box'],
): Strip[] {
  const { width, pxPerMm } = flat;
  const wide = Math.max(2, Math.round(STRIP * pxPerMm));
  const from = Math.round(columnOf(flat, minX));
  const to = Math.round(columnOf(flat, maxX));
  const low = Math.round(rowOf(flat, minY));
  const high = Math.round(rowOf(flat, maxY));
  const count = low - high;
  const strips: Strip[] = [];
  for (let first = from; first + wide <= to; first += wide) {
    const line = new Float64Array(count);
    let covered = 0;
    for (let i = 0; i < count; i++) {
      const start = (low - 1 - i) * width + first;
      let sum = 0;
      for (let k = 0; k < wide; k++) {
        sum += grey[start + k]!;
        if (plastic === null || plastic[start + k]! > 0.5) covered++;
      }
      line[i] = sum / wide;
    }
    if (covered < 0.8 * wide * count) continue;
    const level = withoutTrend(line, 3 * plan.layerHeight * pxPerMm);
    let square = 0;
    const faded = windowed(level);
    for (const value of faded) square += value * value;
    if (square > 0) strips.push({ line: faded, plain: level, weight: 1 / square });
  }
  return strips;
}

/** Powers of all strips together; each counts by how much of what it shows is at one pitch. */
function poolOf(powers: readonly Float64Array[], strips: readonly Strip[]): Float64Array {
  const pooled = new Float64Array(FREQUENCIES);
  powers.forEach((power, s) => {
    const { weight } = strips[s]!;
    power.forEach((value, i) => (pooled[i]! += (value * weight) ** 2));
  });
  return pooled.map((value) => Math.sqrt(value / powers.length));
}

/** Whether a pitch, as how often it comes in a layer that was asked for, is one of those that are looked for. */
const isLookedFor = (often: number): boolean => often >= 1 / WIDEST && often <= 1 / NARROWEST;

/** Index of the highest place among the pitches that are looked for; null where it lies at their end. */
function peakIn(
  pooled: Float64Array,
  frequencies: readonly number[],
  asked: number,
): number | null {
  let top = -1;
  frequencies.forEach((f, i) => {
    if (!isLookedFor(f * asked)) return;
    if (top < 0 || pooled[i]! > pooled[top]!) top = i;
  });
  const peak = pooled[top];
  if (peak === undefined || top === 0 || top === pooled.length - 1) return null;
  return peak >= pooled[top - 1]! && peak >= pooled[top + 1]! ? top : null;
}

/** The highest place of all strips' powers near a frequency, cycles a mm. */
function refined(strips: readonly Strip[], near: number, asked: number, perSample: number): number {
  const height = (f: number) =>
    strips.reduce((sum, { line, weight }) => sum + (powerAt(line, f * perSample) * weight) ** 2, 0);
  let at = near;
  for (let step = (HIGHEST - LOWEST) / (FREQUENCIES - 1) / asked; step > 1e-4 / asked; step /= 4) {
    let best = height(at);
    for (const direction of [-1, 1])
      for (let next = height(at + direction * step); next > best;) {
        at += direction * step;
        best = next;
        next = height(at + direction * step);
      }
    at += step * vertex(height(at - step), best, height(at + step));
  }
  return at;
}

/** Scatter of single layers about even places, mm: by how their phase wanders along height. */
function jitterOf(strips: readonly Strip[], frequency: number, perSample: number): number {
  const turn = 2 * Math.PI * frequency * perSample;
  const layer = 1 / (frequency * perSample);
  const count = Math.floor(strips[0]!.line.length / layer) - 1;
  if (count < 4) return 0;
  // Phase of each layer, of all strips together, each strip turned by its own mean phase.
  const sums = Array.from({ length: count }, () => [0, 0] as [number, number]);
  for (const { plain: line, weight } of strips) {
    const own = sums.map((_, n) => {
      let [re, im] = [0, 0];
      const from = Math.round((n + 0.25) * layer);
      const to = Math.round((n + 1.75) * layer);
      for (let i = from; i < to; i++) {
        const value = line[i]! * hann(i - from, to - from);
        re += value * Math.cos(turn * i);
        im -= value * Math.sin(turn * i);
      }
      return [re, im] as const;
    });
    const [re, im] = own.reduce(([a, b], [c, d]) => [a + c, b + d], [0, 0] as [number, number]);
    const size = Math.hypot(re, im) || 1;
    own.forEach(([a, b], n) => {
      sums[n]![0] += (weight * (a * re + b * im)) / size;
      sums[n]![1] += (weight * (b * re - a * im)) / size;
    });
  }
  const places = sums.map(([re, im]) => Math.atan2(im, re) / (2 * Math.PI * frequency));
  const middle = (count - 1) / 2;
  const mean = places.reduce((a, b) => a + b, 0) / count;
  let [xy, xx] = [0, 0];
  places.forEach((place, n) => {
    xy += (n - middle) * (place - mean);
    xx += (n - middle) ** 2;
  });
  const slope = xy / xx;
  const square = places.reduce(
    (sum, place, n) => sum + (place - mean - slope * (n - middle)) ** 2,
    0,
  );
  return Math.sqrt(square / (count - 2));
}
