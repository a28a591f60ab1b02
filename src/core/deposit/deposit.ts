/** The one depositor: turns regions by height into strokes, travels and fan changes. */

import type { Box, Point } from '../bench/bed';
import { boxOf, cut, distance, intersect, islands, offset, type Region } from '../shape/region';
import { Memo, regionKey } from './memo';
import { fillLines } from './bridges';
import { areaOf, fanAt, type Conditions } from './conditions';
import { slowForCooling } from './cooling';
import { boxesMeet, Ground } from './ground';
import { outlineOf, type Layer, type Part } from './layer';
import type { Role, Step } from './step';
import { piecesOf, startAt, supportOf, wallLoops } from './walls';

/** Seams stand at the rear left corner, away from the face that is read. */
const SEAM_TOWARD: Point = { x: -1, y: 1 };

/** How far plain fill reaches into the innermost wall, as a share of a bead. */
const FILL_OVERLAP = 0.15;

type Laid = {
  role: Role;
  path: Point[];
  /** Role by which it is cooled, where that is another. */
  fan?: Role;
};

/** What was clipped before, to be used again. */
export class LayingMemory {
  readonly strokes = new Memo<Laid[]>();
  readonly rims = new Memo<Region>();
  readonly plastic = new Memo<Region>();
}

/**
 * Lays a form layer by layer.
 *
 * Islands are taken in an order that is the same in every layer, so that each has cooled as long as the others when
 * its next layer comes; in an island walls go first, innermost first, then fill. Travel retracts when it leaves the
 * island's rim. Wherever the parts of a layer come to another rung,
 * its `rung` step stands before them.
 *
 * @param given  conditions of all layers, or those of a rung (null for the base)
 * @param start  where the nozzle stands before the first layer
 * @param memory of layers that were laid before; it changes the speed of the work, never its result
 */
export function depositLayers(
  layers: readonly Layer[],
  given: Conditions | ((rung: number | null) => Conditions),
  start: Point,
  memory = new LayingMemory(),
): Step[] {
  const conditionsAt = typeof given === 'function' ? given : () => given;
  const steps: Step[] = [];
  let below: Ground | null = null;
  let outlineBelow: Region | null = null;
  let at = start;
  let rung: number | null = null;
  let fan = 0;
  for (const layer of layers) {
    const whole = conditionsAt(layer.parts[0]!.rung);
    steps.push({ do: 'layer', index: layer.index, z: layer.z, height: layer.height });
    const laid: Step[] = [];
    const outline = outlineOf(layer);
    const rims = overPlastic(outline, outlineBelow, whole.width, memory);
    for (const part of layer.parts) {
      const conditions = conditionsAt(part.rung);
      let begins = part.rung !== null && part.rung !== rung;
      rung = part.rung ?? rung;
      const begin = () => {
        if (begins) laid.push({ do: 'rung', index: rung! });
        begins = false;
      };
      // Beside others in its layer a rung begins after the way to it: what that way draws back is still theirs.
      if (layer.parts.length === 1) begin();
      for (const { role, path, fan: cooled = role } of strokesOf(
        layer.index,
        part,
        below,
        conditions,
        memory,
      )) {
        const [first] = path as [Point, ...Point[]];
        if (distance(at, first) > TOUCHING) {
          laid.push({
            do: 'travel',
            to: first,
            retract: leaves(rims, at, first, GROOVE * whole.width),
          });
        }
        begin();
        const share = fanAt(layer.index, conditions, cooled);
        if (share !== fan) laid.push({ do: 'fan', share });
        if (share !== fan && conditions.fanFollows)
          laid.push({ do: 'wait', seconds: conditions.fanFollows });
        fan = share;
        laid.push({
          do: 'stroke',
          role,
          path,
          area: areaOf(role, conditions),
          speed:
            layer.index === 0
              ? Math.min(conditions.speeds.skirt, conditions.speeds[role])
              : conditions.speeds[role],
        });
        at = path.at(-1)!;
      }
    }
    const shortest = layer.index === 0 ? 0 : whole.shortestLayer;
    steps.push(...slowForCooling(laid, shortest, whole.spent));
    outlineBelow = outline;
    below = Ground.of(layer, whole, memory.plastic);
  }
  return steps;
}

