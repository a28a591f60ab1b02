'use client';
// The print's drawing, or in its place a straightened picture of the print: both to the same scale, so that what lies
// over one lies over the other.
import { useState, type ReactNode } from 'react';
import type { ShownStrip } from './LookStrip';
import { Picture } from './Picture';
import { PrintPicture } from './PrintPicture';

/** A straightened picture in the room that the drawing has. */
export function LookPicture({ look }: { look: ShownStrip }) {
  const { flat, frame, mirrored, source, label } = look;
  const [wide, tall] = [frame.maxX - frame.minX, frame.maxY - frame.minY];
  const left = mirrored ? frame.maxX - (flat.left + flat.width) : flat.left - frame.minX;
  const share = (part: number, whole: number) => `${(100 * part) / whole}%`;
  return (
    <div className="relative h-full w-full overflow-hidden">
      <Picture
        src={source}
        alt={`The print on ${label}, straightened`}
        words="Being straightened …"
        className="absolute max-w-none"
        style={{
          left: share(left, wide),
          width: share(flat.width, wide),
          bottom: share(flat.bottom - frame.minY, tall),
          height: share(flat.height, tall),
          ...(mirrored ? { transform: 'scaleX(-1)' } : {}),
        }}
      />
    </div>
  );
}

/** The drawing or one of the pictures, and the buttons to choose; these are left out where there is none. */
export function useOnPhoto(
  drawing: string,
  looks: readonly ShownStrip[],
): { picture: ReactNode; choice: ReactNode } {
  const [id, choose] = useState<number | null>(null);
  const look = looks.find((one) => one.id === id);
  const buttons = [{ id: null, label: 'drawing' }, ...looks];
  return {
    picture: look ? <LookPicture look={look} /> : <PrintPicture src={drawing} />,
    choice: looks.length > 0 && (
      <div role="group" aria-label="Shown under the cells" className="mt-2 flex flex-wrap gap-1">
        {buttons.map((one) => (
          <button
            key={one.id ?? 'drawing'}
            type="button"
            aria-pressed={one.id === (look?.id ?? null)}
            className={`btn btn-sm font-normal ${one.id === (look?.id ?? null) ? 'btn-chosen' : 'btn-ghost'}`}
            onClick={() => choose(one.id)}
          >
            {one.label}
          </button>
        ))}
      </div>
    ),
  };
}
