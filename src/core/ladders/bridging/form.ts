/**
 * The form of a bridging ladder: in every rung three decks of growing span hang between thin piers, free
 * underneath; the rung above stands on the piers only, so that nothing hides an underside.
 */

import type { Box } from '../../bench/bed';
import type { Layer } from '../../deposit/layer';
import { rect, union, type Region } from '../../shape/region';
import { bodyAt, bodyFor, plate, PLATE_MARGIN, type Body } from '../body';
import { sizesOf, stack, type Sizes } from '../tower';

const DEPTH = 8;
const DECK_HEIGHT = 0.4;
/** Beads from side to side of a pier; its walls fill it. */
export const WALLS = 3;

export type Form = { sizes: Sizes; body: Body; piers: number[]; pier: number; deckLayers: number };

export function formOf(
  spec: { layerHeight: number; rungHeight: number; span: number },
  bore: number,
  labels: readonly string[],
): Form {
  const sizes = sizesOf(spec, bore);
  const pier = (2 * WALLS - 1) * sizes.pitch + sizes.bead;
  const body = bodyFor(sizes, labels, Math.max(DEPTH, 14 * sizes.bead));
  const piers: number[] = [];
  let at = body.width;
  for (const share of SPANS) {
    at += share * spec.span;
    piers.push(at);
    at += pier;
  }
  return {
    sizes,
    body,
    piers,
    pier,
    deckLayers: Math.max(2, Math.round(DECK_HEIGHT / sizes.layer)),
  };
}

/** Spans as shares of the longest. */
const SPANS = [1 / 3, 2 / 3, 1];

const endOf = ({ piers, pier }: Form): number => piers.at(-1)! + pier;

export const footprint = (form: Form): Box => ({
  minX: -PLATE_MARGIN,
  minY: -Math.max(PLATE_MARGIN, form.body.digits.relief),
  maxX: endOf(form) + PLATE_MARGIN,
  maxY: form.body.depth + PLATE_MARGIN,
});

export function layersOf(form: Form, labels: readonly string[]): Layer[] {
  const { sizes, body, piers, pier, deckLayers } = form;
  const { depth } = body;
  const sole = plate(0, 0, endOf(form), depth);
  const standing: Region = piers.flatMap((x) => rect(x, 0, x + pier, depth));
  // Each deck reaches to the middle of what holds it.
  const ends = [body.width - pier / 2, ...piers.map((x) => x + pier / 2)];
  const decks: Region = piers.flatMap((x, i) => rect(ends[i]!, 0, x + pier / 2, depth));
  const rail = rect(body.width - pier, 0, endOf(form), depth);
  return stack(
    sizes,
    labels.length,
    () => ({ outline: sole, solid: sole, walls: 2 }),
    (rung, within) => {
      const face = bodyAt(body, sizes, labels[rung]!, within);
      const hangs = within >= sizes.rungLayers - deckLayers;
      return hangs
        ? { outline: union(face, rail), solid: decks, walls: WALLS }
        : { outline: [...face, ...standing], solid: [], walls: WALLS };
    },
  );
}
