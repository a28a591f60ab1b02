/** How far strands over air sag between their ends. */

import { roundArea } from '../core/deposit/bead';
import { SAMPLE, type Samples } from './samples';

/** A strand over air shorter than this, mm, is held by its ends. */
const SHORT_SPAN = 1.5;

/**
 * Strands over air sag like a hot thread between its ends: deepest in the middle, with the square of the span
 * (J. Teichman, L. Mahadevan, J. Fluid Mech. 478, 2003, the stretched regime of a viscous catenary).
 */
export function sag(samples: Samples, bore: number): void {
  const { count, support, drop, move, width, gap } = samples;
  const round = roundArea(bore);
  for (let n = 0; n < count;) {
    if (support[n]! > 0) {
      n++;
      continue;
    }
    let end = n;
    while (end < count && support[end] === 0 && move[end] === move[n]) end++;
    const span = (end - n) * SAMPLE;
    const held = end < count && move[end] === move[n];
    const size = span < SHORT_SPAN ? 0 : (span / 20) ** 2 * (held ? 1 : 1.3);
    for (let k = n; k < end; k++) {
      const share = (k - n + 0.5) / (end - n);
      // A strand that is thinner than the bore is pulled straight, one that gets more is slack.
      const laid = gap[k]! * (width[k]! - gap[k]! * (1 - Math.PI / 4));
      const slack = Math.max(0.3, laid / round) ** 2;
      drop[k] = Math.min(0.4 * span, drop[k]! * size * slack * 4 * share * (1 - share));
    }
    n = end;
  }
}
