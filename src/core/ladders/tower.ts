/** Towers: forms that are regions by height. What every one of them needs, from its layers to a plan. */

import { bedCentre, growBox, type Box } from '../bench/bed';
import type { Bench } from '../bench/bench';
import { inForce } from '../bench/in-force';
import type { Bed } from '../bench/machine';
import { beadPitch } from '../deposit/bead';
import { beadWidthOf, conditionsOf, type Conditions } from '../deposit/conditions';
import { depositLayers, type LayingMemory } from '../deposit/deposit';
import type { Layer } from '../deposit/layer';
import type { Plan, Rung } from '../deposit/plan';
import { primeLine, surroundLoops, surroundReach, surroundSteps } from '../deposit/surround';
import { short, tidy } from '../numbers';
import type { Values } from '../settings';
import { boxOf, type Region } from '../shape/region';
import { tooLow, type Relief } from '../shape/relief';
import type { Placing } from './fields';
import { onBed, warn } from './guards';
import type { Warning } from './types';

/** Sizes that follow from nozzle and layer, mm. */
export type Grid = {
  layer: number;
  bead: number;
  pitch: number;
  baseLayers: number;
  rungLayers: number;
  /** Height of a rung, whole layers. */
  rung: number;
};

const BASE_HEIGHT = 1;

export function gridOf(
  spec: { layerHeight: number; rungHeight: number },
  bore: number,
  baseHeight = BASE_HEIGHT,
): Grid {
  const layer = spec.layerHeight;
  const bead = Math.max(beadWidthOf(bore), layer);
  const rungLayers = Math.max(1, Math.round(spec.rungHeight / layer));
  return {
    layer,
    bead,
    pitch: beadPitch(bead, layer),
    baseLayers: Math.max(3, Math.round(baseHeight / layer)),
    rungLayers,
    rung: rungLayers * layer,
  };
}

/** Height of the top of a layer over the bed, mm. */
export const topOf = (layer: number, index: number): number =>
  Math.round((index + 1) * layer * 1e6) / 1e6;

/** Height of a tower of `rungs` rungs on its base, mm. */
export const heightOf = ({ layer, baseLayers, rungLayers }: Grid, rungs: number): number =>
  topOf(layer, baseLayers + rungs * rungLayers - 1);

/** One layer of a form without its place in the stack. */
export type Section = Pick<Layer, 'outline' | 'solid' | 'walls'>;

/**
 * Stacks a base and rungs.
 *
 * @param base    section of the layer `index` of the base
 * @param section section of the layer `within` of a rung
 */
export function stack(
  { layer, baseLayers, rungLayers }: Grid,
  rungs: number,
  base: (index: number) => Section,
  section: (rung: number, within: number) => Section,
): Layer[] {
  return Array.from({ length: baseLayers + rungs * rungLayers }, (_, index) => {
    const common = { index, z: topOf(layer, index), height: layer };
    if (index < baseLayers) return { ...common, rung: null, ...base(index) };
    const rung = Math.floor((index - baseLayers) / rungLayers);
    return { ...common, rung, ...section(rung, (index - baseLayers) % rungLayers) };
  });
}

const surroundOf = ({ skirtLoops, brim = 0 }: Placing) => ({ skirtLoops, brimWidth: brim });

/** Where a form lands on the bed, and the prime line beside it. */
export function placeOn(bed: Bed, spec: Placing, print: Box, bead: number) {
  const centre = bedCentre(bed);
  const dx = tidy(centre.x + spec.shiftX - (print.minX + print.maxX) / 2);
  const dy = tidy(centre.y + spec.shiftY - (print.minY + print.maxY) / 2);
  const on: Box = {
    minX: print.minX + dx,
    minY: print.minY + dy,
    maxX: print.maxX + dx,
    maxY: print.maxY + dy,
  };
  const around = growBox(on, surroundReach(surroundOf(spec), bead));
  return { dx, dy, on, around, prime: primeLine(around, bed, bead) };
}

const movedBox = ({ minX, maxX, minY, maxY }: Box, dx: number, dy: number): Box => ({
  minX: tidy(minX + dx),
  maxX: tidy(maxX + dx),
  minY: tidy(minY + dy),
  maxY: tidy(maxY + dy),
});

export const moveRegion = (region: Region, dx: number, dy: number): Region =>
  region.map((ring) => ring.map(({ x, y }) => ({ x: x + dx, y: y + dy })));

export type Tower = {
  spec: Placing & { speed: number; rungHeight: number; layerHeight: number };
  grid: Grid;
  /** Before it is placed; only made when it is asked for. */
  layers: () => Layer[];
  footprint: Box;
  /** Digits on its face, if it has any. */
  digits: Relief | null;
  /** Values of the rungs, foot first. */
  rungs: { set: Values; slope?: number; looked?: Box }[];
  held?: Values;
  nozzle?: number;
  /** Shortest time of a layer, s, when it is not the filament's. */
  shortestLayer?: number;
  /** Changes to how a rung is laid. */
  conditions?: (plain: Conditions, rung: number | null) => Conditions;
};

/** The rungs where they stand in the stack; what is looked at is not placed yet. */
export function rungsIn({ rungs, grid: { layer, baseLayers, rungLayers } }: Tower): Rung[] {
  return rungs.map((rung, index) => {
    const first = baseLayers + index * rungLayers;
    const last = first + rungLayers - 1;
    const z = { from: topOf(layer, first - 1), to: topOf(layer, last) };
    return { ...rung, index, z, layers: { first, last } };
  });
}

