'use client';
// A list of any length: only the rows in sight exist. Past what a browser can scroll, one pixel is several rows.
import { useEffect, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';

type Props = {
  count: number;
  rowPx: number;
  /** Row that is brought into sight when it changes, from 0. */
  goTo: number | null;
  label: string;
  className?: string;
  row: (index: number) => ReactNode;
  /** Told which rows are in sight. */
  onShown?: (first: number, shown: number) => void;
  onKeyDown?: (event: KeyboardEvent) => void;
};

/** Browsers cut elements that are taller than some ten million pixels. */
const TALLEST_PX = 8_000_000;
/** Where in the window a row that is gone to comes to stand. */
const AT_SHARE = 1 / 3;

export function LongList({
  count,
  rowPx,
  goTo,
  label,
  className = '',
  row,
  onShown,
  onKeyDown,
}: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [first, setFirst] = useState(0);
  const [tall, setTall] = useState(0);
  const shown = Math.min(count - first, Math.ceil(tall / rowPx) + 1);
  const height = Math.min(count * rowPx, TALLEST_PX);
  /** Last row that can stand at the top. */
  const most = Math.max(0, count - Math.floor(tall / rowPx));

  useEffect(() => {
    const watcher = new ResizeObserver(([entry]) => setTall(entry!.contentRect.height));
    watcher.observe(box.current!);
    return () => watcher.disconnect();
  }, []);
  useEffect(() => {
    if (goTo === null || tall === 0 || !box.current) return;
    const top = Math.min(most, Math.max(0, goTo - Math.floor((tall / rowPx) * AT_SHARE)));
    setFirst(top);
    box.current.scrollTop = most > 0 ? (top / most) * (height - tall) : 0;
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only a new place moves the list
  }, [goTo, tall > 0]);
  useEffect(() => {
    if (shown > 0) onShown?.(first, shown);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- told when the window moves
  }, [first, shown]);

  return (
    <div
      ref={box}
      tabIndex={0}
      aria-label={label}
      className={`relative min-h-0 overflow-y-auto ${className}`}
      onKeyDown={onKeyDown}
      onScroll={({ currentTarget: { scrollTop, clientHeight } }) => {
        const share = height > clientHeight ? scrollTop / (height - clientHeight) : 0;
        setFirst(Math.round(share * most));
      }}
    >
      <div style={{ height }}>
        <ol className="sticky top-0 overflow-hidden" style={{ height: Math.min(tall, height) }}>
          {Array.from({ length: Math.max(0, shown) }, (_, i) => row(first + i))}
        </ol>
      </div>
    </div>
  );
}
