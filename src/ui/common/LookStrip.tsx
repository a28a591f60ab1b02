// A rung cut out of a straightened picture of a print.
import type { CSSProperties } from 'react';
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
  /** Where the shared axis begins on the print, mm. */
  low: number;
};

/** How a rung's band is cut out as a background, how far down it stands, and its width for its height. */
export function cutOf({ z }: Pick<Rung, 'z'>, { source, flat, low }: ShownStrip) {
  const [from, to] = [low + z.from, low + z.to];
  const tall = to - from;
  const y =
    flat.height === tall ? 0 : ((flat.bottom + flat.height - to) / (flat.height - tall)) * 100;
  const style: CSSProperties = {
    backgroundImage: `url(${source})`,
    backgroundSize: `auto ${(100 * flat.height) / tall}%`,
    backgroundPosition: `50% ${y}%`,
    backgroundRepeat: 'no-repeat',
  };
  return { style, y, wide: flat.width / tall };
}

/** As wide as there is room, and as high as the rung then is. */
export function LookStrip({ rung, name, look }: { rung: Rung; name: string; look: ShownStrip }) {
  const { style, wide } = cutOf(rung, look);
  return (
    <div
      role="img"
      aria-label={`${name} on ${look.label}`}
      className="bg-base-200 w-full rounded"
      style={{ ...style, aspectRatio: `${wide}` }}
    />
  );
}
