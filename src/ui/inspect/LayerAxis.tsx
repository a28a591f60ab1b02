'use client';
// The height axis beside the print: two handles between which its layers are shown, or one for a single layer.
import { useMemo, useRef, type KeyboardEvent } from 'react';
import { clamp, short } from '@/core/numbers';
import { layerAt, layerPlaces } from '@/core/view/layer-axis';
import type { Range } from './Look';

type Props = {
  /** Height of every layer, mm. */
  z: Float32Array;
  range: Range;
  /** Only one layer is shown. */
  single: boolean;
  onRange: (range: Range) => void;
};

/** Layers that Page up and Page down go over. */
const PAGE = 10;

export function LayerAxis({ z, range, single, onRange }: Props) {
  const axis = useRef<HTMLDivElement>(null);
  const places = useMemo(() => layerPlaces(z), [z]);
  const last = z.length - 1;
  if (last < 0) return null;
  const top = z[last]!;
  const climbs = places[0] === z[0]! / top;
  const put = (which: keyof Range, layer: number) => {
    const to = clamp(layer, 0, last);
    onRange(
      which === 'last'
        ? { first: Math.min(range.first, to), last: to }
        : { first: to, last: Math.max(range.last, to) },
    );
  };
  const under = (clientY: number): number => {
    const { top: from, height } = axis.current!.getBoundingClientRect();
    return layerAt(places, 1 - (clientY - from) / height);
  };
  const step = [0.5, 1, 2, 5, 10, 20, 50, 100].find((one) => top / one <= 9) ?? 200;
  const handles: (keyof Range)[] = single ? ['last'] : ['last', 'first'];
  return (
    <div className="w-26 shrink-0 py-6 select-none">
      <div
        ref={axis}
        className="relative h-full touch-none"
        onPointerDown={(event) => {
          if ((event.target as HTMLElement).closest('[role=slider]')) return;
          // The handle that is nearer comes.
          const layer = under(event.clientY);
          const nearer = Math.abs(layer - range.first) < Math.abs(layer - range.last);
          put(single || !nearer ? 'last' : 'first', layer);
        }}
      >
        {climbs &&
          Array.from({ length: Math.floor(top / step) + 1 }, (_, i) => i * step).map((mm) => (
            <span
              key={mm}
              aria-hidden
              className="soft pointer-events-none absolute right-[4.6rem] flex translate-y-1/2 items-center gap-1 text-[13px]"
              style={{ bottom: `${(100 * mm) / top}%` }}
            >
              {mm}
              <i className="bg-neutral inline-block h-px w-1.5" />
            </span>
          ))}
        <i aria-hidden className="bg-base-300 absolute inset-y-0 right-[4.5rem] w-0.5" />
        {!single && (
          <i
            aria-hidden
            className="bg-primary absolute right-[4.5rem] w-1"
            style={{
              bottom: `${100 * places[range.first]!}%`,
              top: `${100 * (1 - places[range.last]!)}%`,
            }}
          />
        )}
        {handles.map((which) => (
          <Handle
            key={which}
            label={single ? 'Layer' : which === 'last' ? 'To layer' : 'From layer'}
            at={range[which]}
            last={last}
            z={z[range[which]]!}
            place={places[range[which]]!}
            below={which === 'first'}
            under={under}
            put={(layer) => put(which, layer)}
          />
        ))}
      </div>
    </div>
  );
}

type HandleProps = {
  label: string;
  at: number;
  last: number;
  z: number;
  place: number;
  /** Stands under its line, so that two that meet do not cover each other. */
  below: boolean;
  under: (clientY: number) => number;
  put: (layer: number) => void;
};

function Handle({ label, at, last, z, place, below, under, put }: HandleProps) {
  const onKey = (event: KeyboardEvent) => {
    const to: Record<string, number> = {
      ArrowUp: at + 1,
      ArrowRight: at + 1,
      ArrowDown: at - 1,
      ArrowLeft: at - 1,
      PageUp: at + PAGE,
      PageDown: at - PAGE,
      Home: 0,
      End: last,
    };
    if (to[event.key] === undefined) return;
    event.preventDefault();
    put(to[event.key]!);
  };
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-orientation="vertical"
      aria-label={label}
      aria-valuemin={1}
      aria-valuemax={last + 1}
      aria-valuenow={at + 1}
      aria-valuetext={`layer ${at + 1} of ${last + 1}, ${short(z, 2)} mm`}
      className={`bg-base-100 border-primary absolute right-0 w-[4.75rem] cursor-ns-resize touch-none rounded-sm pl-3 text-[13px] leading-tight ${
        below ? 'translate-y-full border-t-2 pt-0.5' : 'border-b-2 pb-0.5'
      }`}
      style={{ bottom: `${100 * place}%` }}
      onKeyDown={onKey}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={(event) => {
        if (event.currentTarget.hasPointerCapture(event.pointerId)) put(under(event.clientY));
      }}
    >
      <i
        aria-hidden
        className={`bg-primary absolute -left-1 size-2.5 rounded-full ${below ? '-top-1.5' : '-bottom-1.5'}`}
      />
      <b className="block">{short(z, 2)} mm</b>
      <span className="text-neutral block">layer {at + 1}</span>
    </div>
  );
}
