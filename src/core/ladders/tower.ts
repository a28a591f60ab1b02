/** Towers: forms that are regions by height. What every one of them needs, from its layers to a plan. */

import { bedCentre, growBox, type Box } from '../bench/bed';
import type { Bench } from '../bench/bench';
import { addedOffset, inForce } from '../bench/in-force';
import { beadPitch } from '../deposit/bead';
import { beadWidthOf, conditionsOf, type Conditions } from '../deposit/conditions';
import { depositLayers, type LayingMemory } from '../deposit/deposit';
import { outlineOf, type Layer, type Part } from '../deposit/layer';
import type { Layout } from '../deposit/layout';
import {
  primeLine,
  primeOf,
  surroundLoops,
  surroundReach,
  surroundSteps,
} from '../deposit/surround';
import { short, tidy, TYPED_SLACK } from '../numbers';
import { cellsOf } from '../plan/axes';
import type { Axis, PlannedRung } from '../plan/plan';
import type { Values } from '../bench/settings';
import { boxOf, rect, type Region } from '../shape/region';
import { tooLow, type Relief } from '../shape/relief';
import type { Placing } from './fields';
import { onBed, warn } from './guards';
import type { Warning } from './types';

/** Sizes that follow from nozzle and layer, mm. */
export type Sizes = {
  layer: number;
  bead: number;
  pitch: number;
  baseLayers: number;
  rungLayers: number;
  /** Height of a rung, whole layers. */
  rung: number;
};

const BASE_HEIGHT = 1;

export function sizesOf(
  spec: { layerHeight: number; rungHeight: number },
  bore: number,
  baseHeight = BASE_HEIGHT,
): Sizes {
  const layer = spec.layerHeight;
  const bead = Math.max(beadWidthOf(bore), layer);
  const rungLayers = Math.max(1, Math.round(spec.rungHeight / layer));
  return {
    layer,
    bead,
    pitch: beadPitch(bead, layer),
    baseLayers: Math.max(2, Math.round(baseHeight / layer)),
    rungLayers,
    rung: rungLayers * layer,
  };
}

/** Height of the top of a layer over the bed, mm. */
export const topOf = (layer: number, index: number): number =>
  Math.round((index + 1) * layer * 1e6) / 1e6;

/** Height of a tower of `rungs` rungs on its base, mm. */
export const heightOf = ({ layer, baseLayers, rungLayers }: Sizes, rungs: number): number =>
  topOf(layer, baseLayers + rungs * rungLayers - 1);

/** What stands in one layer, without its place in the stack and the rung that it is for. */
export type Section = Omit<Part, 'rung'>;

/**
 * Stacks a base and rungs that are whole height bands.
 *
 * @param base    section of the layer `index` of the base
 * @param section section of the layer `within` of a rung
 */
export const stack = (
  sizes: Sizes,
  rungs: number,
  base: (index: number) => Section,
  section: (rung: number, within: number) => Section,
): Layer[] =>
  stackParts(sizes, rungs, base, (rung, within) => [{ rung, ...section(rung, within) }]);

/**
 * Stacks a base and bands of rungs.
 *
 * @param levels bands, one over the other
 * @param parts  what stands in the layer `within` of a band, each part with its rung
 */
export function stackParts(
  { layer, baseLayers, rungLayers }: Sizes,
  levels: number,
  base: (index: number) => Section,
  parts: (level: number, within: number) => Part[],
): Layer[] {
  return Array.from({ length: baseLayers + levels * rungLayers }, (_, index) => {
    const common = { index, z: topOf(layer, index), height: layer };
    if (index < baseLayers) return { ...common, parts: [{ rung: null, ...base(index) }] };
    const level = Math.floor((index - baseLayers) / rungLayers);
    return { ...common, parts: parts(level, (index - baseLayers) % rungLayers) };
  });
}

/** Free room around a form in its picture from above, mm. */
export const FRAME_MARGIN = 2;

const surroundOf = ({ skirtLoops, brim = 0 }: Placing) => ({ skirtLoops, brimWidth: brim });

