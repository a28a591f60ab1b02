/**
 * What plastic does with heat. Rates near the working temperature, so that each formula is a first order of the
 * law that it names. Temperatures °C, lengths mm, times s.
 */

import type { Material } from '../core/bench/materials';

export const ROOM = 23;

export type Plastic = {
  /** Middle of its usual working range. */
  works: number;
  /** Where it stops being stiff (glass transition, or for soft and crystalline plastics where it sets). */
  soft: number;
};

export const PLASTICS: Record<Material, Plastic> = {
  PLA: { works: 207, soft: 60 },
  PETG: { works: 240, soft: 80 },
  ABS: { works: 245, soft: 103 },
  ASA: { works: 249, soft: 100 },
  TPU: { works: 224, soft: 70 },
  PA: { works: 260, soft: 90 },
  PC: { works: 281, soft: 147 },
};

/**
 * How much more easily melt flows than at its reference, as a factor. Arrhenius law with an activation energy of
 * 90 kJ/mol, in the narrow range of a nozzle: d ln η / dT = −E / (R T²) (J. Ferry, Viscoelastic Properties of
 * Polymers, 1980, ch. 11).
 */
export const fluidity = (celsius: number, reference: number): number =>
  Math.exp(ACTIVATION * (celsius - reference));
/** 90 000 / (8.314 · 480²), 1/K. */
const ACTIVATION = 0.047;

/** Temperature after `seconds` of cooling toward the room (Newton's law of cooling). */
export const cooled = (celsius: number, seconds: number, constant: number): number =>
  ROOM + (celsius - ROOM) * Math.exp(-seconds / constant);

/** Time, s, until a strand at `celsius` is stiff; 0 when it is already. */
export const setsAfter = (celsius: number, soft: number, constant: number): number =>
  celsius > soft ? constant * Math.log((celsius - ROOM) / (soft - ROOM)) : 0;

/** Time constant of a layer's cooling without fan, s; a strand in free air cools this many times faster. */
const LAYER_COOLS = 9;
const AIR_COOLS = 12;
/** Full fan cools a layer this much faster, and a strand, which it blows on from all sides. */
const FAN_HELPS = 1.6;
const FAN_HELPS_STRAND = 3;

export const layerConstant = (fan: number): number => LAYER_COOLS / (1 + FAN_HELPS * fan);
export const strandConstant = (fan: number): number =>
  LAYER_COOLS / AIR_COOLS / (1 + FAN_HELPS_STRAND * fan);

/** Logistic step from 0 to 1 about `middle`; four fifths of it within ± 2.2 `width`. */
export const step = (value: number, middle: number, width: number): number =>
  1 / (1 + Math.exp(-(value - middle) / width));
