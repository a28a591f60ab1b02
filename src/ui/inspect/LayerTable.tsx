'use client';
// Layer by layer: height, time, plastic; a press goes there.
import { short } from '@/core/numbers';
import type { LayerColumns } from '@/core/view/opened';
import { duration } from '../common/format';
import { LongList } from '../common/LongList';

type Props = {
  layers: LayerColumns;
  /** Grams of one mm of filament. */
  gramsPerMm: number;
  chosen: number | null;
  onLayer: (index: number) => void;
};

const COLUMNS = 'grid grid-cols-[4rem_5rem_5rem_5rem_4.5rem_1fr] items-center px-2';

export function LayerTable({ layers, gramsPerMm, chosen, onLayer }: Props) {
  return (
    <div className="flex h-full min-h-0 flex-col">
      <p className={`${COLUMNS} soft border-base-300 border-b py-1`} aria-hidden>
        <span>layer</span>
        <span>height</span>
        <span>thick</span>
        <span>time</span>
        <span>plastic</span>
        <span>from line</span>
      </p>
      <LongList
        count={layers.z.length}
        rowPx={32}
        goTo={chosen}
        label="Layers of the file"
        className="flex-1"
        row={(i) => (
          <li key={i} style={{ height: 32 }}>
            <button
              type="button"
              aria-pressed={i === chosen}
              className={`${COLUMNS} h-full w-full text-left text-sm ${i === chosen ? 'bg-accent text-accent-content' : 'hover:bg-base-200'}`}
              onClick={() => onLayer(i)}
            >
              <b>{i + 1}</b>
              <span>{short(layers.z[i]!, 2)} mm</span>
              <span>{short(layers.thickness[i]!, 3)}</span>
              <span>{duration(layers.seconds[i]!)}</span>
              <span>{short(layers.filament[i]! * gramsPerMm, 2)} g</span>
              <span>{layers.line[i]}</span>
            </button>
          </li>
        )}
      />
    </div>
  );
}
