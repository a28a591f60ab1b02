/** How plastic is laid on a bench, decided once for all kinds. */

import type { Bench } from '../bench/bench';
import { inForce } from '../bench/in-force';
import { MATERIALS } from '../bench/materials';
import { tidy } from '../numbers';
import type { Values } from '../bench/settings';
import { beadArea, beadPitch, filamentFor, roundArea } from './bead';
import type { Spent } from './cooling';
import type { Role } from './step';

export type Conditions = {
  /** Bead width and layer height, mm. */
  width: number;
  height: number;
  /** Distance between the middles of neighbouring beads, mm. */
  pitch: number;
  /** Nozzle bore, mm: a strand in the air is about as thick. */
  bore: number;
  /** Share of a full strand that is laid over air. */
  bridgeFlow: number;
  speeds: Record<Role, number>;
  /** What a layer spends on the way from stroke to stroke. */
  spent: Spent;
  fan: { print: number; bridge: number };
  /** How long the fan is waited for when it changes, s, where that is what is tested. */
  fanFollows?: number;
  /** Layer index at which the fan has ramped up to full. */
  fanFullAt: number;
  /** Shortest time of a layer, s. */
  shortestLayer: number;
};

/** A bead a little wider than the bore is pressed against its neighbour. */
const WIDTH_PER_BORE = 1.125;

/**
 * Fastest speed, whole mm/s, at which a bead is surely melted: by the largest melt flow that was found, else by what any
 * hot end melts. What only has to be laid is held under it, or a wide nozzle would be asked for more than it can give,
 * and soft filament buckle.
 */
export const surelyMelted = (
  area: number,
  { filament, tuned }: Pick<Bench, 'filament' | 'tuned'>,
): number =>
  Math.max(1, Math.floor((tuned?.meltFlow ?? MATERIALS[filament.material].melts) / area));

/** A prime line is laid thick: it fills the melt zone and can be pulled off in one piece. */
const PRIME_FLOW = 2.5;

/** Section of a prime line beside beads of this size, mm². */
export const primeArea = (width: number, height: number): number =>
  PRIME_FLOW * beadArea(width, height);

/** Layers until the fan is full: the first must stick, the next must not shrink at once. */
const FAN_RAMP_LAYERS = 4;

export const beadWidthOf = (bore: number): number =>
  tidy(Math.round(bore * WIDTH_PER_BORE * 100) / 100);
export const layerHeightOf = (bore: number): number => tidy(Math.round(bore * 50) / 100);

export function conditionsOf(
  bench: Bench,
  height: number,
  printSpeed: number,
  tested: Values = {},
): Conditions {
  const { machine, nozzle, filament } = bench;
  const { firstLayer, travel, print } = machine.speeds;
  const {
    bridgeFlow,
    bridgeSpeed,
    bridgeFan,
    fan,
    retraction,
    retractSpeed,
    restartExtra,
    restartSpeed,
  } = { ...inForce(bench), ...tested };
  const width = Math.max(beadWidthOf(nozzle.diameter), height);
  const section = beadArea(width, height);
  return {
    width,
    pitch: beadPitch(width, height),
    height,
    bore: nozzle.diameter,
    bridgeFlow,
    speeds: {
      prime: Math.min(firstLayer, surelyMelted(primeArea(width, height), bench)),
      skirt: Math.min(firstLayer, surelyMelted(section, bench)),
      brim: Math.min(firstLayer, surelyMelted(section, bench)),
      wall: printSpeed,
      fill: Math.min(print, surelyMelted(section, bench)),
      // A speed that is tested is not bent.
      bridge:
        tested.bridgeSpeed ??
        Math.min(bridgeSpeed, surelyMelted(roundArea(nozzle.diameter), bench)),
    },
    spent: {
      travelSpeed: travel,
      travelAcceleration: machine.limits.travelAcceleration,
      drawing: retraction / retractSpeed + (retraction + restartExtra) / restartSpeed,
    },
    fan: { print: fan, bridge: bridgeFan },
    fanFullAt: FAN_RAMP_LAYERS,
    shortestLayer: filament.shortestLayer,
  };
}

/** Filament that a millimetre of a plain bead takes, mm. */
export const filamentPerMm = ({ nozzle, filament }: Bench, height: number): number =>
  filamentFor(
    1,
    beadArea(Math.max(beadWidthOf(nozzle.diameter), height), height),
    filament.diameter,
  );

/** Section that a stroke of this role lays, mm². A strand over air keeps the round shape of the bore. */
export function areaOf(role: Role, { width, height, bore, bridgeFlow }: Conditions): number {
  if (role === 'bridge') return roundArea(bore) * bridgeFlow;
  return role === 'prime' ? primeArea(width, height) : beadArea(width, height);
}

/** Fan for a layer, as a share of full: none on the first, then in even steps. */
export function fanAt(layer: number, { fan, fanFullAt }: Conditions, role: Role): number {
  const full = role === 'bridge' ? fan.bridge : fan.print;
  return tidy(Math.round(full * Math.min(1, layer / fanFullAt) * 255) / 255);
}
