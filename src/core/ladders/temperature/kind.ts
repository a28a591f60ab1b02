/** Temperature: hottest at the foot, coolest at the top, one rung a step. */

import { bedCentre, growBox, type Box } from '../../bench/bed';
import type { Bench } from '../../bench/bench';
import { MATERIALS } from '../../bench/materials';
import { beadArea } from '../../deposit/bead';
import { beadWidthOf, conditionsOf, layerHeightOf, surelyMelted } from '../../deposit/conditions';
import { depositLayers } from '../../deposit/deposit';
import type { Plan, Rung } from '../../deposit/plan';
import type { Layer } from '../../deposit/layer';
import { primeLine, surroundLoops, surroundReach, surroundSteps } from '../../deposit/surround';
import { short, tidy } from '../../numbers';
import { boxOf, type Region } from '../../shape/region';
import { climb } from '../climb';
import { onBed, warn, wholeSteps } from '../guards';
import type { LadderKind, Warning } from '../types';
import { dimensionsOf, footprint, layersOf, narrowestSpan, type Dimensions } from './form';
import { Spec } from './spec';

/** Layers of this form are short: faster walls would only be slowed again to let them cool. */
const FASTEST_DEFAULT = 22;

/** Where the form lands on the bed, and the prime line beside it. */
function placed(spec: Spec, { machine, nozzle }: Bench) {
  const dims = dimensionsOf(spec, nozzle.diameter);
  const print = footprint(dims);
  const centre = bedCentre(machine.bed);
  const dx = tidy(centre.x + spec.shiftX - (print.minX + print.maxX) / 2);
  const dy = tidy(centre.y + spec.shiftY - (print.minY + print.maxY) / 2);
  const on: Box = {
    minX: print.minX + dx,
    minY: print.minY + dy,
    maxX: print.maxX + dx,
    maxY: print.maxY + dy,
  };
  const around = growBox(on, surroundReach(surroundOf(spec), dims.bead));
  return { dims, dx, dy, print, around, prime: primeLine(around, machine.bed, dims.bead) };
}

const surroundOf = ({ skirtLoops, brim }: Spec) => ({ skirtLoops, brimWidth: brim });

const move = (region: Region, dx: number, dy: number): Region =>
  region.map((ring) => ring.map(({ x, y }) => ({ x: x + dx, y: y + dy })));

