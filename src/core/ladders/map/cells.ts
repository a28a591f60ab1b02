/**
 * The cells of a map of pressure advance: so many speeds, each at so many accelerations. A cell is a strip of hairpins,
 * and a bed takes so many of them: what has no room goes on another print.
 */

import type { Bench } from '../../bench/bench';
import type { Values } from '../../bench/settings';
import { beadArea } from '../../deposit/bead';
import { beadWidthOf } from '../../deposit/conditions';
import { short, tidy } from '../../numbers';
import type { Axis } from '../../plan/plan';
import type { Range } from '../climb';

export type MapSpec = Range & {
  slow: number;
  slowest: number;
  fastest: number;
  speeds: number;
  gentlest: number;
  hardest: number;
  accelerations: number;
  /** Shortest way at full speed, and way at the slow one before it, mm. */
  hold: number;
  slowLength: number;
  part: number;
  layerHeight: number;
  skirtLoops: number;
  shiftX: number;
  shiftY: number;
};

export type MapCell = { speed: number; acceleration: number; /** mm³/s */ flow: number };

/** Values from one end to the other, evenly, in whole steps of `round`. */
function evenly(from: number, to: number, count: number, round: number): number[] {
  const all = Array.from({ length: count }, (_, i) => {
    const value = count === 1 ? to : from + ((to - from) * i) / (count - 1);
    return tidy(Math.round(value / round) * round);
  });
  return [...new Set(all)];
}

export const speedsOf = ({ slowest, fastest, speeds }: MapSpec): number[] =>
  evenly(slowest, fastest, speeds, 1);
export const accelerationsOf = ({ gentlest, hardest, accelerations }: MapSpec): number[] =>
  evenly(gentlest, hardest, accelerations, 10);

/** Section of the beads of a map, mm². */
export const sectionOf = (
  { layerHeight }: Pick<MapSpec, 'layerHeight'>,
  { nozzle }: Bench,
): number => beadArea(Math.max(beadWidthOf(nozzle.diameter), layerHeight), layerHeight);

/** Way that speeding up from slow takes, mm. */
export const rampOf = ({ speed, acceleration }: Omit<MapCell, 'flow'>, slow: number): number =>
  Math.max(0, speed ** 2 - slow ** 2) / (2 * acceleration);

/** All cells of a map: rows of a speed, the slowest first, each from gentle to hard. */
export const rowsOf = (spec: MapSpec, bench: Bench): MapCell[][] =>
  speedsOf(spec).map((speed) =>
    accelerationsOf(spec).map((acceleration) => ({
      speed,
      acceleration,
      flow: tidy(Math.round(10 * speed * sectionOf(spec, bench)) / 10),
    })),
  );

/** What a cell sets besides its pressure advance. */
export const setOf = ({ speed, acceleration }: MapCell): Values => ({
  wallSpeed: speed,
  acceleration,
});

/** Cells side by side: each a named pair of speed and acceleration, as the signs at its foot say it. */
export const cellAxis = (cells: readonly MapCell[]): Axis => ({
  setting: null,
  title: 'cell',
  unit: '',
  marks: 'mm/s² and tenths of mm³/s',
  along: 'x',
  steps: cells.map((cell) => ({
    label: `${short(cell.flow)} mm³/s, ${short(cell.acceleration)} mm/s²`,
    mark: signsOf(cell).join(' '),
    set: setOf(cell),
  })),
});

/** Whole numbers, as plastic shows them: acceleration, mm/s², and melt flow, tenths of mm³/s. */
export const signsOf = ({ acceleration, flow }: MapCell): [string, string] => [
  short(acceleration),
  String(Math.round(10 * flow)),
];
