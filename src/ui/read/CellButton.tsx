// A cell on a phone: what it is and the score that it has. A tap brings the keys below to it.
import { useEffect, useRef, type ReactNode } from 'react';
import type { Score } from '@/core/reading/types';
import { ScoreBlocks } from '../common/ScoreBlocks';

type Props = {
  label: string;
  value: Score | null | undefined;
  current: boolean;
  onChoose: () => void;
  children: ReactNode;
};

export function CellButton({ label, value, current, onChoose, children }: Props) {
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (current) button.current?.scrollIntoView({ block: 'nearest' });
  }, [current]);
  return (
    <button
      ref={button}
      type="button"
      aria-current={current}
      aria-label={`${label}: ${value === undefined ? 'no score' : (value ?? 'can’t tell')}`}
      // The keys below cover the foot of the window: a cell comes to rest above them.
      className={`flex h-full min-h-9 w-full touch-manipulation scroll-mt-2 scroll-mb-44 items-center gap-2 rounded px-1 text-left lg:hidden ${
        current ? 'outline-primary bg-accent/60 outline-2' : ''
      }`}
      onClick={onChoose}
    >
      {children}
      <span className="ml-auto flex w-8 shrink-0 justify-center">
        <ScoreBlocks score={value} />
      </span>
    </button>
  );
}