export const temperature: LadderKind<Spec> = {
  id: 'temperature',
  title: 'Temperature',
  setting: 'nozzle',
  spec: Spec,

  sentence:
    'Climb from {from} °C at the foot to {to} °C at the top in steps of {step} °C, each rung ' +
    '{rungHeight} mm tall, with walls {walls} bead thick at {speed} mm/s.',
  fields: {
    from: { label: 'Foot', unit: '°C', min: 150, max: 450, step: 5 },
    to: { label: 'Top', unit: '°C', min: 150, max: 450, step: 5 },
    step: { label: 'Step', unit: '°C', min: 1, max: 100, step: 1 },
    rungHeight: { label: 'Rung height', unit: 'mm', min: 6, max: 30, step: 1 },
    walls: { label: 'Beads in a wall', unit: '', min: 1, max: 3, step: 1 },
    speed: { label: 'Wall speed', unit: 'mm/s', min: 10, max: 300, step: 5 },
    layerHeight: { label: 'Layer height', unit: 'mm', min: 0.05, max: 1, step: 0.05, folded: true },
    overhangDeg: {
      label: 'Overhang, from vertical',
      unit: '°',
      min: 30,
      max: 70,
      step: 5,
      folded: true,
    },
    span: { label: 'Bridge, free length', unit: 'mm', min: 16, max: 60, step: 1, folded: true },
    brim: { label: 'Brim', unit: 'mm', min: 0, max: 20, step: 1, folded: true },
    skirtLoops: { label: 'Skirt loops', unit: '', min: 0, max: 5, step: 1, folded: true },
    shiftX: {
      label: 'Right of the middle',
      unit: 'mm',
      min: -1000,
      max: 1000,
      step: 5,
      folded: true,
    },
    shiftY: {
      label: 'Behind the middle',
      unit: 'mm',
      min: -1000,
      max: 1000,
      step: 5,
      folded: true,
    },
  },

  reason: ({ filament }) =>
    `The label on ${filament.name} says ${filament.nozzle.min} to ${filament.nozzle.max} °C. ` +
    'Hottest at the foot, so that a cold start cannot jam.',

  defaults({ machine, nozzle, filament }) {
    const layerHeight = layerHeightOf(nozzle.diameter);
    const bead = beadArea(beadWidthOf(nozzle.diameter), layerHeight);
    return {
      from: Math.min(filament.nozzle.max, machine.extruder.hottest),
      to: filament.nozzle.min,
      step: 5,
      rungHeight: Math.max(8, tidy(Math.ceil(18 * layerHeight))),
      layerHeight,
      walls: 1,
      speed: Math.min(machine.speeds.print, FASTEST_DEFAULT, surelyMelted(bead)),
      overhangDeg: 55,
      span: Math.max(26, Math.ceil(narrowestSpan(nozzle.diameter))),
      brim: 0,
      skirtLoops: 2,
      shiftX: 0,
      shiftY: 0,
    };
  },

  check(spec, bench) {
    const { dims, around, prime } = placed(spec, bench);
    const count = climb(spec).length;
    const height = (dims.baseLayers + count * dims.rungLayers) * dims.layer;
    return [
      ...wholeSteps(spec, '°C'),
      ...heat(spec, bench),
      ...layers(spec, dims, bench),
      ...tall(height, dims, bench),
      ...onBed(around, bench.machine.bed),
      ...(prime
        ? []
        : [
            warn(
              'stop',
              'no-prime',
              'place',
              'No side of the print has room for a prime line.',
              'Move it toward the middle, or take a shorter span.',
            ),
          ]),
    ];
  },

  plan(spec, bench, memory): Plan {
    const { dims, dx, dy, around, prime, print } = placed(spec, bench);
    if (!prime) throw new Error('planned in spite of a stop: no room for a prime line');
    const conditions = conditionsOf(bench, dims.layer, spec.speed);
    const values = climb(spec);
    const layers = layersOf(dims, spec.walls, values.map(String)).map((layer): Layer => ({
      ...layer,
      outline: move(layer.outline, dx, dy),
      solid: move(layer.solid, dx, dy),
    }));
    const first = layers[0]!;
    const loops = surroundLoops(first.outline, surroundOf(spec), dims.bead);
    const before = surroundSteps(prime, loops, conditions);
    const [layerStep, ...laid] = depositLayers(
      layers,
      conditions,
      loops.at(-1)?.loop.at(-1) ?? prime[1],
      memory,
    );
    const rungs = values.map((nozzle, index): Rung => {
      const bottom = dims.baseLayers + index * dims.rungLayers;
      const last = bottom + dims.rungLayers - 1;
      return {
        index,
        set: { nozzle },
        z: { from: layers[bottom - 1]!.z, to: layers[last]!.z },
        layers: { first: bottom, last },
      };
    });
    return {
      rungs,
      steps: [layerStep!, ...before, ...laid],
      box: growToPrime(around, prime),
      height: layers.at(-1)!.z,
      width: Number(short(print.maxX - print.minX)),
      layerHeight: dims.layer,
      start: { nozzle: values[0]! },
    };
  },

  bounds: ({ machine, filament }) => ({
    min: MATERIALS[filament.material].coldest,
    max: machine.extruder.hottest,
  }),

  moved: (spec, { from, to, step }) => ({ ...spec, from, to, step }),

  criteria: [
    { name: 'hairs', weight: 0.8, where: 'between the posts' },
    { name: 'overhang', weight: 0.6, where: 'under the prow at the right' },
    { name: 'bridge', weight: 0.6, where: 'the deck seen from below' },
    { name: 'surface', weight: 0.6, where: 'front and rear faces' },
    { name: 'gloss', weight: 0.4, where: 'the flat rear faces' },
    { name: 'snap', weight: 0.7, where: 'a post, broken at its waist' },
  ],
  carry: (value, { filament }) => ({
    lines: [`M104 S${short(value)}`],
    say: `Machines keep no temperature per filament: enter ${short(value)} °C as the nozzle temperature of ${filament.name} where you slice, or put the line into your start block.`,
  }),
  rule: { kind: 'best', saferSide: 'lower' },
  otherCause:
    'Temperature is not what makes the difference here. Hairs on every rung usually come from wet filament or ' +
    'too little retraction; rough walls on every rung from flow.',
};

