/** One sentence for each setting, for somebody who meets it for the first time: the same words wherever it is explained. */

import type { Criterion } from '../criteria';
import type { Setting } from './settings';

const SHAPER =
  'Small pushes that the machine adds to each move, so that what rings in it is calm again by the next wall.';

const TERMS: Readonly<Record<Setting, string>> = {
  zOffset:
    'How far the nozzle stands from the bed on the first layer: too far and lines do not stick, too near and they pile up in ridges.',
  steps:
    'How many steps the extruder’s motor takes for a millimetre of filament: what comes out of the nozzle stands on it.',
  rotation:
    'How much filament one turn of the extruder draws in: what comes out of the nozzle stands on it.',
  nozzle:
    'How hot the nozzle melts this filament: too hot and it strings and sags, too cold and layers come apart.',
  flow: 'How much plastic comes out for what is asked: too much makes ridges, too little leaves gaps.',
  retraction:
    'How far filament is drawn back before the nozzle travels: too little leaves threads, too much grinds the filament.',
  retractSpeed:
    'How fast filament is drawn back: too slow and threads follow the nozzle, too fast and the gear grinds.',
  restartExtra: 'How much more is fed after a travel than was drawn back, where lines start thin.',
  restartSpeed: 'How fast filament is fed again after a travel, where starts of lines are uneven.',
  lift: 'How far the nozzle rises before it travels, so that it does not strike what is printed.',
  advance:
    'How far the extruder feeds ahead when the speed changes, so that corners stay sharp and lines even.',
  acceleration:
    'How quickly the head may change its speed: too quickly and ripples follow every corner.',
  jerk: 'By how much each axis may jump in speed at a corner: too much rings, too little makes corners bulge.',
  deviation:
    'How far a corner may be cut, from which the machine works out its speed there: too much rings.',
  square:
    'How fast a right angle is driven round: too fast rings, too slow and plastic piles up in the corner.',
  bridgeFlow:
    'How much plastic is laid through open air: less pulls straighter, too little leaves gaps.',
  bridgeSpeed: 'How fast strands are drawn through open air: slow ones hang, fast ones tear.',
  bridgeFan:
    'How hard the fan blows on strands in open air: more sets them sooner, and may part layers.',
  overhang: 'How far a wall may lean before it has to be supported.',
  offsetX: 'How far the second nozzle stands from the first, from left to right.',
  offsetY: 'How far the second nozzle stands from the first, from front to back.',
  fan: 'How hard the fan blows while walls are printed: air holds what leans, and keeps layers from growing together.',
  meltFlow:
    'How much plastic the nozzle can melt in a second: beyond it, lines get thin, dull and rough.',
  shaper: SHAPER,
  shaperType: SHAPER,
  shaperDamping: SHAPER,
  shaperX: SHAPER,
  shaperTypeX: SHAPER,
  shaperDampingX: SHAPER,
  shaperY: SHAPER,
  shaperTypeY: SHAPER,
  shaperDampingY: SHAPER,
  wallSpeed: 'How fast walls are printed: what is laid slowly sets before it droops.',
  pace: 'How fast the whole print is driven, as a share of what its file says.',
};

export const termOf = (setting: Setting): string => TERMS[setting];

/** What is looked at to find a setting, and drawn beside its sentence; some are measured, and have no such drawing. */
const LOOKS: Readonly<Partial<Record<Setting, Criterion>>> = {
  zOffset: 'ridges',
  nozzle: 'stringing',
  flow: 'gaps',
  retraction: 'stringing',
  retractSpeed: 'stringing',
  restartExtra: 'seam',
  restartSpeed: 'seam',
  advance: 'corners',
  acceleration: 'ringing',
  jerk: 'ringing',
  deviation: 'ringing',
  square: 'corners',
  bridgeFlow: 'bridging',
  bridgeSpeed: 'bridging',
  bridgeFan: 'bridging',
  overhang: 'overhang',
  offsetX: 'line-up',
  offsetY: 'line-up',
  fan: 'overhang',
  meltFlow: 'gloss',
  shaper: 'ringing',
  shaperX: 'ringing',
  shaperY: 'ringing',
  wallSpeed: 'surface',
};

export const drawnBy = (setting: Setting): Criterion | null => LOOKS[setting] ?? null;
