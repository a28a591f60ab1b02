/** What was found on a picture as it is kept, sent and told: without the pixels. */

import { z } from 'zod';
import type { Looked } from './loupe';
import { MEASURE_NAMES } from './measures';

const finite = z.number();
const Place = z.object({ x: finite, y: finite });
export const CornersKept = z.tuple([Place, Place, Place, Place]);
export const SIDES = ['front', 'back', 'top'] as const;

const MeasureTold = z.object({
  name: z.enum(MEASURE_NAMES),
  rung: z.number().int().min(0),
  axis: z.enum(['x', 'y']).optional(),
  /** Null where it could not be told. */
  value: finite.nullable(),
  /** Half the range that holds the truth in 8 of 10. */
  spread: finite.nullable(),
  unit: z.string().max(20),
  told: z.boolean(),
  why: z.string().max(400).optional(),
  also: z.record(z.string(), finite).optional(),
});
/** A number of one rung. */
export type MeasureTold = z.infer<typeof MeasureTold>;

const MeasureKept = MeasureTold.extend({
  /** Where it was taken, as corners in the picture, pixels. */
  at: CornersKept,
});
export type MeasureKept = z.infer<typeof MeasureKept>;

/** What `ash loupe --json` tells, as far as a finding needs it. */
export const LoupeTold = z.object({ measures: z.array(MeasureTold).max(4000) });

/** A place of a measure that was pulled elsewhere on the picture, pixels. */
export const MovedPlace = z.object({
  name: z.enum(MEASURE_NAMES),
  rung: z.number().int().min(0),
  axis: z.enum(['x', 'y']).optional(),
  by: Place,
});
export type MovedPlace = z.infer<typeof MovedPlace>;

export const KeptLook = z.object({
  side: z.enum(SIDES),
  corners: CornersKept.nullable(),
  /** Whether the corners were found, not given. */
  found: z.boolean(),
  pxPerMm: finite.nullable(),
  /** Bulge of the lens, see lens.ts. */
  bulge: finite.nullable(),
  problems: z.array(
    z.object({
      where: z.string(),
      what: z.string(),
      mend: z.string(),
      label: z.string().optional(),
    }),
  ),
  measures: z.array(MeasureKept).max(4000),
  /** Places that somebody moved. */
  moved: z.array(MovedPlace).max(400).default([]),
  /** The straightened picture: what it shows, mm of the print. */
  flat: z.object({ left: finite, bottom: finite, width: finite, height: finite }).nullable(),
});
export type KeptLook = z.infer<typeof KeptLook>;

/** Six digits are more than any picture tells. */
const rounded = (value: number): number => Number(value.toPrecision(6));

export function keptLook({
  side,
  corners,
  found,
  pxPerMm,
  lens,
  problems,
  measures,
  flat,
  moved,
}: Looked): KeptLook {
  const place = ({ x, y }: { x: number; y: number }) => ({ x: rounded(x), y: rounded(y) });
  const all = (some: Looked['corners']) => some && (some.map(place) as z.infer<typeof CornersKept>);
  return {
    side,
    corners: all(corners),
    found,
    pxPerMm: pxPerMm && rounded(pxPerMm),
    bulge: lens && rounded(lens.k),
    problems,
    measures: measures.map(({ name, rung, axis, value, spread, unit, told, why, also, seen }) => ({
      name,
      rung,
      ...(axis ? { axis } : {}),
      value: told ? rounded(value) : null,
      spread: told ? rounded(spread) : null,
      unit,
      told,
      ...(why ? { why } : {}),
      ...(also
        ? {
            also: Object.fromEntries(
              Object.entries(also)
                .filter(([, one]) => Number.isFinite(one))
                .map(([key, one]) => [key, rounded(one)]),
            ),
          }
        : {}),
      at: all(seen)!,
    })),
    moved: [...moved],
    flat: flat && {
      left: flat.left,
      bottom: flat.bottom,
      width: flat.width / flat.pxPerMm,
      height: flat.height / flat.pxPerMm,
    },
  };
}