function heat({ from, to }: Spec, { machine, filament }: Bench): Warning[] {
  const [low, high] = [Math.min(from, to), Math.max(from, to)];
  const { coldest } = MATERIALS[filament.material];
  const { min, max } = filament.nozzle;
  const warnings: Warning[] = [];
  if (high > machine.extruder.hottest)
    warnings.push(
      warn(
        'stop',
        'above-hot-end',
        'from',
        `${high} °C was asked for; the hot end of ${machine.name} bears ${machine.extruder.hottest} °C.`,
        `Stay at or below ${machine.extruder.hottest} °C.`,
      ),
    );
  if (low < coldest)
    warnings.push(
      warn(
        'stop',
        'too-cold',
        'to',
        `${low} °C was asked for; ${filament.material} is not fed below ${coldest} °C, it would jam.`,
        `Stay at or above ${coldest} °C.`,
      ),
    );
  else if (low < min || high > max)
    warnings.push(
      warn(
        'warning',
        'outside-label',
        low < min ? 'to' : 'from',
        `${low} to ${high} °C leaves the label range of ${filament.name}, ${min} to ${max} °C.`,
        'Keep to the label unless you know why not.',
      ),
    );
  if (to > from)
    warnings.push(
      warn(
        'warning',
        'coolest-first',
        'from',
        'The coolest rung prints first; if it jams, nothing above it prints.',
        'Swap foot and top.',
      ),
    );
  return warnings;
}

function layers(spec: Spec, dims: Dimensions, { nozzle }: Bench): Warning[] {
  const warnings: Warning[] = [];
  const rung = dims.rungLayers * dims.layer;
  if (Math.abs(rung - spec.rungHeight) > 1e-6)
    warnings.push(
      warn(
        'note',
        'rung-rounded',
        'rungHeight',
        `A rung is a whole number of layers: ${dims.rungLayers} of ${short(dims.layer)} mm, ${short(rung)} mm.`,
        'Nothing needs doing.',
      ),
    );
  const [thin, thick] = [0.2 * nozzle.diameter, 0.8 * nozzle.diameter];
  if (dims.layer < thin || dims.layer > thick)
    warnings.push(
      warn(
        'stop',
        'layer-height',
        'layerHeight',
        `Layers of ${short(dims.layer)} mm do not suit a ${nozzle.diameter} mm nozzle.`,
        `Choose ${short(thin)} to ${short(thick)} mm.`,
      ),
    );
  const room = narrowestSpan(nozzle.diameter);
  if (spec.span < room)
    warnings.push(
      warn(
        'stop',
        'span-narrow',
        'span',
        `Two posts need ${short(room, 1)} mm of span with this nozzle; ${short(spec.span)} mm were asked for.`,
        `Take at least ${short(Math.ceil(room), 0)} mm.`,
      ),
    );
  if (dims.digits.unitZ < dims.digits.bar * 0.8)
    warnings.push(
      warn(
        'warning',
        'digits-low',
        'rungHeight',
        'Rungs this low leave too little height for digits that can be read in plastic.',
        `Take rungs of at least ${short(Math.ceil(dims.digits.bar * 4.2 + 2), 0)} mm.`,
      ),
    );
  return warnings;
}

function tall(height: number, dims: Dimensions, { machine }: Bench): Warning[] {
  if (height <= machine.height) return [];
  const rung = dims.rungLayers * dims.layer;
  const most = Math.max(0, Math.floor((machine.height - dims.baseLayers * dims.layer) / rung));
  return [
    warn(
      'stop',
      'too-tall',
      'rungHeight',
      `The ladder would be ${short(height, 1)} mm tall; ${machine.name} prints up to ${short(machine.height, 0)} mm.`,
      `At this rung height ${most} rungs fit: take a larger step, a shorter range or lower rungs.`,
    ),
  ];
}

const growToPrime = (
  box: Box,
  prime: [{ x: number; y: number }, { x: number; y: number }],
): Box => {
  const line = boxOf([prime]);
  return {
    minX: Math.min(box.minX, line.minX),
    minY: Math.min(box.minY, line.minY),
    maxX: Math.max(box.maxX, line.maxX),
    maxY: Math.max(box.maxY, line.maxY),
  };
};
