/** Bridges by two settings at once: speed with fan, and flow with speed. */

import { carryBySlicing } from '../commands';
import type { CriterionOf } from '../types';
import { bridgeFanAlong, bridgeFlowAlong, bridgeSpeedAlong } from './along';
import { decksPair } from './decks';

const criteria = (gaps: number): CriterionOf[] => [
  { name: 'bridging', weight: 1, where: 'the span of a deck, turned over' },
  { name: 'gaps', weight: gaps, where: 'between the strands of a deck' },
];
const otherCause =
  'Strands that sag alike in every cell usually are too hot or too long: print a temperature ladder, or take a shorter span.';

export const bridgeSpeedFan = decksPair({
  id: 'bridge-speed-fan',
  title: 'Bridge speed and fan',
  up: bridgeSpeedAlong,
  across: bridgeFanAlong,
  standsOn: ['nozzle', 'flow', 'bridgeFlow'],
  least: ['bridgeFan'],
  criteria: criteria(0.4),
  reason:
    'Slowest in front, least air at the left. What hangs when it is slow may hold with more air, and the least air that ' +
    'holds keeps layers together.',
  otherCause,
  carry: carryBySlicing,
});

export const bridgeFlowSpeed = decksPair({
  id: 'bridge-flow-speed',
  title: 'Bridge flow and speed',
  up: bridgeFlowAlong,
  across: bridgeSpeedAlong,
  standsOn: ['nozzle', 'flow'],
  least: [],
  criteria: criteria(1),
  reason:
    'Least plastic in front, slowest at the left. Thin strands pull straight and tear, fast ones are pulled thinner still.',
  otherCause,
  carry: carryBySlicing,
});
