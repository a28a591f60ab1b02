'use client';
// Any layer of the file that would be made: its strokes from above, and its own lines.
import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { short } from '@/core/numbers';
import type { DesignView } from '@/core/view/designer';
import type { LayerView } from '@/core/view/layer-view';
import { FlatLayer } from '../inspect/FlatLayer';

type Props = {
  view: DesignView;
  startAt: number;
  layer: (index: number) => Promise<LayerView | null>;
  onClose: () => void;
  /** Whether its lines would say which part of a proof has which values. */
  blind: boolean;
};

/** Lines shown of one layer. */
const MOST_LINES = 400;

export function Preview({ view, startAt, layer, onClose, blind }: Props) {
  const [lifted, setLifted] = useState(!blind);
  const [index, setIndex] = useState(Math.min(startAt, view.layers - 1));
  const [shown, setShown] = useState<LayerView | null>(null);
  const rung = view.rungs.find(({ layers }) => index >= layers.first && index <= layers.last);

  // The worker holds the file; it is asked again when the layer or the file changes.
  useEffect(() => {
    let current = true;
    void layer(index).then((got) => current && setShown(got));
    return () => {
      current = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `layer` always asks the newest file
  }, [index, view]);

  return (
    <section
      className="border-base-300 col-span-full border-t pt-4"
      aria-label="Preview of the file"
    >
      <div className="mb-3 flex flex-wrap items-center gap-4">
        <label className="flex flex-1 items-center gap-3">
          <span className="w-64 max-sm:w-40">
            <b>
              Layer {index + 1} of {view.layers}
            </b>
            {shown && <span className="soft"> · z {short(shown.z, 2)} mm</span>}
          </span>
          <input
            type="range"
            className="range range-xs range-primary min-w-40 flex-1"
            min={0}
            max={view.layers - 1}
            value={index}
            aria-label="Layer"
            onChange={({ target }) => setIndex(Number(target.value))}
          />
        </label>
        <p className="min-w-32">
          {rung ? (
            <>
              rung {rung.index + 1}: <b>{rung.name}</b>
            </>
          ) : (
            <span className="soft">base, before the first rung</span>
          )}
        </p>
        <button
          type="button"
          className="btn btn-ghost btn-square"
          aria-label="Close"
          onClick={onClose}
        >
          <X size={18} aria-hidden />
        </button>
      </div>
      {shown && (
        <div className="grid gap-6 lg:grid-cols-2">
          <div className="sheet h-80 overflow-hidden rounded">
            <FlatLayer beads={shown.beads} upTo={null} marked={null} travels />
          </div>
          {!lifted ? (
            <div className="bg-base-200 h-80 rounded p-4">
              <p>The lines give away which part of this proof has which values.</p>
              <button type="button" className="btn-quiet mt-3" onClick={() => setLifted(true)}>
                Show the lines all the same
              </button>
            </div>
          ) : (
            <ol
              className="bg-base-200 h-80 overflow-y-auto rounded py-2 font-mono text-[13px] leading-5"
              tabIndex={0}
              aria-label="Lines of this layer"
            >
              {shown.lines.slice(0, MOST_LINES).map((line, i) => {
                const number = shown.firstLine + i;
                const sets = view.rungs.some((one) => one.line === number);
                return (
                  <li
                    key={number}
                    className={`flex px-3 ${sets ? 'bg-accent text-accent-content font-bold' : ''} ${line.startsWith(';') ? 'text-neutral' : ''}`}
                  >
                    <span className="text-neutral w-16 shrink-0 select-none">{number}</span>
                    {line}
                  </li>
                );
              })}
            </ol>
          )}
        </div>
      )}
    </section>
  );
}
