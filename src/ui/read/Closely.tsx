'use client';
// The picture of a print at its full size, opened at the rung that is looked at.
import { X, ZoomIn } from 'lucide-react';
import { useRef } from 'react';
import type { Rung } from '@/core/plan/plan';

type Props = {
  picture: string;
  rung: Rung;
  height: number;
  /** Where the criterion is looked at, as a share of the print's width. */
  spot: number;
};

export function Closely({ picture, rung, height, spot }: Props) {
  const opener = useRef<HTMLButtonElement>(null);
  const dialog = useRef<HTMLDialogElement>(null);
  const sheet = useRef<HTMLDivElement>(null);
  const toRung = () => {
    const box = sheet.current;
    if (!box) return;
    // The middle of the rung in the middle of the window, and across it where the criterion is looked at.
    const middle = 1 - (rung.z.from + rung.z.to) / 2 / height;
    box.scrollTop = middle * box.scrollHeight - box.clientHeight / 2;
    box.scrollLeft = spot * box.scrollWidth - box.clientWidth / 2;
  };
  return (
    <>
      <button
        ref={opener}
        type="button"
        className="btn btn-ghost btn-sm font-normal"
        onClick={() => {
          dialog.current?.showModal();
          toRung();
        }}
      >
        <ZoomIn size={18} aria-hidden /> Zoom in
      </button>
      <dialog
        ref={dialog}
        onClose={() => opener.current?.focus()}
        aria-label="The print, enlarged"
        className="bg-base-100 text-base-content m-auto h-[92dvh] w-[96vw] max-w-5xl rounded p-0"
      >
        <div className="flex h-full flex-col">
          <div className="flex items-center gap-3 p-2 pl-4">
            <b className="flex-1">Rung {rung.index + 1}, enlarged</b>
            <button
              type="button"
              className="btn btn-ghost btn-square"
              aria-label="Close"
              onClick={() => dialog.current?.close()}
            >
              <X size={18} aria-hidden />
            </button>
          </div>
          <div ref={sheet} className="min-h-0 flex-1 overflow-auto">
            {/* eslint-disable-next-line @next/next/no-img-element -- shown at its own size */}
            <img
              src={picture}
              alt="The print from the front"
              className="max-w-none"
              onLoad={toRung}
            />
          </div>
        </div>
      </dialog>
    </>
  );
}
