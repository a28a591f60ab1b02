'use client';
// Reading a map: cell by cell, the best of its figures in one tap.
import Link from 'next/link';
import { useLayoutEffect, useState } from 'react';
import { BEST_ROWS } from '@/core/ladders/types';
import type { Figure, Strips } from '@/core/view/strips';
import { PrintPicture } from '../common/PrintPicture';
import { CellClosely, PrintWithStrips } from '../common/PrintWithStrips';
import { AwakeNote } from './AwakeNote';
import { PhotoButtons, PhotoRow, usePhotos, type PrintPhotos } from './Photos';
import { useReading, type KeptReading } from './useReading';

type Props = {
  ladderId: number;
  picture: string;
  strips: Strips;
  /** What the numbers in plastic stand for. */
  marks: string | null;
  where: string;
  readingId: number;
  kept: KeptReading;
  photos: PrintPhotos;
};

export function FiguresScreen({ ladderId, picture, strips, marks, where, ...props }: Props) {
  const { cells } = strips;
  const reading = useReading(props.readingId, props.kept);
  const photos = usePhotos(props.photos);
  const best = reading.measured[BEST_ROWS] ?? [];
  const bestOf = (index: number): Figure | undefined =>
    cells[index]!.figures.find(({ rung }) => best.includes(rung));
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      cells.findIndex((_, i) => !bestOf(i)),
    ),
  );
  /** Figure that the keys point at; the best one, or the middle, until they move. */
  const [pointed, setPointed] = useState<number | null>(null);
  const cell = cells[at]!;
  const focus = pointed ?? cell.figures.findIndex(({ rung }) => best.includes(rung));
  const current = focus === -1 ? Math.floor(cell.figures.length / 2) : focus;
  const toCell = (index: number) => {
    setAt(Math.min(cells.length - 1, Math.max(0, index)));
    setPointed(null);
  };
  /** Chooses a figure and goes on; chosen again, the cell has none. */
  const choose = (rung: number, index: number) => {
    const own = new Set(cells[index]!.figures.map((one) => one.rung));
    const on = !best.includes(rung);
    const others = best.filter((one) => !own.has(one));
    reading.measure(BEST_ROWS, on ? [...others, rung].sort((a, b) => a - b) : others);
    toCell(on ? index + 1 : index);
  };
  // Before it is painted: whoever sees the screen may press at once.
  useLayoutEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.altKey || event.metaKey || event.ctrlKey) return;
      if ((event.target as HTMLElement).closest('select, textarea, dialog, [type=text]')) return;
      const to = (by: number) =>
        setPointed(Math.min(cell.figures.length - 1, Math.max(0, current + by)));
      const acts: Record<string, () => void> = {
        ArrowUp: () => to(1),
        ArrowDown: () => to(-1),
        ArrowLeft: () => toCell(at - 1),
        ArrowRight: () => toCell(at + 1),
        b: () => choose(cell.figures[current]!.rung, at),
      };
      if (!acts[event.key]) return;
      acts[event.key]!();
      event.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
  const finding = `/ladder/${ladderId}/finding`;
  const count = cells.filter((_, i) => bestOf(i)).length;
  return (
    <main className="stage gap-y-0 pt-1 pb-0 lg:pt-2 lg:[--around:9rem] lg:[--panel:27rem]">
      <h1 className="sr-only">Score</h1>
      <section className="stage-print max-lg:order-last max-lg:mt-6" aria-label="All cells">
        <PrintWithStrips
          strips={strips}
          picture={<PrintPicture src={picture} />}
          inCell={(one) => (
            <button
              type="button"
              aria-label={`${one.name}: ${bestOf(one.index)?.name ?? 'not read'}`}
              aria-current={one.index === at}
              className={`h-full w-full rounded-md ${one.index === at ? 'outline-primary outline-3' : ''}`}
              onClick={() => toCell(one.index)}
            />
          )}
          inFigure={(figure) =>
            best.includes(figure.rung) && (
              <div className="outline-primary pointer-events-none h-full w-full rounded outline-2" />
            )
          }
        />
      </section>
      <section className="flex min-w-0 flex-col" aria-label="Score">
        <div className="flex items-center gap-3">
          <div className="min-w-0 flex-1">
            <p className="text-2xl leading-tight font-semibold">{cell.name}</p>
            <p className="soft leading-tight">
              marked {cell.mark}; cell {at + 1} of {cells.length}
            </p>
          </div>
          <PhotoButtons take={photos.take} />
        </div>
        <div className="mt-1 flex items-center gap-3">
          <progress
            className="progress progress-primary flex-1"
            value={count}
            max={cells.length}
            aria-label={`${count} of ${cells.length} cells read`}
          />
          <span className="soft">
            {count} / {cells.length}
          </span>
        </div>
        <AwakeNote />
        <PhotoRow {...photos} />
        <p className="my-2">
          Tap the figure whose two legs are most alike {where}.{' '}
          <span className="max-lg:hidden">{marks}</span>
        </p>
        <div className="[--tall:44dvh] lg:[--tall:calc(100dvh-23rem)]">
          <CellClosely
            strips={strips}
            cell={cell}
            picture={picture}
            row={(figure) => {
              const on = best.includes(figure.rung);
              const here = cell.figures[current]?.rung === figure.rung;
              return (
                <button
                  type="button"
                  aria-pressed={on}
                  aria-label={`${figure.name}${on ? ': the best of its cell' : ''}`}
                  className={`absolute inset-x-0 -inset-y-1 flex touch-manipulation items-center justify-end rounded pr-2 ${on ? 'outline-primary bg-primary/15 outline-3' : here ? 'outline-base-content/60 outline-2 outline-dashed' : 'hover:bg-base-content/10'}`}
                  onClick={() => choose(figure.rung, at)}
                >
                  <span className="bg-base-100/90 rounded px-1.5 text-lg leading-tight font-semibold">
                    {on && '★ '}
                    {figure.label}
                  </span>
                </button>
              );
            }}
          />
        </div>
        <div className="bg-base-100 sticky bottom-0 mt-auto grid grid-cols-3 gap-2 py-2 lg:grid-cols-[1fr_1fr_2fr] lg:py-3">
          <button
            type="button"
            className="btn-quiet h-12 px-2"
            aria-disabled={at === 0}
            onClick={() => toCell(at - 1)}
          >
            Cell before
          </button>
          <button
            type="button"
            className="btn-quiet h-12 px-2"
            aria-disabled={at === cells.length - 1}
            onClick={() => toCell(at + 1)}
          >
            Next cell
          </button>
          <Link href={finding} className="btn-main h-12 px-2">
            Finding
          </Link>
        </div>
        <p className="soft max-lg:hidden">
          Keys: arrows up and down point at a figure, b makes it the best of its cell, left and
          right go to another cell.
        </p>
      </section>
    </main>
  );
}
