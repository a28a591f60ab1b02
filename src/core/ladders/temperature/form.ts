/**
 * The form of a temperature ladder, rung by rung the same:
 *
 *     ┌──────┬─────────────┬─────┐    deck: a bridge from body to body, solid, on sills that
 *     │      └┄┄┄┄┄┄┄┄┄┄┄┄┄┘      \   grow out of the bodies just below it
 *     │ 205    ▯        ▯          >  prow: leans out steeply, comes back gently
 *     │        ▯        ▯         /   posts: stand free on the deck below, string between them,
 *     └──────┬─────────────┬─────┘    and have a waist at which they can be snapped
 *
 * Bodies and posts are hollow, so a rung cools evenly and costs little. The rear faces are flat, for gloss.
 * Temperature changes at a rung's first layer and drifts for some seconds; overhang, waist and bridge come
 * after that.
 */

import type { Box } from '../../bench/bed';
import { beadWidthOf } from '../../deposit/conditions';
import type { Layer } from '../../deposit/layer';
import { clamp } from '../../numbers';
import { reliefAt, reliefFor, reliefWidth, type Relief } from '../../shape/relief';
import { rect, union, type Region } from '../../shape/region';
import { sizesOf, stack, type Section, type Sizes } from '../tower';
import type { Spec } from './spec';

export type Dimensions = Sizes & {
  /** Layers in a rung's deck. */
  deckLayers: number;
  /** Left body from x = 0 to `left`; right body from `right` to `end`; depth from y = 0. */
  left: number;
  right: number;
  end: number;
  depth: number;
  /** Posts: side, waist, height over the deck below, and their middles in x. */
  post: { side: number; waist: number; height: number; at: number[] };
  /** Prow: where it leaves the face and where it comes back (mm over the rung's foot), and how far out. */
  prow: { from: number; tip: number; reach: number };
  digits: Relief;
};

const DECK_HEIGHT = 0.8;
const BASE_MARGIN = 3;
const DEPTH = 12;
/** The deck leaves the front and rear faces free, so that gloss is judged on an unbroken wall. */
const DECK_INSET = 2;
/** The way back of the prow: gentle enough to print well at any temperature. */
const RETURN_DEG = 35;
/** Share of a rung at its foot that is kept plain, for the temperature to settle. */
const SETTLING_SHARE = 0.1;
/** Posts end under the deck with clear air, so that the bridge hangs free. */
const POST_SHARE = 0.7;
/** Layers of sill under a deck, each with one strand more than the one below. */
const SILL_LAYERS = 3;

const tan = (deg: number) => Math.tan((deg * Math.PI) / 180);

export function dimensionsOf(spec: Spec, bore: number): Dimensions {
  const sizes = sizesOf(spec, bore);
  const { layer, bead, rung } = sizes;
  const deckLayers = Math.max(2, Math.round(DECK_HEIGHT / layer));

  const digits = reliefFor(bead, layer, rung);
  const left = reliefWidth('000', digits) + 2 * 1.6;

  const side = Math.max(5, 9 * bead);
  const depth = Math.max(DEPTH, side + 7);
  const span = spec.span;
  const right = left + span;
  const air = (span - 2 * side) / 3;
  const from = SETTLING_SHARE * rung;
  const reach =
    ((rung - from) * tan(RETURN_DEG) * tan(spec.overhangDeg)) /
    (tan(RETURN_DEG) + tan(spec.overhangDeg));
  return {
    ...sizes,
    deckLayers,
    left,
    right,
    end: right + Math.max(10, 14 * bead),
    depth,
    post: {
      side,
      waist: Math.max(3, 5 * bead),
      height: POST_SHARE * (rung - deckLayers * layer),
      at: [left + air + side / 2, right - air - side / 2],
    },
    prow: { from, tip: from + reach / tan(spec.overhangDeg), reach },
    digits,
  };
}

