/** What becomes of plastic where it lies: how it is supported, how it bonds, shines, curls and sags. */

import type { Surface } from './surface';
import { cooled, fluidity, layerConstant, setsAfter, step, strandConstant } from './plastic';
import type { Samples } from './samples';
import type { Truths } from './truths';

/** Probes across the bore, as shares of it, by which the support of what leaves it is measured. */
const PROBES = [-0.42, -0.21, 0, 0.21, 0.42];
/** Least share of a bead that has to rest for it not to hang. */
const BRUSHES = 0.04;
/** A bead rests on what is at most this share of a layer below it. */
const TOUCHES = 0.6;
/** Droop of a bead that hardly rests on anything, as a multiple of the machine's own. */
const CURLS = 4;
/** Support of a bead that holds by its flank alone. */
const FLANK = 0.05;

/**
 * How pace changes the sag of a strand: slow ones stay soft under the nozzle for longer, which goes with 1/v, fast
 * ones are dragged off their anchor, which goes with v; 1 at the pace of usual bridges.
 */
const strandPace = (v: number, best: number): number => {
  const pull = (speed: number) => speed / best + best / speed;
  return pull(Math.max(v, 1)) / pull(USUAL_BRIDGE);
};
const USUAL_BRIDGE = 30;

/** Way over which the air of a fan blows on what was just laid, mm, and the pace of usual walls, mm/s. */
const [DUCT, USUAL_WALL] = [8, 40];
/** Share of a droop that happens under the nozzle, before any air comes to it. */
const AT_ONCE = 0.5;

/** What is left of a droop once the fan has passed: slow walls are blown on for longer. 1 at the pace of usual walls. */
function leftWarm(v: number, fan: number): number {
  const warm = (speed: number) => Math.exp(-DUCT / (Math.max(speed, 1) * strandConstant(fan)));
  return AT_ONCE + (1 - AT_ONCE) * (warm(v) / warm(USUAL_WALL));
}

/** Where plastic lies, which way it was laid and how fast, and when. mm, mm/s, s; the fan as a share of full. */
export type Lying = {
  x: number;
  y: number;
  z: number;
  ux: number;
  uy: number;
  layer: number;
  v: number;
  firstLayer: boolean;
  time: number;
  fan: number;
};

type Press = { samples: Samples; surface: Surface; truths: Truths; bore: number };

/** Works out sample `n`, whose asked width and heat are known. */
export function settle(press: Press, n: number, at: Lying): void {
  const { samples, surface, truths, bore } = press;
  const { x, y, z, ux, uy, layer, v, firstLayer, time, fan } = at;
  const width = samples.asked[n]!;
  let rests = 0;
  if (firstLayer) rests = 1;
  else {
    const least = z - layer * (1 + TOUCHES);
    for (const probe of PROBES) {
      const across = probe * bore;
      rests += surface.under(x - uy * across, y + ux * across, z, least) / PROBES.length;
    }
    // A bead that only brushes what is below hangs all the same.
    if (rests < BRUSHES) rests = 0;
  }
  // A bead that rests on nothing still holds by its flank to one beside it that does.
  const flank =
    rests === 0 &&
    (surface.held(x - uy * width, y + ux * width, z) ||
      surface.held(x + uy * width, y - ux * width, z));
  const support = flank ? FLANK : rests;
  const heat = samples.heat[n]!;
  const last = surface.last(x, y);
  const below = cooled(last.heat, time - last.at, layerConstant(fan));
  samples.support[n] = support;
  // Chains of two beads grow into each other while the seam is hot; a quarter of the heat comes from below
  // (R. Wool, K. O'Connor, J. Appl. Phys. 52, 1981: healing of polymer seams).
  const seam = heat + 0.25 * (below - 45) - 4 * fan;
  samples.bond[n] = firstLayer ? 1 : step(seam, truths.bondsAt, 5);
  // Slow, hot strands have time to become smooth before they set.
  samples.shine[n] = step(heat - 0.05 * (v - 25), truths.shinesAt, 4.5);
  const eased = fluidity(heat, truths.works);
  // Cold melt comes in pulses, hot melt flows out of its place, most on plastic that is still warm.
  const warm = 1 + Math.max(0, below - truths.soft) / 40;
  samples.rough[n] = Math.hypot(0.006, 0.012 / eased, 0.012 * eased * warm);
  if (support > 0 && support < 0.9) {
    const air = leftWarm(v, fan);
    const curl =
      truths.droops * CURLS * (1 - support) ** 2.5 * eased * (1.6 - 0.6 * fan) * warm * air;
    samples.drop[n] = curl;
  } else if (support === 0) {
    // Sag for a strand of 20 mm; its real length is known at its end.
    const seconds = setsAfter(heat, truths.soft, strandConstant(fan));
    const usual = setsAfter(truths.works, truths.soft, strandConstant(1));
    samples.drop[n] = truths.sags * eased * (seconds / usual) * strandPace(v, truths.strandPace);
  }
}
