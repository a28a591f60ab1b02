/** Starting points: four kinds of machine and five filaments, good enough that three fields need changing. */

import { DIALECTS, type Column } from '../dialect/dialect';
import type { Filament, Nozzle } from './bench';
import type { Cornering, Machine } from './machine';
import { MATERIALS, type Material } from './materials';

/** Heats the bed, homes, heats the nozzle away from the plate. The prime line follows it in every file. */
const START_BLOCK = `G21
G90
M83
M140 S{bed}
G28
G1 Z10 F600
M190 S{bed}
M109 S{nozzle}
G92 E0`;

/** Everything off, print within reach. */
const END_BLOCK = `M104 S0
M140 S0
M107
G1 Z{park_z} F600
G1 X{park_x} Y{park_y} F6000
M84`;

const heron: Machine = {
  name: 'Heron',
  bed: { shape: 'rectangle', width: 220, depth: 220, origin: 'corner' },
  height: 240,
  limits: {
    speed: { x: 300, y: 300, z: 10, e: 60 },
    acceleration: { x: 1500, y: 1500, z: 100, e: 5000 },
    printAcceleration: 1000,
    travelAcceleration: 1500,
    cornering: { model: 'jerk', x: 8, y: 8, z: 0.4, e: 5 },
  },
  extruder: { drive: 'tube', tools: 1, hottest: 260 },
  bedHottest: 110,
  retraction: { distance: 5, speed: 40, lift: 0 },
  speeds: { print: 50, firstLayer: 20, travel: 150, bridge: 30 },
  dialect: DIALECTS.A,
  startBlock: START_BLOCK,
  endBlock: END_BLOCK,
};

const wren: Machine = {
  name: 'Wren',
  bed: { shape: 'rectangle', width: 250, depth: 250, origin: 'corner' },
  height: 220,
  limits: {
    speed: { x: 500, y: 500, z: 20, e: 80 },
    acceleration: { x: 10000, y: 10000, z: 300, e: 8000 },
    printAcceleration: 4000,
    travelAcceleration: 4000,
    cornering: { model: 'square-corner', speed: 5 },
  },
  extruder: { drive: 'direct', tools: 1, hottest: 300 },
  bedHottest: 120,
  retraction: { distance: 0.6, speed: 35, lift: 0 },
  speeds: { print: 100, firstLayer: 30, travel: 300, bridge: 40 },
  dialect: DIALECTS.D,
  startBlock: START_BLOCK,
  endBlock: END_BLOCK,
};

const otter: Machine = {
  name: 'Otter',
  bed: { shape: 'rectangle', width: 300, depth: 200, origin: 'corner' },
  height: 200,
  limits: {
    speed: { x: 250, y: 250, z: 12, e: 60 },
    acceleration: { x: 2500, y: 2500, z: 150, e: 5000 },
    printAcceleration: 1500,
    travelAcceleration: 2000,
    cornering: { model: 'junction-deviation', deviation: 0.03 },
  },
  extruder: { drive: 'direct', tools: 2, hottest: 280 },
  bedHottest: 110,
  retraction: { distance: 1, speed: 35, lift: 0.2 },
  speeds: { print: 60, firstLayer: 20, travel: 180, bridge: 30 },
  dialect: DIALECTS.B,
  startBlock: `T0\n${START_BLOCK}`,
  endBlock: END_BLOCK.replace('M104 S0', 'M104 T1 S0\nM104 T0 S0'),
};

const newt: Machine = {
  name: 'Newt',
  bed: { shape: 'round', diameter: 180, origin: 'centre' },
  height: 250,
  limits: {
    speed: { x: 300, y: 300, z: 300, e: 60 },
    acceleration: { x: 3000, y: 3000, z: 3000, e: 5000 },
    printAcceleration: 2000,
    travelAcceleration: 2500,
    cornering: { model: 'jerk', x: 10, y: 10, z: 10, e: 8 },
  },
  extruder: { drive: 'direct', tools: 1, hottest: 270 },
  bedHottest: 100,
  retraction: { distance: 1.2, speed: 35, lift: 0 },
  speeds: { print: 60, firstLayer: 20, travel: 180, bridge: 30 },
  dialect: DIALECTS.C,
  startBlock: START_BLOCK,
  endBlock: END_BLOCK,
};

export const MACHINES = { heron, wren, otter, newt } as const;
export type MachinePreset = keyof typeof MACHINES;

/** What a starting point is called before it has a name of its own. */
export const MACHINE_KINDS: Record<MachinePreset, string> = {
  heron: 'The bed moves; filament is fed through a tube',
  wren: 'Fast: the bed stands, the extruder rides on the head',
  otter: 'Two nozzles on one head',
  newt: 'A round bed, three arms above it',
};

/** How firmware of each column limits corners, and what it starts with there. */
const USUAL_CORNERING: Record<Column, Cornering> = {
  A: { model: 'jerk', x: 8, y: 8, z: 0.4, e: 5 },
  B: { model: 'junction-deviation', deviation: 0.03 },
  C: { model: 'jerk', x: 10, y: 10, z: 0.4, e: 8 },
  D: { model: 'square-corner', speed: 5 },
};

/** A machine with the commands of a column, and the model of cornering that goes with them. */
export function speaking(machine: Machine, column: Column): Machine {
  const usual = USUAL_CORNERING[column];
  const { cornering } = machine.limits;
  return {
    ...machine,
    dialect: DIALECTS[column],
    limits: { ...machine.limits, cornering: cornering.model === usual.model ? cornering : usual },
  };
}

export const DEFAULT_NOZZLE: Nozzle = { diameter: 0.4 };

/** A filament with the defaults of its material. */
export function filamentOf(name: string, material: Material): Filament {
  const { nozzle, bed, density, fan, shortestLayer } = MATERIALS[material];
  return {
    name,
    material,
    diameter: 1.75,
    density,
    nozzle: { ...nozzle },
    bed,
    fan: { ...fan },
    shortestLayer,
  };
}

export const FILAMENTS = {
  moss: filamentOf('Moss matte PLA', 'PLA'),
  lantern: filamentOf('Lantern PETG', 'PETG'),
  brine: { ...filamentOf('Brine ASA', 'ASA'), nozzle: { min: 235, max: 260 } },
  eel: { ...filamentOf('Eel soft TPU', 'TPU'), nozzle: { min: 210, max: 235 } },
  quill: { ...filamentOf('Quill silky PLA', 'PLA'), nozzle: { min: 200, max: 225 } },
} as const satisfies Record<string, Filament>;