/** Narrowest span, mm, in which two posts still stand apart far enough to string. */
export const narrowestSpan = (bore: number): number => {
  const bead = beadWidthOf(bore);
  return 2 * Math.max(5, 9 * bead) + 3 * Math.max(2.5, 4 * bead);
};

/** Footprint of the whole form, mm, before it is placed. */
export function footprint({ end, depth, prow, digits }: Dimensions): Box {
  return {
    minX: -BASE_MARGIN,
    minY: -Math.max(BASE_MARGIN, digits.relief),
    maxX: end + Math.max(BASE_MARGIN, prow.reach),
    maxY: depth + BASE_MARGIN,
  };
}

/** All layers from the bed up; `labels[i]` is what rung i shows in digits. */
export function layersOf(dims: Dimensions, walls: number, labels: readonly string[]): Layer[] {
  const sole = basePlate(dims);
  return stack(
    dims,
    labels.length,
    () => ({ outline: sole, walls: 2, solid: sole }),
    (rung, within) => ({ walls, ...section(dims, walls, within, labels[rung]!) }),
  );
}

const basePlate = ({ end, depth }: Dimensions): Region =>
  rect(-BASE_MARGIN, -BASE_MARGIN, end + BASE_MARGIN, depth + BASE_MARGIN);

/** One layer of a rung, `within` layers above its foot. */
function section(
  dims: Dimensions,
  walls: number,
  within: number,
  label: string,
): Omit<Section, 'walls'> {
  const { left, right, depth, layer, bead, pitch, rungLayers, deckLayers } = dims;
  const z = (within + 0.5) * layer;
  const raised = reliefAt(label, z, layer, left / 2, dims.digits);
  const face = rect(0, 0, left, depth);
  const far = rect(right, 0, dims.end + prowAt(dims, z), depth);
  const bodies = [...(raised.length > 0 ? union(face, ...raised) : face), ...far];
  const toDeck = rungLayers - deckLayers - within;
  if (toDeck <= 0) {
    // The ends of the deck lie on the wall and on every strand of the sills.
    const hold = bead + (walls - 1 + SILL_LAYERS) * pitch;
    const deck = rect(left - bead, DECK_INSET, right + bead, depth - DECK_INSET);
    return {
      outline: union(bodies, deck),
      solid: rect(left - hold, DECK_INSET, right + hold, depth - DECK_INSET),
    };
  }
  const strands = SILL_LAYERS + 2 - toDeck;
  const solid = toDeck <= SILL_LAYERS ? sills(dims, walls, strands) : [];
  return { outline: [...bodies, ...postsAt(dims, z).flat()], solid };
}

/** Ledges inside the bodies, `strands` beads wide, on which the ends of the deck will lie. */
function sills(
  { left, right, depth, bead, pitch }: Dimensions,
  walls: number,
  strands: number,
): Region {
  // Middles of the strands run one pitch apart, the first one pitch inside the innermost wall.
  const wide = bead / 2 + (walls + strands - 1) * pitch;
  return [...rect(left - wide, 0, left, depth), ...rect(right, 0, right + wide, depth)];
}

/** How far the prow stands out at height z over the rung's foot. */
function prowAt({ prow, layer, rungLayers }: Dimensions, z: number): number {
  const rung = rungLayers * layer;
  if (z <= prow.from || z >= rung) return 0;
  const out = ((z - prow.from) / (prow.tip - prow.from)) * prow.reach;
  const back = ((rung - z) / (rung - prow.tip)) * prow.reach;
  return Math.min(out, back);
}

function postsAt({ post, depth }: Dimensions, z: number): Region[] {
  if (z > post.height) return [];
  // From foot to waist and back up at 45°, the waist one millimetre tall or what is left for it.
  const deep = Math.min((post.side - post.waist) / 2, (post.height - 1) / 3);
  const middle = post.height / 2;
  const taken = clamp(deep + 0.5 - Math.abs(z - middle), 0, deep);
  const half = post.side / 2 - taken;
  return post.at.map((x) => rect(x - half, depth / 2 - half, x + half, depth / 2 + half));
}
