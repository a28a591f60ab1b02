'use client';
// A rung cut out of a straightened picture; pressed, it is shown to the pixel, beside another rung or another picture.
import { useRef, useState } from 'react';
import type { Named } from '@/core/view/shared-axis';
import { Dialog } from '../common/Dialog';
import { cutOf, type ShownStrip } from '../common/LookStrip';

type Props = {
  rung: Named;
  rungs: readonly Named[];
  look: ShownStrip;
  others: readonly ShownStrip[];
  filter: string;
};

export function Strip({ rung, rungs, look, others, filter }: Props) {
  const dialog = useRef<HTMLDialogElement>(null);
  const opener = useRef<HTMLButtonElement>(null);
  const [open, setOpen] = useState(false);
  const [beside, setBeside] = useState('');
  const other = beside.startsWith('look ')
    ? others.find(({ id }) => beside === `look ${id}`)
    : undefined;
  const next = rungs.find(({ index }) => beside === `rung ${index}`);
  const shown = [
    { label: rung.name, cut: cutOf(rung, look) },
    ...(next ? [{ label: next.name, cut: cutOf(next, look) }] : []),
    ...(other
      ? [
          {
            label: `${rung.name}, ${other.label}`,
            cut: cutOf(rung, other),
          },
        ]
      : []),
  ];
  const tall = shown.length > 1 ? 33 : 66;
  return (
    <>
      <button
        ref={opener}
        type="button"
        aria-label={`${rung.name} on the picture, enlarge`}
        className="bg-base-200 h-full min-h-6 w-1/3 shrink-0"
        style={{ ...cutOf(rung, look).style, filter }}
        onClick={() => {
          setOpen(true);
          dialog.current?.showModal();
        }}
      />
      <Dialog
        at={dialog}
        opener={opener}
        title={rung.name}
        className="h-[90dvh] w-[97vw] max-w-none"
      >
        {open && (
          <>
            <label className="flex items-center gap-2 px-2">
              Beside it
              <select
                className="select"
                value={beside}
                onChange={({ target }) => setBeside(target.value)}
              >
                <option value="">nothing</option>
                {rungs
                  .filter(({ index }) => index !== rung.index)
                  .map(({ index, name }) => (
                    <option key={index} value={`rung ${index}`}>
                      {name}
                    </option>
                  ))}
                {others.map(({ id, label }) => (
                  <option key={`look ${id}`} value={`look ${id}`}>
                    the same on {label}
                  </option>
                ))}
              </select>
            </label>
            <div className="min-h-0 flex-1 space-y-2 overflow-auto p-2">
              {shown.map(({ label, cut }) => (
                <figure key={label}>
                  <figcaption className="soft">{label}</figcaption>
                  <div
                    role="img"
                    aria-label={`${label} on the picture`}
                    className="[image-rendering:pixelated]"
                    style={{
                      ...cut.style,
                      filter,
                      backgroundPosition: `0% ${cut.y}%`,
                      height: `${tall}dvh`,
                      width: `${tall * cut.wide}dvh`,
                    }}
                  />
                </figure>
              ))}
            </div>
          </>
        )}
      </Dialog>
    </>
  );
}
