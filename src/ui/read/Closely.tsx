'use client';
// The picture of a print at its full size, opened at the rung that is looked at.
import { X, ZoomIn } from 'lucide-react';
import { useRef } from 'react';
import type { Rung } from '@/core/plan/plan';

type Props = { picture: string; rung: Rung; height: number };

export function Closely({ picture, rung, height }: Props) {
  const opener = useRef<HTMLButtonElement>(null);
  const dialog = useRef<HTMLDialogElement>(null);
  const sheet = useRef<HTMLDivElement>(null);
  const toRung = () => {
    const box = sheet.current;
    if (box) box.scrollTop = (1 - rung.z.to / height) * box.scrollHeight;
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
        <ZoomIn size={18} aria-hidden /> Look closely
      </button>
      <dialog
        ref={dialog}
        onClose={() => opener.current?.focus()}
        aria-label="The print, closely"
        className="bg-base-100 text-base-content m-auto h-[92dvh] w-[96vw] max-w-5xl rounded p-0"
      >
        <div className="flex h-full flex-col">
          <div className="flex items-center gap-3 p-2 pl-4">
            <b className="flex-1">Rung {rung.index + 1}, closely</b>
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
