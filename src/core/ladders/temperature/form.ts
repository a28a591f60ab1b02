/**
 * The form of a temperature ladder, rung by rung the same:
 *
 *     ┌──────┬─────────────┬─────┐    deck: a bridge from body to body, solid, on sills that
 *     │      └┄┄┄┄┄┄┄┄┄┄┄┄┄┘      \   grow out of the bodies just below it
 *     │ 205        ▯▯              >  prow: leans out steeply, comes back gently
 *     │            ▯▯             /   post: stands free on the deck below; threads hang from body to post to body,
 *     └──────┬─────────────┬─────┘    and its waist is where it can be snapped
 *
 * Bodies and posts are hollow, and a rung is as low as shows all that. The rear faces are flat, for gloss.
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
  /** Post: side, waist, height over the deck below, and its middle in x. */
  post: { side: number; waist: number; height: number; at: number };
  /** Prow: where it leaves the face and where it comes back (mm over the rung's foot), and how far out. */
  prow: { from: number; tip: number; reach: number };
  digits: Relief;
};

const DECK_HEIGHT = 0.6;
const BASE_HEIGHT = 0.4;
const BASE_MARGIN = 2;
const DEPTH = 8;
const BODY = 8;
/** The deck leaves the front and rear faces free, so that gloss is judged on an unbroken wall. */
export const DECK_INSET = 2;
/** The way back of the prow: gentle enough to print well at any temperature. */
const RETURN_DEG = 45;
/** Share of a rung at its foot that is kept plain, for the temperature to settle. */
const SETTLING_SHARE = 0.2;
/** A post, mm or beads: thick enough not to fall, thin enough to be snapped at its waist. */
const POST = { side: 4, sideBeads: 8, waist: 2.4, waistBeads: 5 };
/** Free way on both sides of a post, mm or beads: long enough for a thread to be seen. */
const AIR = { least: 4, beads: 7 };
/** A post ends under the deck with clear air, so that the bridge hangs free. */
const POST_SHARE = 0.7;
/** Layers of sill under a deck, each with one strand more than the one below. */
const SILL_LAYERS = 2;

const tan = (deg: number) => Math.tan((deg * Math.PI) / 180);

/**
 * Of another part of the same form: least sizes, mm; one without digits and post may be smaller, and so may one with
 * labels that are no three digits.
 */
export type Larger = { depth: number; left: number; body: number; bare?: true; label?: string };
/** Least width of a body without digits, beads. */
const BARE = 6;

export function dimensionsOf(
  spec: Pick<Spec, 'layerHeight' | 'rungHeight' | 'span' | 'overhangDeg'>,
  bore: number,
  larger: Larger = { depth: DEPTH, left: 0, body: BODY },
): Dimensions {
  const sizes = sizesOf(spec, bore, BASE_HEIGHT);
  const { layer, bead, rung } = sizes;
  const deckLayers = Math.max(2, Math.round(DECK_HEIGHT / layer));

  const digits = reliefFor(bead, layer, rung);
  const left = Math.max(
    larger.left,
    larger.bare ? BARE * bead : reliefWidth(larger.label ?? '000', digits) + 2 * 1.6,
  );

  const side = postSide(bead);
  const depth = Math.max(larger.depth, side + 4);
  const right = left + spec.span;
  const from = SETTLING_SHARE * rung;
  const reach =
    ((rung - from) * tan(RETURN_DEG) * tan(spec.overhangDeg)) /
    (tan(RETURN_DEG) + tan(spec.overhangDeg));
  return {
    ...sizes,
    deckLayers,
    left,
    right,
    end: right + Math.max(larger.body, (larger.bare ? BARE : 14) * bead),
    depth,
    post: {
      side,
      waist: Math.max(POST.waist, POST.waistBeads * bead),
      height: larger.bare ? 0 : POST_SHARE * (rung - deckLayers * layer),
      at: (left + right) / 2,
    },
    prow: { from, tip: from + reach / tan(spec.overhangDeg), reach },
    digits,
  };
}

const postSide = (bead: number): number => Math.max(POST.side, POST.sideBeads * bead);

/** Narrowest span, mm, in which a post still stands far enough from both bodies to string. */
export const narrowestSpan = (bore: number): number => {
  const bead = beadWidthOf(bore);
  return postSide(bead) + 2 * Math.max(AIR.least, AIR.beads * bead);
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

/** A foot around each body, and a strip between them for the first post. */
export function basePlate({ left, right, end, depth, post }: Dimensions): Region {
  const margin = BASE_MARGIN;
  const strip = post.side / 2 + margin / 2;
  return union(
    rect(-margin, -margin, left + margin, depth + margin),
    rect(right - margin, -margin, end + margin, depth + margin),
    rect(left, depth / 2 - strip, right, depth / 2 + strip),
  );
}

/** One layer of a rung, `within` layers above its foot. */
export function section(
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
    const beside = bead / 2 + walls * pitch;
    const deck = rect(left - bead, DECK_INSET, right + bead, depth - DECK_INSET);
    return {
      outline: union(bodies, deck),
      // As deep as the inside of the deck: beside its walls there is nothing to hold.
      solid: rect(left - hold, DECK_INSET + beside, right + hold, depth - DECK_INSET - beside),
    };
  }
  const strands = SILL_LAYERS + 2 - toDeck;
  const solid = toDeck <= SILL_LAYERS ? sills(dims, walls, strands) : [];
  return { outline: [...bodies, ...postAt(dims, z)], solid };
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

function postAt({ post, depth }: Dimensions, z: number): Region {
  if (z > post.height) return [];
  // From foot to waist and back up at 45°, the waist one millimetre tall or what is left for it.
  const deep = Math.min((post.side - post.waist) / 2, (post.height - 1) / 3);
  const taken = clamp(deep + 0.5 - Math.abs(z - post.height / 2), 0, deep);
  const half = post.side / 2 - taken;
  return rect(post.at - half, depth / 2 - half, post.at + half, depth / 2 + half);
}
