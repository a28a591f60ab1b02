'use client';
// What colours the print, as its scale: pressed, it offers the others.
import { useRef } from 'react';
import { short } from '@/core/numbers';
import { QUANTITIES, type Quantity } from '@/core/view/quantity';
import { css, scaleColour } from '@/core/view/scale';

type Ends = { low: number; high: number };
type Props = {
  chosen: Quantity;
  names: readonly Quantity[];
  scales: Partial<Record<Quantity, Ends | null>>;
  unitOf: (name: Quantity) => string;
  onChoose: (name: Quantity) => void;
};

const STOPS = Array.from({ length: 6 }, (_, i) => css(scaleColour(i / 5))).join(', ');

/** Its ends as they are read, the higher first; one where both are the same. */
function endsOf({ low, high }: Ends): string[] {
  const digits = high - low > 10 ? 0 : 2;
  return low === high ? [short(low, 2)] : [short(high, digits), short(low, digits)];
}

export function ColourScale({ chosen, names, scales, unitOf, onChoose }: Props) {
  const box = useRef<HTMLDetailsElement>(null);
  const scale = scales[chosen];
  const ends = scale ? endsOf(scale) : [];
  const said = ends.toReversed().join(' to ');
  return (
    <details
      ref={box}
      className="absolute top-2 right-2 z-10 text-right"
      onKeyDown={(event) => {
        if (event.key === 'Escape') box.current!.open = false;
      }}
    >
      <summary
        className="bg-base-100/85 text-base-content inline-flex cursor-pointer list-none items-stretch gap-2 rounded px-2 py-1.5"
        aria-label={`Coloured by ${QUANTITIES[chosen].title}, ${said} ${unitOf(chosen)}: press to change`}
      >
        <span className="flex flex-col justify-between text-sm leading-tight">
          <b>
            {ends[0]} {unitOf(chosen)}
          </b>
          <span className="text-neutral max-w-24">{QUANTITIES[chosen].title}</span>
          <b>{ends[1] ?? ''}</b>
        </span>
        <i
          aria-hidden
          className="h-32 w-4 rounded-sm"
          style={{
            background: ends.length > 1 ? `linear-gradient(0deg, ${STOPS})` : css(scaleColour(0.5)),
          }}
        />
      </summary>
      <ul
        className="bg-base-100 text-base-content mt-1 w-56 rounded p-1 shadow"
        aria-label="Coloured by"
      >
        {names.map((name) => (
          <li key={name}>
            <button
              type="button"
              aria-pressed={name === chosen}
              className={`flex min-h-10 w-full items-center justify-between gap-3 rounded px-2 text-left text-sm ${
                name === chosen
                  ? 'bg-accent text-accent-content font-semibold'
                  : 'hover:bg-base-200'
              }`}
              onClick={() => {
                onChoose(name);
                box.current!.open = false;
                box.current!.querySelector('summary')!.focus();
              }}
            >
              {QUANTITIES[name].title}
              <span className="whitespace-nowrap">
                {scales[name] ? endsOf(scales[name]).toReversed().join('–') : ''} {unitOf(name)}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