/** Where a form lands on the bed, and the prime line beside it. */
export function placeOn(
  bench: Bench,
  spec: Placing,
  print: Box,
  bead: { width: number; height: number },
) {
  const { bed } = bench.machine;
  const centre = bedCentre(bed);
  const dx = tidy(centre.x + spec.shiftX - (print.minX + print.maxX) / 2);
  const dy = tidy(centre.y + spec.shiftY - (print.minY + print.maxY) / 2);
  const on: Box = {
    minX: print.minX + dx,
    minY: print.minY + dy,
    maxX: print.maxX + dx,
    maxY: print.maxY + dy,
  };
  const around = growBox(on, surroundReach(surroundOf(spec), bead.width));
  return { dx, dy, on, around, prime: primeLine(around, bed, primeOf(bench, bead)) };
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
  sizes: Sizes;
  /** Before it is placed; only made when it is asked for. */
  layers: () => Layer[];
  footprint: Box;
  /** From where it is looked at; from the front where its rungs stand over each other. */
  view?: 'top';
  /** Digits on its face, if it has any. */
  digits: Relief | null;
  /** What climbs. Rungs are its places in order, the first axis slowest; one along z stacks them in bands. */
  axes: readonly Axis[];
  /** What a rung has besides the values of its place: where it is, before it is placed, and how it climbs. */
  rung?: (
    at: readonly number[],
  ) => Partial<Pick<PlannedRung, 'set' | 'slope' | 'looked' | 'boxes'>>;
  held?: Values;
  nozzle?: number;
  /** Shortest time of a layer, s, when it is not the filament's. */
  shortestLayer?: number;
  /** Changes to how a rung is laid. */
  conditions?: (plain: Conditions, rung: number | null) => Conditions;
};

/** Bands of rungs that stand over each other. */
export const levelsOf = ({ axes }: Pick<Tower, 'axes'>): number =>
  axes.find(({ along }) => along === 'z')?.steps.length ?? 1;

/** The rungs where they stand in the stack; places on the bed are not placed yet. */
export function rungsIn({
  axes,
  rung,
  sizes: { layer, baseLayers, rungLayers },
}: Tower): PlannedRung[] {
  const up = axes.findIndex(({ along }) => along === 'z');
  return cellsOf(axes).map(({ at, set }, index) => {
    const first = baseLayers + (at[up] ?? 0) * rungLayers;
    const last = first + rungLayers - 1;
    const z = { from: topOf(layer, first - 1), to: topOf(layer, last) };
    const own = rung?.(at);
    return { ...own, index, at, set: { ...set, ...own?.set }, z, layers: { first, last } };
  });
}

const beadIn = ({ bead, layer }: Sizes) => ({ width: bead, height: layer });

