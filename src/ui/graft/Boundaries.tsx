'use client';
// Where sections begin, as lines across the print: dragged, or moved with keys, from layer to layer.
import { useRef } from 'react';
import { short } from '@/core/numbers';

type Props = {
  heights: readonly number[];
  /** Height of the print, mm, and of each of its layers. */
  height: number;
  tops: Float64Array;
  onMove: (index: number, height: number) => void;
  onRemove: (index: number) => void;
};

/** Layers that a line moves by with Page Up and Page Down. */
const PAGE = 10;

export function Boundaries({ heights, height, tops, onMove, onRemove }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const drag = useRef<{ index: number; y: number; from: number } | null>(null);

  /** The foot of the layer that is nearest, between its neighbours. */
  const snapped = (index: number, wanted: number): number => {
    const low = index === 0 ? 0 : heights[index - 1]! + 1e-6;
    const high = index === heights.length - 1 ? height - 1e-6 : heights[index + 1]! - 1e-6;
    let best = 0;
    for (const top of tops) if (Math.abs(top - wanted) < Math.abs(best - wanted)) best = top;
    return best < low || best > high ? heights[index]! : best;
  };
  const step = (index: number, layers: number) => {
    let at = tops.findIndex((top) => top >= heights[index]! - 1e-6);
    if (at === -1) at = tops.length - 1;
    const next = at + layers;
    onMove(index, snapped(index, next < 0 ? 0 : (tops[Math.min(tops.length - 1, next)] ?? 0)));
  };
  return (
    <div ref={box} className="pointer-events-none absolute inset-0">
      {heights.map((at, index) => (
        <div
          key={index}
          role="slider"
          tabIndex={0}
          aria-label={`Section ${index + 1} begins at`}
          aria-orientation="vertical"
          aria-valuemin={0}
          aria-valuemax={Number(height.toFixed(2))}
          aria-valuenow={Number(at.toFixed(3))}
          aria-valuetext={`${short(at, 2)} mm`}
          className="group pointer-events-auto absolute inset-x-0 h-6 translate-y-1/2 cursor-ns-resize touch-none outline-offset-0"
          style={{ bottom: `calc(${at} * var(--up))` }}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            drag.current = { index, y: event.clientY, from: at };
          }}
          onPointerMove={(event) => {
            const now = drag.current;
            if (now?.index !== index || !box.current) return;
            const perMm = box.current.clientHeight / height;
            onMove(index, snapped(index, now.from + (now.y - event.clientY) / perMm));
          }}
          onPointerUp={() => (drag.current = null)}
          onPointerCancel={() => (drag.current = null)}
          onKeyDown={(event) => {
            const moves: Record<string, number> = {
              ArrowUp: 1,
              ArrowRight: 1,
              ArrowDown: -1,
              ArrowLeft: -1,
              PageUp: PAGE,
              PageDown: -PAGE,
            };
            if (event.key === 'Delete' || event.key === 'Backspace') onRemove(index);
            else if (moves[event.key] !== undefined) step(index, moves[event.key]!);
            else return;
            event.preventDefault();
          }}
        >
          <i className="border-primary absolute inset-x-0 top-1/2 border-t-2" />
          <i className="border-primary bg-base-100 group-hover:bg-primary group-focus:bg-primary absolute top-1/2 left-7 size-3 -translate-y-1/2 rounded-full border-2" />
        </div>
      ))}
    </div>
  );
}
