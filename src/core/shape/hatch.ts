/** Parallel lines that fill a region. */

import type { Point } from '../bench/bed';
import { boxOf, cut, type Region } from './region';

export type Segment = [Point, Point];

/** Lines shorter than this, mm, are left out: they would be blobs. */
const SHORTEST = 0.3;

/** A line of a row, in turned coordinates: its ends in x. */
type Run = { y: number; from: number; to: number };

/**
 * Fills a region with parallel lines, spread evenly so that the first and last touch the rim.
 *
 * A region with arms or holes falls into strips without any; each is laid to its end before the next: going from arm
 * to arm with every line would draw one piece of filament back again and again, until the gear has ground it flat.
 *
 * @param region  where centre lines may run
 * @param spacing distance between lines, mm; changed a little so that a whole number fits
 * @param angle   direction of the lines, rad
 * @returns lines strip by strip, within each in order across it, alternating in direction
 */
export function hatch(region: Region, spacing: number, angle: number): Segment[] {
  if (region.length === 0) return [];
  const cos = Math.cos(angle);
  const sin = Math.sin(angle);
  const turn = ({ x, y }: Point): Point => ({ x: x * cos + y * sin, y: y * cos - x * sin });
  const back = (x: number, y: number): Point => ({ x: x * cos - y * sin, y: x * sin + y * cos });
  const turned = region.map((ring) => ring.map(turn));
  const { minX, maxX, minY, maxY } = boxOf(turned);
  const gaps = Math.round((maxY - minY) / spacing);
  // A line on the rim itself would be lost to rounding; a hair inside it is the same to a machine.
  const inset = Math.min(0.01, (maxY - minY) / 4);
  const rows: Run[][] = [];
  for (let row = 0; row <= gaps; row++) {
    const share = gaps === 0 ? 0.5 : row / gaps;
    const y = minY + inset + (maxY - minY - 2 * inset) * share;
    const at = (s: number) => minX - 1 + (maxX - minX + 2) * s;
    rows.push(
      cut(turned, { x: minX - 1, y }, { x: maxX + 1, y })
        .filter(({ inside }) => inside)
        .map(({ from, to }): Run => ({ y, from: at(from), to: at(to) }))
        .filter(({ from, to }) => to - from >= SHORTEST),
    );
  }
  return inTurn(stripsOf(rows)).map(({ y, from, to }): Segment => [back(from, y), back(to, y)]);
}

/** Rows as strips: a strip goes on as long as one line lies beside one, and ends where it parts or meets another. */
function stripsOf(rows: readonly Run[][]): Run[][] {
  const strips: Run[][] = [];
  let open = new Map<Run, Run[]>();
  rows.forEach((row, i) => {
    const before = rows[i - 1] ?? [];
    const beside = (run: Run, others: readonly Run[]) =>
      others.filter(({ from, to }) => from < run.to && to > run.from);
    const next = new Map<Run, Run[]>();
    for (const run of row) {
      const [only, ...more] = beside(run, before);
      const goesOn = only && more.length === 0 && beside(only, row).length === 1;
      const strip = (goesOn ? open.get(only) : null) ?? [];
      if (strip.length === 0) strips.push(strip);
      strip.push(run);
      next.set(run, strip);
    }
    open = next;
  });
  return strips;
}

/** Strips one after the other, each time the one whose corner is nearest; the first from its first line's left. */
function inTurn(strips: readonly Run[][]): Run[] {
  const left = [...strips];
  const laid: Run[] = [];
  while (left.length > 0) {
    const last = laid.at(-1);
    let [best, upward, rightward, least] = [0, true, true, Infinity];
    if (last)
      left.forEach((strip, i) => {
        for (const up of [true, false])
          for (const fromLeft of [true, false]) {
            const run = strip.at(up ? 0 : -1)!;
            const way = Math.hypot((fromLeft ? run.from : run.to) - last.to, run.y - last.y);
            if (way < least) [best, upward, rightward, least] = [i, up, fromLeft, way];
          }
      });
    const [strip] = left.splice(best, 1) as [Run[]];
    const ordered = upward ? strip : [...strip].reverse();
    ordered.forEach((run, i) =>
      laid.push((i % 2 === 0) === rightward ? run : { ...run, from: run.to, to: run.from }),
    );
  }
  return laid;
}