/** A plan of a tower. Conditions that are tested are held from its first rung on. */
export function layTower(tower: Tower, bench: Bench, memory?: LayingMemory): Layout {
  const { spec, sizes, footprint } = tower;
  const rungs = rungsIn(tower);
  const { dx, dy, on, around, prime } = placeOn(bench, spec, footprint, beadIn(sizes));
  if (!prime) throw new Error('planned in spite of a stop: no room for a prime line');
  const layers = tower.layers().map((one) => ({
    ...one,
    parts: one.parts.map((part) => ({
      ...part,
      outline: moveRegion(part.outline, dx, dy),
      solid: moveRegion(part.solid, dx, dy),
    })),
  }));
  const conditionsAt = (rung: number | null): Conditions => {
    const tested = rung === null ? {} : { ...tower.held, ...rungs[rung]!.set };
    const plain = conditionsOf(bench, sizes.layer, spec.speed, tested);
    const timed = { ...plain, shortestLayer: tower.shortestLayer ?? plain.shortestLayer };
    return tower.conditions?.(timed, rung) ?? timed;
  };
  const known = new Map<number | null, Conditions>();
  const conditions = (rung: number | null): Conditions => {
    const made = known.get(rung) ?? conditionsAt(rung);
    known.set(rung, made);
    return made;
  };
  const zOffset = addedOffset(bench);
  const [first] = layers as [Layer];
  const loops = loopsAround(tower, outlineOf(first), on);
  const before = surroundSteps(prime, loops, conditions(null));
  const start = loops.at(-1)?.loop.at(-1) ?? prime.at(-1)!;
  const [layerStep, ...laid] = depositLayers(layers, conditions, start, memory);
  const line = boxOf([[...prime]]);
  const above = tower.view === 'top' ? growBox(movedBox(footprint, dx, dy), FRAME_MARGIN) : null;
  // Where something goes across, its places are found on a picture from the front too.
  const across = tower.axes.some(({ along }) => along !== 'z');
  const frame = above ?? (across ? movedBox(footprint, dx, dy) : null);
  return {
    view: tower.view ?? 'front',
    ...(frame ? { frame } : {}),
    axes: [...tower.axes],
    rungs: rungs.map(({ looked, boxes, z, ...rung }) => ({
      ...rung,
      // Where it stands in the file: a bench's offset moves every layer.
      z: { from: tidy(z.from + zOffset), to: tidy(z.to + zOffset) },
      ...(boxes ? { boxes: boxes.map((box) => movedBox(box, dx, dy)) } : {}),
      ...(looked ? { looked: movedBox(looked, dx, dy) } : {}),
    })),
    steps: [layerStep!, ...before, ...laid],
    box: {
      minX: Math.min(around.minX, line.minX),
      minY: Math.min(around.minY, line.minY),
      maxX: Math.max(around.maxX, line.maxX),
      maxY: Math.max(around.maxY, line.maxY),
    },
    height: heightOf(sizes, levelsOf(tower)),
    width: Number(short(above ? above.maxX - above.minX : footprint.maxX - footprint.minX)),
    layerHeight: sizes.layer,
    start: { nozzle: tower.nozzle ?? inForce(bench).nozzle },
    held: tower.held ?? {},
  };
}

/** Skirt and brim. A skirt runs around all of a form whose parts stand apart, not between them. */
function loopsAround({ spec, sizes, view }: Tower, outline: Region, on: Box) {
  const loops = surroundLoops(outline, surroundOf(spec), sizes.bead);
  if (view !== 'top') return loops;
  const whole = rect(on.minX, on.minY, on.maxX, on.maxY);
  return [
    ...surroundLoops(whole, surroundOf(spec), sizes.bead).filter(({ role }) => role === 'skirt'),
    ...loops.filter(({ role }) => role === 'brim'),
  ];
}

/** What every tower has to keep to: bed, height, layers, digits. */
export function towerChecks(tower: Tower, bench: Bench): Warning[] {
  const { machine, nozzle } = bench;
  const { spec, sizes, footprint, digits } = tower;
  const { around, prime } = placeOn(bench, spec, footprint, beadIn(sizes));
  return [
    ...layerFits(sizes.layer, nozzle.diameter),
    ...rounded(spec.rungHeight, sizes),
    ...(digits && tooLow(digits) ? [digitsLow(digits)] : []),
    ...tall(sizes, levelsOf(tower), machine.name, machine.height),
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
  if (layer >= thin - TYPED_SLACK && layer <= thick + TYPED_SLACK) return [];
  return [
    warn(
      'stop',
      'layer-height',
      'layerHeight',
      `Layers of ${short(layer)} mm don’t suit a ${bore} mm nozzle.`,
      `Choose ${short(thin)} to ${short(thick)} mm.`,
    ),
  ];
}

function rounded(asked: number, { rung, rungLayers, layer }: Sizes): Warning[] {
  if (Math.abs(rung - asked) <= TYPED_SLACK) return [];
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
    'Rungs this low leave no room for readable digits.',
    `Choose rungs of at least ${short(Math.ceil(bar * 4.2 + 2), 0)} mm.`,
  );

function tall(
  { baseLayers, rungLayers, layer, rung }: Sizes,
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
      `At this rung height ${most} rungs fit: choose a larger step, a shorter range or lower rungs.`,
    ),
  ];
}