/** A groove, or the slit between two parts, is at most this wide, beads. */
const GROOVE = 4;

/** Ends closer than this, mm, are one place: no travel between them. */
const TOUCHING = 1e-3;

/** Strokes of one part of a layer in the order in which they are laid. */
function strokesOf(
  index: number,
  part: Part,
  below: Ground | null,
  conditions: Conditions,
  memory: LayingMemory,
): Laid[] {
  const laid: Laid[] = [];
  for (const island of inOrder(islands(part.outline))) {
    const ground = below?.under(island) ?? null;
    const plain = index % 2 === 0 ? Math.PI / 4 : (3 * Math.PI) / 4;
    const solid = touching(part.solid, island);
    // Rungs repeat each other but for their digits, so most islands have been laid before.
    const key = [
      conditions.width,
      conditions.height,
      conditions.bore,
      plain,
      part.walls,
      ground?.key,
      regionKey(island),
      regionKey(solid),
    ].join('|');
    const strokes = memory.strokes.get(key, () =>
      layIsland(island, solid, part.walls, plain, ground?.plastic ?? null, conditions),
    );
    laid.push(...strokes);
  }
  return laid;
}

const touching = (regions: Region, island: Region): Region => {
  const box = boxOf(island);
  return regions.filter((ring) => boxesMeet(box, boxOf([ring])));
};

/** Walls, innermost first, then what is filled inside them. */
function layIsland(
  island: Region,
  solid: Region,
  walls: number,
  plain: number,
  below: Region | null,
  { width, pitch, bore }: Conditions,
): Laid[] {
  const support = below && supportOf(below, width);
  const laid: Laid[] = wallLoops(island, walls, width, pitch).flatMap((loop) =>
    piecesOf(startAt(loop, SEAM_TOWARD), support, width),
  );
  const inside = offset(island, -(width / 2 + (walls - FILL_OVERLAP) * pitch));
  for (const { role, line, fan } of fillLines(
    intersect(inside, solid),
    support,
    width,
    pitch,
    bore,
    plain,
  )) {
    laid.push({ role, path: line, ...(fan ? { fan } : {}) });
  }
  return laid;
}

/** From the rear left on, each time the nearest that is left: the same islands come in the same order. */
function inOrder(regions: readonly Region[]): Region[] {
  const left = regions.map((region) => ({ region, box: boxOf(region) }));
  const ordered: Region[] = [];
  let rate = ({ minX, maxY }: Box): number => minX * -SEAM_TOWARD.x - maxY * SEAM_TOWARD.y;
  while (left.length > 0) {
    const best = left.reduce((one, two) => (rate(two.box) < rate(one.box) - TIE ? two : one));
    left.splice(left.indexOf(best), 1);
    ordered.push(best.region);
    rate = (box) => apart(box, best.box);
  }
  return ordered;
}

/** Islands that differ by less in what they are rated by, mm, count as equal: digits and rounding move no island. */
const TIE = 0.5;

/** Free way between two boxes, mm. */
const apart = (a: Box, b: Box): number =>
  Math.hypot(
    Math.max(a.minX - b.maxX, 0, b.minX - a.maxX),
    Math.max(a.minY - b.maxY, 0, b.minY - a.maxY),
  );

/**
 * Where travel may go without drawing back: inside this layer's rims and over the layer below. The first layer
 * of a bridge is air until it is laid. A bead is added, since walls may lean out by as much.
 */
function overPlastic(
  outline: Region,
  below: Region | null,
  width: number,
  memory: LayingMemory,
): Region[] {
  const grown = (region: Region, by: number) =>
    memory.rims.get(`${regionKey(region)}|${by}`, () => offset(region, by));
  const own = grown(outline, TOUCHING);
  return below === null ? [own] : [own, grown(below, width)];
}

/**
 * Whether a straight travel leaves any of the rims that it has to stay within, that is, crosses open air. Over a
 * groove nothing has time to ooze, and drawing back at each would grind the filament.
 *
 * @param least widest groove that is crossed without, mm
 */
const leaves = (rims: readonly Region[], a: Point, b: Point, least: number): boolean =>
  rims.some((rim) =>
    cut(rim, a, b).some(({ inside, from, to }) => !inside && (to - from) * distance(a, b) > least),
  );
