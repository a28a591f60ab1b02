// The print as it stands on the bench, with everything else lined up with its rungs. One millimetre of
// plastic is one `--mm` across the screen and one `--up` upward, in the drawing and in every column beside it.
import type { CSSProperties, ReactNode } from 'react';

export type RowRung = { index: number; z: { from: number; to: number } };

type Props<R extends RowRung> = {
  /** Size of the print, mm. */
  height: number;
  width: number;
  /** How many times larger upward than across it may be drawn where that fills its room. */
  stretch?: number;
  rungs: readonly R[];
  /** The drawing; it is stretched to the scale. */
  picture: ReactNode;
  /** A rung that is marked on the drawing itself, where its row stands elsewhere. */
  marked?: RowRung | undefined;
  /** Height of a rung, mm, that is hatched at its foot: what prints while the value still settles. */
  settling?: (rung: R) => number;
  /** What stands beside one rung. */
  row: (rung: R) => ReactNode;
  /** Shown across everything at rung height, such as a curve. */
  over?: ReactNode;
  head?: ReactNode;
  /** What stands under the picture. */
  foot?: ReactNode;
  /**
   * Sets, as classes, what there is room for, as CSS lengths: `--tall` for the print's height, `--room` for the width
   * of all, `--beside` for the rows. The print takes all that is left.
   */
  className?: string;
  /** Width of the rows, where it follows from what stands in them, and what they take at least. */
  beside?: string;
  besideAtLeast?: string;
  /** Leaves the print out on a phone, where both would be too small to read. */
  rowsOnPhone?: boolean;
};

/** Width of the ruler beside the print. */
export const RULER = '2.25rem';

/** Room for as many rungs as there are, whatever the print's own shape. */
const PHONE_ROWS =
  'max-lg:w-full max-lg:[--tall:calc(var(--rungs)*2.25rem)] max-lg:[--room:999rem]';

/** Ticks that stand further apart than this share of a window's width can be read. */
const APART = 1 / 64;

/** Ticks along the height, mm: about eight of them, and fewer on a print that is so wide that it is drawn small. */
function ticks(height: number, width: number): number[] {
  const step =
    [1, 2, 5, 10, 20, 50, 100].find((one) => height / one <= 9 && one >= APART * width) ?? 200;
  return Array.from({ length: Math.floor(height / step) + 1 }, (_, i) => i * step);
}

/** A length of the print on the screen: across it, and upward. */
export const at = (mm: number): string => `calc(${mm} * var(--mm))`;
export const up = (mm: number): string => `calc(${mm} * var(--up))`;

/** Room for the longest of the names that stand beside rungs, and the air around it, rem. */
export const nameRoom = (rungs: readonly { name: string }[]): number =>
  1.5 + 0.58 * Math.max(6, ...rungs.map(({ name }) => name.length));

/** Length of the bar that tells the scale across, mm: about a quarter of the print. */
const barOf = (width: number): number =>
  [100, 50, 20, 10, 5, 2].find((one) => one <= width / 3) ?? 1;

export function PrintWithRows<R extends RowRung>({
  height,
  width,
  stretch = 1,
  rungs,
  picture,
  marked,
  row,
  over,
  settling,
  head,
  foot,
  className = '',
  beside,
  besideAtLeast = '0px',
  rowsOnPhone = false,
}: Props<R>) {
  const scale = {
    '--rungs': rungs.length,
    '--mm': `min(calc(var(--tall) / ${height}), calc((var(--room) - max(var(--beside), ${besideAtLeast}) - ${RULER}) / ${width + 2}))`,
    '--up': `min(calc(var(--tall) / ${height}), calc(${stretch} * var(--mm)))`,
    ...(beside ? { '--beside': beside } : {}),
  } as CSSProperties;
  return (
    <div
      style={scale}
      className={`w-fit max-w-full select-none ${rowsOnPhone ? PHONE_ROWS : ''} ${className}`}
    >
      {head}
      <div className="relative flex" style={{ height: up(height) }}>
        <div
          className={`soft relative shrink-0 text-[13px] ${rowsOnPhone ? 'max-lg:hidden' : ''}`}
          style={{ width: RULER }}
          aria-hidden
        >
          {ticks(height, width).map((mm) => (
            <span
              key={mm}
              className="absolute right-2 flex translate-y-1/2 items-center gap-1"
              style={{ bottom: up(mm) }}
            >
              {mm}
              <i className="bg-neutral inline-block h-px w-2" />
            </span>
          ))}
        </div>
        <div
          className={`relative shrink-0 ${rowsOnPhone ? 'max-lg:hidden' : ''}`}
          style={{ width: at(width + 2), height: up(height) }}
        >
          <div className="drawing h-full [&>*]:h-full [&>*]:w-full">{picture}</div>
          {marked && (
            <i
              aria-hidden
              className="outline-primary absolute inset-x-0 rounded-sm outline-3"
              style={{ bottom: up(marked.z.from), height: up(marked.z.to - marked.z.from) }}
            />
          )}
          {settling &&
            rungs.map((rung) => (
              <i
                key={rung.index}
                aria-hidden
                className="hatched absolute inset-x-0"
                style={{ bottom: up(rung.z.from), height: up(settling(rung)) }}
              />
            ))}
        </div>
        <ol
          className="relative min-w-0 flex-1"
          style={{ minWidth: `max(var(--beside), ${besideAtLeast})` }}
          aria-label="Rungs, lowest first"
        >
          {rungs.map((rung) => (
            <li
              key={rung.index}
              className="border-base-300 absolute inset-x-0 flex items-center overflow-hidden border-t"
              style={{ bottom: up(rung.z.from), height: up(rung.z.to - rung.z.from) }}
            >
              {row(rung)}
            </li>
          ))}
        </ol>
        {over}
      </div>
      {foot}
      <p
        aria-hidden
        className={`soft mt-1 flex items-center gap-2 text-[13px] leading-5 ${rowsOnPhone ? 'max-lg:hidden' : ''}`}
        style={{ marginLeft: RULER }}
      >
        <i
          className="border-neutral h-1.5 shrink-0 border-x border-b"
          style={{ width: at(barOf(width)) }}
        />
        {barOf(width)} mm across{stretch > 1 && ', heights by the ruler'}
      </p>
    </div>
  );
}
