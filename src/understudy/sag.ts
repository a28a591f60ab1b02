/** How far strands over air sag between their ends. */

import { roundArea } from '../core/deposit/bead';
import { SAMPLE, type Samples } from './samples';

/** Share of a surplus that makes a strand longer; the rest makes it thicker. */
const LENGTHENS = 0.05;
/** Melt comes in pulses of about this share: some of a strand is slack before all of it is. */
const PULSES = 0.012;
/** A strand over air shorter than this, mm, is held by its ends. */
const SHORT_SPAN = 1.5;

/**
 * Strands over air sag like a hot thread between its ends: deepest in the middle, with the square of the span
 * (J. Teichman, L. Mahadevan, J. Fluid Mech. 478, 2003, the stretched regime of a viscous catenary). A strand that
 * gets more plastic than pulls straight is longer than its span, too, and hangs as a shallow arc of the same length.
 *
 * @param taut share of a full strand up to which it is pulled straight
 */
export function sag(samples: Samples, bore: number, taut: number): void {
  const { count, support, drop, move, width, gap, begun } = samples;
  const round = roundArea(bore);
  for (let n = 0; n < count;) {
    if (support[n]! > 0) {
      n++;
      continue;
    }
    let end = n;
    while (end < count && support[end] === 0 && move[end] === move[n]) end++;
    const span = (end - n) * SAMPLE;
    // What rests at its end goes on without a way between, whether in the same move or in the next.
    const held = end < count && support[end]! > 0 && begun[end]! > begun[end - 1]!;
    const size = span < SHORT_SPAN ? 0 : (span / 20) ** 2 * (held ? 1 : 1.3);
    for (let k = n; k < end; k++) {
      const share = (k - n + 0.5) / (end - n);
      const full = (gap[k]! * (width[k]! - gap[k]! * (1 - Math.PI / 4))) / round;
      const surplus = LENGTHENS * PULSES * Math.log1p(Math.exp((full - taut) / PULSES));
      // Height of a shallow arc over its chord, from how much longer than the chord it is.
      const slack = span < SHORT_SPAN ? 0 : span * Math.sqrt((3 / 8) * surplus);
      // Thick strands stay soft for longer.
      const soft = drop[k]! * size * Math.max(0.3, full);
      drop[k] = Math.min(0.4 * span, (soft + slack) * 4 * share * (1 - share));
    }
    n = end;
  }
}
