/** Temperature and retraction: stringing hangs on both, layers hold on the first alone. */

import type { Bench } from '../../bench/bench';
import { MATERIALS } from '../../bench/materials';
import { settingInfo } from '../../bench/settings';
import { short } from '../../numbers';
import type { Range } from '../climb';
import { carryBySlicing } from '../commands';
import { temperature } from '../temperature/kind';
import { retractionAlong } from './along';
import { postsPair } from './posts';

/** Rows that a label's range is divided into at most, in steps of so many °C. */
const MOST_ROWS = 5;
const STEPS = [5, 6, 7, 8, 9, 10, 11, 12, 13, 15, 20];
/** Further than the label goes, °C: a sensor may be that far off, and a best in the last row is none yet. */
const [COLDER, HOTTER] = [8, 5];

/** Rows of temperature, from `hotter` °C above the label down to where the material jams, or a little below the label. */
export function heats({ filament, machine }: Bench, hotter: number): Range {
  const from = Math.min(filament.nozzle.max + hotter, machine.extruder.hottest);
  // With enough drawn back, or enough air, the best is often colder than the label goes.
  const coldest = MATERIALS[filament.material].coldest;
  const span = Math.min(from - coldest, from - filament.nozzle.min + COLDER);
  const step = STEPS.find((one) => Math.ceil(span / one) < MOST_ROWS) ?? STEPS.at(-1)!;
  const down = Math.min(Math.ceil(span / step), Math.floor((from - coldest) / step));
  return { from, to: from - down * step, step };
}

export const heatRetraction = postsPair({
  id: 'heat-retraction',
  title: 'Temperature and retraction',
  up: {
    setting: 'nozzle',
    ends: [150, 450],
    range: (bench) => heats(bench, HOTTER),
    bounds: ({ machine, filament: { material } }) => ({
      min: MATERIALS[material].coldest,
      max: machine.extruder.hottest,
      why: `${machine.name} prints ${material} at ${MATERIALS[material].coldest} to ${machine.extruder.hottest} °C`,
    }),
  },
  across: retractionAlong,
  standsOn: [],
  least: ['retraction'],
  // Surface is not asked: posts at the ends are laid twice in a row, and cool less whatever is set.
  criteria: [
    { name: 'stringing', weight: 1, where: 'between the two posts of a cell' },
    { name: 'gloss', weight: 0.3, where: 'front faces of the posts' },
    { name: 'layer adhesion', weight: 0.7, where: 'posts, broken off from the top down' },
  ],
  reason:
    'Hottest at the bottom, so that a cold start cannot jam; the shortest distance at the left. What strings hot may be ' +
    'clean cooler with less drawn back.',
  otherCause: temperature.otherCause,
  carry(setting, value, bench) {
    if (setting === 'nozzle') return temperature.carry(setting, value, bench);
    const { unit } = settingInfo(setting);
    const way = carryBySlicing(setting, value, bench);
    return {
      ...way,
      say: `${way.say} It goes with the temperature: ${short(value)} ${unit} there.`,
    };
  },
});
