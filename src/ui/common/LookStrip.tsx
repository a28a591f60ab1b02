// A rung cut out of a straightened picture of a print.
import type { CSSProperties } from 'react';
import type { Box } from '@/core/bench/bed';
import type { KeptLook } from '@/core/loupe/kept';
import type { Rung } from '@/core/plan/plan';

type Flat = NonNullable<KeptLook['flat']>;

/** A picture that was straightened: where it is, and what it shows, mm of the print. */
export type ShownStrip = {
  id: number;
  label: string;
  source: string;
  flat: Flat;
  /** Whether the picture was drawn, of a simulated print. */
  drawn: boolean;
  /** What the drawing of the print shows, mm of the print as this picture sees it. */
  frame: Box;
  /** Seen from the back: what is left on the drawing is right on it. */
  mirrored: boolean;
};

/** Ends across the drawing, mm from its left edge. */
type Across = { from: number; to: number };

/** How a rung's band, or a cell of it, is cut out as a background, how far down it stands, and its width for its height. */
export function cutOf(
  { z }: Pick<Rung, 'z'>,
  { source, flat, frame, mirrored }: ShownStrip,
  across?: Across,
) {
  const [from, to] = [frame.minY + z.from, frame.minY + z.to];
  const tall = to - from;
  const y =
    flat.height === tall ? 0 : ((flat.bottom + flat.height - to) / (flat.height - tall)) * 100;
  const wide = across ? across.to - across.from : flat.width;
  const left = !across ? flat.left : mirrored ? frame.maxX - across.to : frame.minX + across.from;
  const x = flat.width === wide ? 50 : ((left - flat.left) / (flat.width - wide)) * 100;
  const style: CSSProperties = {
    backgroundImage: `url(${source})`,
    backgroundSize: `${across ? `${(100 * flat.width) / wide}%` : 'auto'} ${(100 * flat.height) / tall}%`,
    backgroundPosition: `${x}% ${y}%`,
    backgroundRepeat: 'no-repeat',
  };
  return { style, y, wide: wide / tall };
}

type LookStripProps = {
  rung: Rung;
  name: string;
  look: ShownStrip;
  across?: Across | undefined;
};

/** As wide as there is room, and as high as the rung then is. */
export function LookStrip({ rung, name, look, across }: LookStripProps) {
  const { style, wide } = cutOf(rung, look, across);
  return (
    <div
      role="img"
      aria-label={`${name} on ${look.label}`}
      className="bg-base-200 w-full rounded"
      style={{ ...style, aspectRatio: `${wide}` }}
    />
  );
}
