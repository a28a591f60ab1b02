/** What a peak is of: the machine along the axis that was shaken, something loose beside it, or what hums by itself. */

import type { Peak } from './peaks';
import type { ShakeRecord } from './record';
import { along, stretches, meanPower, type Shaken, type Spectrum } from './spectrum';

/** `axis`: it rings with the axis. `panel`: it moves elsewhere. `steady`: it is there while nothing moves. */
export type PeakOf = 'axis' | 'panel' | 'steady';
export type KnownPeak = Peak & { of: PeakOf };

/** What rings less than this, and higher than that, is thin or small. */
const [SHARP, HIGH_HZ] = [0.02, 30];
/** An axis rings along itself by at least this share. */
const ALONG = 0.75;
/** What hums by itself has this share of its power while nothing moves. */
const HUMS = 0.3;
/** A part that is asked whether something hums, s. */
const STILL_S = 1;

/** Power about a frequency, within its width and at least a step or two. */
function about({ step, power }: Spectrum, { hz, width }: Peak): number {
  const reach = Math.max(1.5 * step, width / 2);
  let sum = 0;
  for (
    let i = Math.max(0, Math.ceil((hz - reach) / step));
    i <= Math.min(power.length - 1, Math.floor((hz + reach) / step));
    i++
  )
    sum += power[i]! * step;
  return sum;
}

type Spectra = { along: Spectrum; across: Spectrum; upright: Spectrum };

/** The first of the quietest seconds of a record, as a sample. */
function quietest({ x, y, z, rate }: ShakeRecord): [number, number] | null {
  const size = Math.round(STILL_S * rate);
  let best: [number, number] | null = null;
  let least = Infinity;
  for (let from = 0; from + size <= x.length; from += size >> 2) {
    let spread = 0;
    for (const column of [x, y, z]) {
      let [sum, squares] = [0, 0];
      for (let i = from; i < from + size; i++) {
        sum += column[i]!;
        squares += column[i]! ** 2;
      }
      spread += squares / size - (sum / size) ** 2;
    }
    if (spread < least) [least, best] = [spread, [from, from + size]];
  }
  return best;
}

export function knownPeaks(
  peaks: readonly Peak[],
  spectra: Spectra,
  record: ShakeRecord,
  shaken: Shaken,
): KnownPeak[] {
  const sharp = peaks.filter(({ damping, hz }) => damping < SHARP && hz > HIGH_HZ);
  const part = sharp.length > 0 ? quietest(record) : null;
  const size = part ? 2 ** Math.floor(Math.log2(part[1] - part[0])) : 0;
  const still =
    part && meanPower(stretches(along(record, shaken.along), record.rate, size, ...part));
  const known = peaks.map((peak): KnownPeak => {
    if (!sharp.includes(peak)) return { ...peak, of: 'axis' };
    const moving = about(spectra.along, peak);
    // Its own width is hidden by that of a short stretch: what stands there within a few Hz is compared.
    if (
      still &&
      about(still, { ...peak, width: 6 }) > HUMS * about(spectra.along, { ...peak, width: 6 })
    )
      return { ...peak, of: 'steady' };
    const all = moving + about(spectra.across, peak) + about(spectra.upright, peak);
    return { ...peak, of: moving < ALONG * all ? 'panel' : 'axis' };
  });
  // What rings with the axis comes first, whatever rattles louder beside it.
  return [...known.filter(({ of }) => of === 'axis'), ...known.filter(({ of }) => of !== 'axis')];
}
