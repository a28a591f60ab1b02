'use client';
// Where a file is dropped or chosen.
import { FileUp } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { LARGEST_OPENED } from '@/core/view/opened';

type Props = {
  onFile: (file: File) => void;
  /** Whether a file is held over the page. */
  over: boolean;
};

export function OpenHere({ onFile, over }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const take = () => {
    const file = input.current?.files?.[0];
    if (!file) return;
    input.current!.value = '';
    onFile(file);
  };
  // A file that was chosen before the page could listen is taken now.
  useEffect(take);
  return (
    <label
      className={`border-secondary grid min-h-64 cursor-pointer place-items-center rounded border-2 border-dashed p-8 text-center ${over ? 'bg-accent' : 'bg-base-200'}`}
    >
      <span>
        <FileUp size={40} className="mx-auto mb-3" aria-hidden />
        <b className="block text-xl">Drop a G-code file here, or press to choose one</b>
        <span className="soft mt-2 block">
          Up to {LARGEST_OPENED / 1024 / 1024} MB. It is read on this machine and goes nowhere else.
        </span>
      </span>
      <input
        type="file"
        className="sr-only"
        aria-label="G-code file"
        accept=".gcode,.gco,.g,.nc,.txt,text/plain"
        ref={input}
        onChange={take}
      />
    </label>
  );
}