/** A plan of a tower. Conditions that are tested are held from its first rung on. */
export function towerPlan(tower: Tower, bench: Bench, memory?: LayingMemory): Plan {
  const { spec, grid, footprint, rungs } = tower;
  const bed = bench.machine.bed;
  const { dx, dy, around, prime } = placeOn(bed, spec, footprint, grid.bead);
  if (!prime) throw new Error('planned in spite of a stop: no room for a prime line');
  const layers = tower.layers().map((one) => ({
    ...one,
    outline: moveRegion(one.outline, dx, dy),
    solid: moveRegion(one.solid, dx, dy),
  }));
  const conditionsAt = (rung: number | null): Conditions => {
    const tested = rung === null ? {} : { ...tower.held, ...rungs[rung]!.set };
    const plain = conditionsOf(bench, grid.layer, spec.speed, tested);
    const timed = { ...plain, shortestLayer: tower.shortestLayer ?? plain.shortestLayer };
    return tower.conditions?.(timed, rung) ?? timed;
  };
  const known = new Map<number | null, Conditions>();
  const conditions = (rung: number | null): Conditions => {
    const made = known.get(rung) ?? conditionsAt(rung);
    known.set(rung, made);
    return made;
  };
  const [first] = layers as [Layer];
  const loops = surroundLoops(first.outline, surroundOf(spec), grid.bead);
  const before = surroundSteps(prime, loops, conditions(null));
  const start = loops.at(-1)?.loop.at(-1) ?? prime[1];
  const [layerStep, ...laid] = depositLayers(layers, conditions, start, memory);
  const line = boxOf([[...prime]]);
  return {
    view: 'front',
    rungs: rungsIn(tower).map(({ looked, ...rung }) => ({
      ...rung,
      ...(looked ? { looked: movedBox(looked, dx, dy) } : {}),
    })),
    steps: [layerStep!, ...before, ...laid],
    box: {
      minX: Math.min(around.minX, line.minX),
      minY: Math.min(around.minY, line.minY),
      maxX: Math.max(around.maxX, line.maxX),
      maxY: Math.max(around.maxY, line.maxY),
    },
    height: heightOf(grid, rungs.length),
    width: Number(short(footprint.maxX - footprint.minX)),
    layerHeight: grid.layer,
    start: { nozzle: tower.nozzle ?? inForce(bench).nozzle },
    held: tower.held ?? {},
  };
}

/** What every tower has to keep to: bed, height, layers, digits. */
export function towerChecks(
  { spec, grid, footprint, rungs, digits }: Tower,
  { machine, nozzle }: Bench,
): Warning[] {
  const { around, prime } = placeOn(machine.bed, spec, footprint, grid.bead);
  return [
    ...layerFits(grid.layer, nozzle.diameter),
    ...rounded(spec.rungHeight, grid),
    ...(digits && tooLow(digits) ? [digitsLow(digits)] : []),
    ...tall(grid, rungs.length, machine.name, machine.height),
    ...onBed(around, machine.bed),
    ...(prime ? [] : [noPrime]),
  ];
}

export const noPrime: Warning = warn(
  'stop',
  'no-prime',
  'place',
  'No side of the print has room for a prime line.',
  'Move it toward the middle, or make it smaller.',
);

/** A layer is a fifth to four fifths of the bore. */
export function layerFits(layer: number, bore: number): Warning[] {
  const [thin, thick] = [0.2 * bore, 0.8 * bore];
  if (layer >= thin - 1e-9 && layer <= thick + 1e-9) return [];
  return [
    warn(
      'stop',
      'layer-height',
      'layerHeight',
      `Layers of ${short(layer)} mm do not suit a ${bore} mm nozzle.`,
      `Choose ${short(thin)} to ${short(thick)} mm.`,
    ),
  ];
}

function rounded(asked: number, { rung, rungLayers, layer }: Grid): Warning[] {
  if (Math.abs(rung - asked) <= 1e-6) return [];
  return [
    warn(
      'note',
      'rung-rounded',
      'rungHeight',
      `A rung is a whole number of layers: ${rungLayers} of ${short(layer)} mm, ${short(rung)} mm.`,
      'Nothing needs doing.',
    ),
  ];
}

const digitsLow = ({ bar }: Relief): Warning =>
  warn(
    'warning',
    'digits-low',
    'rungHeight',
    'Rungs this low leave too little height for digits that can be read in plastic.',
    `Take rungs of at least ${short(Math.ceil(bar * 4.2 + 2), 0)} mm.`,
  );

function tall(
  { baseLayers, rungLayers, layer, rung }: Grid,
  rungs: number,
  name: string,
  room: number,
): Warning[] {
  const height = (baseLayers + rungs * rungLayers) * layer;
  if (height <= room) return [];
  const most = Math.max(0, Math.floor((room - baseLayers * layer) / rung));
  return [
    warn(
      'stop',
      'too-tall',
      'rungHeight',
      `The ladder would be ${short(height, 1)} mm tall; ${name} prints up to ${short(room, 0)} mm.`,
      `At this rung height ${most} rungs fit: take a larger step, a shorter range or lower rungs.`,
    ),
  ];
}
