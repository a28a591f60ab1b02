/** What nobody can see of a machine and a spool: drawn from a seed, found out only by printing. */

import type { Bench } from '../core/bench/bench';
import { normal, seeded, type Random } from '../core/random';
import type { Mode } from './ringing';
import { PLASTICS } from './plastic';

export type Truths = {
  seed: number;
  /** The melt is this much hotter than the sensor says, °C. */
  sensor: number;
  /** Temperature at which this spool flows as a plastic of its kind should, °C. */
  works: number;
  /** Where it stops being stiff, °C. */
  soft: number;
  /** Temperatures at which half of the bond and of the shine is there, °C. */
  bondsAt: number;
  shinesAt: number;
  /** Pressure: time constant at slow flow, s, and flow at which it has fallen by half, mm³/s. */
  lag: number;
  lagHalf: number;
  /** Share of the spring that gives way only in time, and that time, s. */
  creeps: number;
  creepsOver: number;
  /** Filament that a retraction moves before the melt feels it, mm. */
  slack: number;
  /** Pace of a retraction at which half of the melt flows after it, mm/s. */
  follows: number;
  /** Melt that leaks from an open nozzle, mm³/s at `works`. */
  leak: number;
  /** Temperature above which even a closed nozzle draws threads at a usual travel, °C. */
  stringsFrom: number;
  /** A thread holds when it has more than this, mm³ a mm. */
  threadHolds: number;
  /** Melts at most, mm³/s at `works`. */
  melts: number;
  /** Sag of a 20 mm strand at `works` with full fan, mm; droop of a steep overhang, mm. */
  sags: number;
  droops: number;
  /** First resonance of each axis, Hz, and damping ratio. */
  resonance: { x: number; y: number };
  damping: { x: number; y: number };
  /** A second way in which each axis of some machines rings; null where it has none that matters. */
  overtone: { x: Mode | null; y: Mode | null };
  /** Something loose beside the head of some machines, which only a sensor feels. */
  panel: Mode | null;
  /** True distance of the bed below z = 0 at its middle, mm, and its rise per mm. */
  bed: { offset: number; tiltX: number; tiltY: number };
  /** Filament fed for each mm that is asked for. */
  feeds: number;
  /** Where the second nozzle really is against where it should be, mm. */
  second: { x: number; y: number };
  /** Time constants of the heaters, s. */
  heats: { nozzle: number; bed: number };
  /** Speed at which strands over air hang best, mm/s. */
  strandPace: number;
  /** Share of a full strand over air up to which it is pulled straight. */
  taut: number;
};

/** Share of axes that ring in a second way. */
const OVERTONES = 0.4;
/** Share of machines with something loose. */
const PANELS = 0.25;

/** Draws the truths of a machine with one spool on it. Each is drawn alone, so that none gives another away. */
export function drawTruths({ machine, filament, nozzle }: Bench, seed: number): Truths {
  const tube = machine.extruder.drive === 'tube';
  const { works, soft } = PLASTICS[filament.material];
  // Every truth has a stream of its own, numbered as it is drawn: one added last changes none of the others.
  let stream = 0;
  const draw = (): Random => seeded(Math.imul(seed, 0x9e3779b1) + 0x51ed270b * ++stream);
  const between = (low: number, high: number) => low + (high - low) * draw()();
  const about = (middle: number, spread: number) => middle + spread * normal(draw());
  const bore = nozzle.diameter / 0.4;
  const best = about(works, 4);
  const truths = {
    seed,
    sensor: about(0, 3),
    works: best,
    soft,
    bondsAt: best - between(17, 25),
    shinesAt: best - between(7, 15),
    lag: tube ? between(0.25, 0.75) : between(0.02, 0.075),
    lagHalf: between(18, 30),
    slack: tube ? between(2, 4.6) : between(0.15, 0.9),
    leak: between(0.25, 0.6) * bore,
    stringsFrom: best + between(-3, 10),
    threadHolds: between(4e-4, 8e-4) * bore,
    melts: between(10, 16) * bore,
    sags: between(0.22, 0.42),
    droops: between(0.055, 0.1),
    resonance: { x: between(34, 62), y: between(26, 50) },
    damping: { x: between(0.05, 0.12), y: between(0.05, 0.12) },
    bed: { offset: about(0, 0.03), tiltX: about(0, 1e-4), tiltY: about(0, 1e-4) },
    feeds: about(1, 0.025),
    second: { x: about(0, 0.2), y: about(0, 0.2) },
    heats: { nozzle: between(8, 14), bed: between(60, 110) },
    strandPace: between(22, 55),
    taut: between(0.9, 1.04),
    follows: between(4, 14),
    creeps: between(0.1, 0.3),
    creepsOver: tube ? between(0.08, 0.25) : between(0.02, 0.06),
  };
  const overtone = (hz: number): Mode | null => {
    const random = draw();
    const has = random() < OVERTONES;
    const mode = {
      hz: hz * (1.5 + 0.9 * random()),
      damping: 0.04 + 0.06 * random(),
      share: 0.08 + 0.2 * random(),
    };
    return has ? mode : null;
  };
  const { resonance } = truths;
  const both = { x: overtone(resonance.x), y: overtone(resonance.y) };
  const loose = draw();
  const has = loose() < PANELS;
  const panel = {
    hz: 82 + 40 * loose(),
    damping: 0.004 + 0.005 * loose(),
    share: 0.2 + 0.3 * loose(),
  };
  return { ...truths, overtone: both, panel: has ? panel : null };
}
