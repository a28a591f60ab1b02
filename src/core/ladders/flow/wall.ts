/** Flow by a wall: a hollow square one bead thick, measured with a caliper on all four sides. */

import type { Box } from '../../bench/bed';
import { inForce } from '../../bench/in-force';
import { beadArea } from '../../deposit/bead';
import { beadWidthOf, layerHeightOf, surelyMelted } from '../../deposit/conditions';
import { mean, short } from '../../numbers';
import { fail, ok, problem } from '../../result';
import { rect } from '../../shape/region';
import { carryBySlicing, standsAt } from '../commands';
import { PLACED, schemaOf, TOWER_FIELDS } from '../fields';
import { spreadOf, within80 } from '../measured';
import { sizesOf, stack } from '../tower';
import { towerKind } from '../tower-kind';

/** More scatter than this share between sides is no measurement of flow (domain.md §1). */
const MOST_SCATTER = 0.05;
/** A caliper reads a thin wall this well, mm (one standard deviation). */
const CALIPER = 0.01;

const { rungHeight, ...plain } = TOWER_FIELDS;
const fields = {
  present: { label: 'Flow in force', unit: '×', min: 0.5, max: 1.5, step: 0.01 },
  side: { label: 'Side', unit: 'mm', min: 15, max: 80, step: 5 },
  rungHeight: { ...rungHeight, label: 'Height' },
  ...plain,
};
type Spec = { [K in keyof typeof fields]: number };

/** Width of wall that is asked for, mm. */
export const askedWall = ({ layerHeight }: { layerHeight: number }, bore: number): number =>
  Math.max(beadWidthOf(bore), layerHeight);

export const flowWall = towerKind<Spec>({
  id: 'flow',
  title: 'Flow by a wall',
  finds: ['flow'],
  spec: schemaOf(fields),
  fields,
  sentence:
    'A square of {side} mm, {rungHeight} mm tall, with a single wall at {speed} mm/s, printed with a ' +
    'flow of {present}.',
  reason: (bench) =>
    `The wall should be ${short(askedWall({ layerHeight: layerHeightOf(bench.nozzle.diameter) }, bench.nozzle.diameter))} mm thick; a caliper tells how much too much or too little comes out. ${standsAt('flow', bench)}`,
  standsOn: ['steps', 'rotation', 'nozzle'],
  defaults(bench) {
    const { machine, nozzle } = bench;
    const layerHeight = layerHeightOf(nozzle.diameter);
    const melted = surelyMelted(beadArea(beadWidthOf(nozzle.diameter), layerHeight), bench);
    return {
      present: inForce(bench).flow,
      side: 40,
      rungHeight: Math.max(10, 20 * layerHeight),
      // Slow: where speed hardly changes in a corner, a wall is one width all along.
      speed: Math.min(machine.speeds.print, 15, melted),
      walls: 1,
      layerHeight,
      brim: 4,
      ...PLACED,
    };
  },
  axes: () => [],
  check: () => [],
  tower(spec, bench) {
    const sizes = sizesOf(spec, bench.nozzle.diameter);
    const section = { outline: rect(0, 0, spec.side, spec.side), solid: [], walls: 1 };
    const alike = () => section;
    const footprint: Box = { minX: 0, minY: 0, maxX: spec.side, maxY: spec.side };
    return {
      spec,
      sizes,
      layers: () => stack(sizes, 1, alike, alike),
      footprint,
      digits: null,
      rung: () => ({ set: { flow: spec.present } }),
    };
  },
  bounds: () => ({ flow: { min: 0.5, max: 1.5 } }),
  moved: (spec) => spec,
  criteria: [],
  rule: { kind: 'measured' },
  measures: [
    {
      key: 'wall',
      label: 'Wall',
      unit: 'mm',
      min: 0.05,
      max: 3,
      fewest: 4,
      most: 12,
      how: 'Measure the wall with a caliper in the middle of each side, away from the seam and above the first millimetres: at least four times.',
    },
  ],
  work({ wall = [] }, { spec, bench }) {
    const asked = askedWall(spec as Spec, bench.nozzle.diameter);
    const present = Number(spec.present);
    const thick = mean(wall);
    const apart = Math.max(...wall) - Math.min(...wall);
    const scatter = Math.max(0, apart - 2 * CALIPER) / thick;
    if (scatter > MOST_SCATTER)
      return fail(
        problem(
          'wall',
          `The sides differ by ${short(100 * scatter, 0)} %, a caliper’s own error left out: ${short(Math.min(...wall))} to ${short(Math.max(...wall))} mm. Their mean would say nothing.`,
          'Measure again away from corners and seam; if it stays so, look for a wobbling axis or a partly blocked nozzle.',
        ),
      );
    if (thick > 2 * asked || thick < asked / 2)
      return fail(
        problem(
          'wall',
          `Walls of ${short(thick)} mm were entered; one line of ${short(asked)} mm was asked for.`,
          'Measure a single wall, in mm.',
        ),
      );
    const value = (present * asked) / thick;
    const half = within80(spreadOf(wall, CALIPER), wall.length) * (value / thick);
    return ok({
      values: [{ setting: 'flow', value, range: [value - half, value + half] }],
      reason: `${short(asked)} mm were asked for and ${short(thick, 3)} mm measured (${wall.length} times, ${short(apart, 2)} mm apart): ${short(present)} × ${short(asked)} ÷ ${short(thick, 3)}.`,
    });
  },
  carry: carryBySlicing,
  otherCause: 'Measure again: four sides, away from the corners.',
});
