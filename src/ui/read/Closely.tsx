'use client';
// The picture of a print at its full size, opened at the rung that is looked at.
import { ZoomIn } from 'lucide-react';
import { useRef } from 'react';
import type { Rung } from '@/core/plan/plan';
import { Dialog } from '../common/Dialog';

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
      <Dialog
        at={dialog}
        opener={opener}
        title={`Rung ${rung.index + 1}, enlarged`}
        className="h-[92dvh] w-[96vw] max-w-5xl"
      >
        <div ref={sheet} className="min-h-0 flex-1 overflow-auto">
          {/* eslint-disable-next-line @next/next/no-img-element -- shown at its own size */}
          <img
            src={picture}
            alt="The print from the front"
            className="max-w-none"
            onLoad={toRung}
          />
        </div>
      </Dialog>
    </>
  );
}
