'use client';
// A window over the page: a title, what can be done, a way to close it, and the focus back where it came from.
import { X } from 'lucide-react';
import { useId, type ReactNode, type RefObject } from 'react';

type Props = {
  /** Opened with `showModal` by whoever holds it. */
  at: RefObject<HTMLDialogElement | null>;
  /** What has the focus again afterwards. */
  opener: RefObject<HTMLElement | null>;
  title: string;
  /** Stands beside the way to close it. */
  acts?: ReactNode;
  /** Size and room around, as classes. */
  className: string;
  children: ReactNode;
};

export function Dialog({ at, opener, title, acts, className, children }: Props) {
  const id = useId();
  return (
    <dialog
      ref={at}
      aria-labelledby={id}
      onClose={() => opener.current?.focus()}
      className={`bg-base-100 text-base-content m-auto rounded ${className}`}
    >
      <div className="flex h-full flex-col">
        <div className="flex items-center gap-3 p-2 pl-4">
          <b id={id} className="flex-1 text-lg">
            {title}
          </b>
          {acts}
          <button
            type="button"
            className="btn btn-ghost btn-square"
            aria-label="Close"
            onClick={() => at.current?.close()}
          >
            <X size={20} aria-hidden />
          </button>
        </div>
        {children}
      </div>
    </dialog>
  );
}
