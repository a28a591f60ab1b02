/** How far is drawn back, and how fast: a quick short way may do what a slow long one does. */

import { carryBySlicing } from '../commands';
import { retractionAlong, retractSpeedAlong } from './along';
import { postsPair } from './posts';

export const retractionPair = postsPair({
  id: 'retraction-pair',
  title: 'Retraction distance and speed',
  up: retractionAlong,
  across: retractSpeedAlong,
  standsOn: ['nozzle', 'advance'],
  least: ['retraction', 'retractSpeed'],
  criteria: [
    { name: 'stringing', weight: 1, where: 'between the two posts of a cell' },
    { name: 'seam', weight: 0.4, where: 'the edge where each layer of a post starts' },
  ],
  reason:
    'Shortest at the bottom, slowest at the left. The gentlest that is clean wins: filament is ground by what is far and fast.',
  otherCause:
    'Stringing in every cell usually comes from wet filament or a nozzle that is too hot: dry the spool, then print a ' +
    'temperature ladder.',
  carry: carryBySlicing,
});
