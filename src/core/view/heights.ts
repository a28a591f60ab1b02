/** Every command that changes how plastic is laid, at the height at which it takes effect. */

import { CHANGES, type Change } from '../dialect/changes';
import { MOVE, type Trace } from '../gcode/trace';

export type Track = {
  name: Change;
  title: string;
  unit: string;
  /** How many commands there are, also those past {@link MOST_SHOWN}. */
  count: number;
  /** Height, mm, of the first stroke after the command; Infinity after the last. */
  z: Float32Array<ArrayBuffer>;
  value: Float32Array<ArrayBuffer>;
  line: Uint32Array<ArrayBuffer>;
};

/** Commands of one kind that are kept for showing. */
export const MOST_SHOWN = 20_000;

const TRACKS: Partial<Record<Change, [title: string, unit: string]>> = {
  nozzle: ['Nozzle', '°C'],
  bed: ['Bed', '°C'],
  fan: ['Fan', 'share'],
  print: ['Acceleration', 'mm/s²'],
  travel: ['Travel acceleration', 'mm/s²'],
  x: ['Jerk x', 'mm/s'],
  y: ['Jerk y', 'mm/s'],
  deviation: ['Junction deviation', 'mm'],
  square: ['Square-corner speed', 'mm/s'],
  advance: ['Pressure advance', ''],
  flow: ['Flow', 'share'],
  pace: ['Speed factor', 'share'],
};

/** Tracks that have at least one command, in a fixed order. */
export function heightTracks({ moves, changes }: Trace): Track[] {
  // Height of the next stroke, from the last move backward.
  const heights = new Float32Array(changes.count);
  let next = Infinity;
  let move = moves.count - 1;
  for (let i = changes.count - 1; i >= 0; i--) {
    for (; move >= changes.move[i]!; move--)
      if (moves.kind[move] === MOVE.extrude) next = moves.z[move]!;
    heights[i] = next;
  }
  return (Object.entries(TRACKS) as [Change, [string, string]][]).flatMap(
    ([name, [title, unit]]) => {
      const code = CHANGES.indexOf(name);
      const rows: number[] = [];
      let count = 0;
      for (let i = 0; i < changes.count; i++) {
        if (changes.code[i] !== code) continue;
        if (count++ < MOST_SHOWN) rows.push(i);
      }
      if (count === 0) return [];
      return [
        {
          name,
          title,
          unit,
          count,
          z: Float32Array.from(rows, (i) => heights[i]!),
          value: Float32Array.from(rows, (i) => changes.value[i]!),
          line: Uint32Array.from(rows, (i) => changes.line[i]!),
        },
      ];
    },
  );
}
