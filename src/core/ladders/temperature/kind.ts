/** Temperature: hottest at the bottom, coolest at the top, inside the label range unless the user insists. */

import type { Bench } from '../../bench/bench';
import { MATERIALS } from '../../bench/materials';
import { beadArea } from '../../deposit/bead';
import { beadWidthOf, layerHeightOf, surelyMelted } from '../../deposit/conditions';
import { short, tidy } from '../../numbers';
import { climb } from '../climb';
import { movedTo, upward } from '../climbing';
import { OVERHANG_FIELD, PLACE_FIELDS } from '../fields';
import { warn, wholeSteps } from '../guards';
import { towerKind } from '../tower-kind';
import type { Warning } from '../types';
import { dimensionsOf, footprint, layersOf, narrowestSpan } from './form';
import { Spec } from './spec';

/** Layers of a rung: as many as show its parts, and take twice as long as the temperature drifts. */
const RUNG_LAYERS = 21;
/** Lower rungs, mm, have no room for readable digits. */
const LOWEST_RUNG = 4;
/** Layers of this form are short: faster walls would only be slowed again to let them cool. */
const FASTEST_DEFAULT = 17;

export const temperature = towerKind<Spec>({
  id: 'temperature',
  title: 'Temperature',
  finds: ['nozzle'],
  spec: Spec,

  sentence:
    'Climb from {from} °C at the bottom to {to} °C at the top in steps of {step} °C, each rung ' +
    '{rungHeight} mm tall, with walls at {speed} mm/s.',
  fields: {
    from: { label: 'Bottom', unit: '°C', min: 150, max: 450, step: 5 },
    to: { label: 'Top', unit: '°C', min: 150, max: 450, step: 5 },
    step: { label: 'Step', unit: '°C', min: 1, max: 100, step: 1 },
    rungHeight: { label: 'Rung height', unit: 'mm', min: 2, max: 30, step: 0.2 },
    walls: { label: 'Walls', unit: '', min: 1, max: 3, step: 1, folded: true },
    speed: { label: 'Wall speed', unit: 'mm/s', min: 10, max: 300, step: 5 },
    layerHeight: { label: 'Layer height', unit: 'mm', min: 0.05, max: 1, step: 0.05, folded: true },
    overhangDeg: OVERHANG_FIELD,
    span: { label: 'Bridge, free length', unit: 'mm', min: 8, max: 60, step: 1, folded: true },
    brim: { label: 'Brim', unit: 'mm', min: 0, max: 20, step: 1, folded: true },
    ...PLACE_FIELDS,
  },

  reason: ({ filament }) =>
    `The label on ${filament.name} says ${filament.nozzle.min} to ${filament.nozzle.max} °C. ` +
    'Hottest at the bottom, so that a cold start cannot jam.',

  defaults(bench) {
    const { machine, nozzle, filament } = bench;
    const layerHeight = layerHeightOf(nozzle.diameter);
    const bead = beadArea(beadWidthOf(nozzle.diameter), layerHeight);
    return {
      from: Math.min(filament.nozzle.max, machine.extruder.hottest),
      to: filament.nozzle.min,
      step: 5,
      rungHeight: tidy(layerHeight * Math.max(RUNG_LAYERS, Math.ceil(LOWEST_RUNG / layerHeight))),
      layerHeight,
      walls: 1,
      // What was found melts at its own temperature: the coldest rung may melt no more than is usual.
      speed: Math.min(
        machine.speeds.print,
        FASTEST_DEFAULT,
        surelyMelted(bead, { filament }),
        surelyMelted(bead, bench),
      ),
      overhangDeg: 55,
      span: Math.max(16, Math.ceil(narrowestSpan(nozzle.diameter))),
      brim: 0,
      skirtLoops: 1,
      shiftX: 0,
      shiftY: 0,
    };
  },

  standsOn: [],

  check(spec, bench) {
    return [...wholeSteps(spec, '°C'), ...heat(spec, bench), ...wideEnough(spec, bench)];
  },

  axes: (spec) => upward('nozzle', spec),

  tower(spec, bench) {
    const sizes = dimensionsOf(spec, bench.nozzle.diameter);
    const values = climb(spec);
    return {
      spec,
      sizes,
      layers: () => layersOf(sizes, spec.walls, values.map(String)),
      footprint: footprint(sizes),
      digits: sizes.digits,
      nozzle: values[0]!,
    };
  },

  bounds: ({ machine, filament }) => ({
    nozzle: { min: MATERIALS[filament.material].coldest, max: machine.extruder.hottest },
  }),

  moved: movedTo('nozzle'),

  criteria: [
    { name: 'stringing', weight: 0.8, where: 'between post and bodies' },
    { name: 'overhang', weight: 0.6, where: 'under the prow at the right', spot: 1 },
    { name: 'bridging', weight: 0.6, where: 'the deck seen from below' },
    { name: 'surface', weight: 0.6, where: 'front and rear faces', spot: 0 },
    { name: 'gloss', weight: 0.4, where: 'the flat rear faces', spot: 0 },
    { name: 'layer adhesion', weight: 0.7, where: 'the post, broken at its waist' },
  ],
  carry: (_, value, { filament }) => ({
    lines: [`M104 S${short(value)}`],
    say: `Machines store no temperature per filament: enter ${short(value)} °C as the nozzle temperature of ${filament.name} in your slicer, or put the line into your start block.`,
  }),
  rule: { kind: 'best', saferSide: 'lower' },
  otherCause:
    'Temperature makes no difference here. Stringing on every rung usually comes from wet filament or ' +
    'too little retraction; rough walls on every rung come from flow.',
});

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
        `${high} °C was asked for; the hot end of ${machine.name} is rated for ${machine.extruder.hottest} °C.`,
        `Stay at or below ${machine.extruder.hottest} °C.`,
      ),
    );
  if (low < coldest)
    warnings.push(
      warn(
        'stop',
        'too-cold',
        'to',
        `${low} °C was asked for; ${filament.material} is not extruded below ${coldest} °C; it would jam.`,
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
        'Keep to the label unless you know better.',
      ),
    );
  if (to > from)
    warnings.push(
      warn(
        'warning',
        'coolest-first',
        'from',
        'The coolest rung prints first; if it jams, nothing above it prints.',
        'Swap bottom and top.',
      ),
    );
  return warnings;
}

/** A post must fit into the span. */
export function wideEnough({ span }: Pick<Spec, 'span'>, { nozzle }: Bench): Warning[] {
  const room = narrowestSpan(nozzle.diameter);
  if (span >= room) return [];
  return [
    warn(
      'stop',
      'span-narrow',
      'span',
      `A post with room for threads on both sides needs ${short(room, 1)} mm of span with this nozzle; ${short(span)} mm were asked for.`,
      `Choose at least ${short(Math.ceil(room), 0)} mm.`,
    ),
  ];
}
