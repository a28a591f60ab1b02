'use client';
// A ruler and a grid over a picture, live or frozen: two marks, one known length, and then any length.
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { gridStep, lengthBetween, scaleFrom, type Scale } from '@/core/loupe/ruler';
import { short } from '@/core/numbers';
import { LengthBox } from './LengthBox';
import { PullMark, type Point } from './PullMark';

type Props = {
  /** Of the picture, pixels. */
  width: number;
  height: number;
  /** The picture; it is as large as this part. */
  children: ReactNode;
};

export function Ruler({ width, height, children }: Props) {
  const box = useRef<HTMLDivElement>(null);
  // As shares of the picture, whose size is known only once it is there.
  const [shares, setShares] = useState<[Point, Point]>([
    { x: 0.3, y: 0.5 },
    { x: 0.7, y: 0.5 },
  ]);
  const marks = shares.map(({ x, y }) => ({ x: x * width, y: y * height })) as [Point, Point];
  const [known, setKnown] = useState('10');
  const [scale, setScale] = useState<Scale | null>(null);
  const [grid, setGrid] = useState(false);
  const [shown, setShown] = useState(width);
  useEffect(() => {
    const at = box.current!;
    const watch = new ResizeObserver(() => setShown(at.getBoundingClientRect().width || width));
    watch.observe(at);
    return () => watch.disconnect();
  }, [width]);
  /** Pixels of the picture for one of the screen. */
  const per = width / shown;
  const [a, b] = marks;
  const length = scale && lengthBetween(a, b, scale, per);
  const typed = Number(known.replace(',', '.'));
  const next = scaleFrom(a, b, typed, per);
  const step = scale && gridStep(scale.pxPerMm, per);
  const cell = scale && step ? step * scale.pxPerMm : 0;
  return (
    <div className="space-y-2">
      <div
        ref={box}
        className="bg-base-200 relative mx-auto select-none"
        style={{ aspectRatio: `${width} / ${height}`, maxWidth: `calc(58dvh * ${width / height})` }}
      >
        {children}
        <svg
          viewBox={`0 0 ${width} ${height}`}
          className="pointer-events-none absolute inset-0 h-full w-full"
          aria-hidden
        >
          {grid && cell > 0 && (
            <>
              <pattern id="grid" width={cell} height={cell} patternUnits="userSpaceOnUse">
                <path
                  d={`M ${cell} 0 H 0 V ${cell}`}
                  fill="none"
                  className="stroke-primary"
                  strokeWidth={per}
                  opacity={0.6}
                />
              </pattern>
              <rect width={width} height={height} fill="url(#grid)" />
            </>
          )}
          <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} stroke="white" strokeWidth={4 * per} />
          <line
            x1={a.x}
            y1={a.y}
            x2={b.x}
            y2={b.y}
            className="stroke-primary"
            strokeWidth={2 * per}
          />
        </svg>
        {(['first', 'second'] as const).map((name, i) => (
          <PullMark
            key={name}
            label={`Ruler, ${name} end`}
            at={marks[i]!}
            width={width}
            height={height}
            box={box}
            onMove={({ x, y }) => {
              const to = { x: x / width, y: y / height };
              setShares(i === 0 ? [to, shares[1]] : [shares[0], to]);
            }}
          />
        ))}
      </div>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <p className="text-xl font-semibold" role="status" aria-label="Length between the marks">
          {length ? `${short(length.mm, 2)} ± ${short(length.spread, 2)} mm` : 'no scale yet'}
        </p>
        <LengthBox value={known} onChange={setKnown} />
        <button
          type="button"
          className="btn-quiet"
          disabled={next === null}
          onClick={() => setScale(next)}
        >
          The marks are that far apart
        </button>
        <label className="flex min-h-11 items-center gap-2">
          <input
            type="checkbox"
            className="checkbox"
            checked={grid}
            disabled={scale === null}
            onChange={({ target }) => setGrid(target.checked)}
          />
          Grid{step ? ` of ${short(step)} mm` : ''}
        </label>
      </div>
    </div>
  );
}
