'use client';
// Four marks on a picture, pulled onto the corners of the print: with a finger, and what is under it shown larger.
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';

export type Point = { x: number; y: number };
export type FourCorners = [Point, Point, Point, Point];

type Props = {
  src: string;
  /** Of the picture as it was taken, pixels. */
  width: number;
  height: number;
  corners: FourCorners;
  onChange: (corners: FourCorners) => void;
};

const NAMES = ['lower left', 'lower right', 'upper right', 'upper left'] as const;
/** How many times larger the picture is under the finger than on the page, and how wide that view is, pixels. */
const [LARGER, VIEW] = [4, 132];
/** A picture is at least so high, pixels: two marks stand over each other. */
const LOWEST = 104;
const KEYS: Record<string, Point> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
};

export function CornerMarks({ src, width, height, corners, onChange }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [held, setHeld] = useState<number | null>(null);
  const [wide, setWide] = useState(0);
  const grabbed = useRef<Point>({ x: 0, y: 0 });
  const placeOf = (event: PointerEvent): Point => {
    const { left, top, width: w, height: h } = box.current!.getBoundingClientRect();
    return { x: ((event.clientX - left) / w) * width, y: ((event.clientY - top) / h) * height };
  };
  const move = (i: number, to: Point) => {
    const next = corners.map((one, k) =>
      k === i ? { x: clamp(to.x, width), y: clamp(to.y, height) } : one,
    ) as FourCorners;
    onChange(next);
  };
  const onKey = (i: number) => (event: KeyboardEvent) => {
    const step = KEYS[event.key];
    if (!step) return;
    event.preventDefault();
    const far = event.shiftKey ? 20 : 1;
    move(i, { x: corners[i]!.x + step.x * far, y: corners[i]!.y + step.y * far });
  };
  const share = ({ x, y }: Point) => ({
    left: `${(x / width) * 100}%`,
    top: `${(y / height) * 100}%`,
  });
  const shown = held === null ? null : corners[held]!;
  // The view stands where the finger is not.
  const aside = shown && shown.x < width / 2 ? { right: 4 } : { left: 4 };
  return (
    <div
      ref={box}
      className="relative select-none"
      // A long print is pushed sideways rather than drawn so small that its marks lie over each other.
      style={{ aspectRatio: `${width} / ${height}`, minWidth: `${(LOWEST * width) / height}px` }}
    >
      {/* eslint-disable-next-line @next/next/no-img-element -- sized by its own server */}
      <img src={src} alt="The picture of the print" className="h-full w-full" draggable={false} />
      <svg
        viewBox={`0 0 ${width} ${height}`}
        className="pointer-events-none absolute inset-0 h-full w-full"
        aria-hidden
      >
        <polygon
          points={corners.map(({ x, y }) => `${x},${y}`).join(' ')}
          fill="none"
          stroke="white"
          strokeWidth="4"
          vectorEffect="non-scaling-stroke"
        />
        <polygon
          points={corners.map(({ x, y }) => `${x},${y}`).join(' ')}
          className="stroke-primary"
          fill="none"
          strokeWidth="2"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      {corners.map((corner, i) => (
        <button
          key={NAMES[i]}
          type="button"
          aria-label={`Corner, ${NAMES[i]}: arrow keys move it`}
          className="absolute h-11 w-11 touch-none -translate-x-1/2 -translate-y-1/2 cursor-grab rounded-full"
          style={share(corner)}
          onKeyDown={onKey(i)}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            const at = placeOf(event);
            grabbed.current = { x: corner.x - at.x, y: corner.y - at.y };
            setWide(box.current!.getBoundingClientRect().width);
            setHeld(i);
          }}
          onPointerMove={(event) => {
            if (held !== i) return;
            const at = placeOf(event);
            move(i, { x: at.x + grabbed.current.x, y: at.y + grabbed.current.y });
          }}
          onPointerUp={() => setHeld(null)}
          onPointerCancel={() => setHeld(null)}
        >
          <i
            aria-hidden
            className="border-primary absolute inset-2.5 rounded-full border-[3px] shadow-[0_0_0_2px_white,inset_0_0_0_2px_white]"
          />
        </button>
      ))}
      {shown && (
        <div
          aria-hidden
          className="border-primary bg-base-200 absolute top-1 overflow-hidden rounded-full border-2"
          style={{
            ...aside,
            width: VIEW,
            height: VIEW,
            backgroundImage: `url(${src})`,
            backgroundRepeat: 'no-repeat',
            backgroundSize: `${wide * LARGER}px auto`,
            backgroundPosition: `${VIEW / 2 - (shown.x / width) * wide * LARGER}px ${
              VIEW / 2 - (shown.y / width) * wide * LARGER
            }px`,
          }}
        >
          <i className="bg-primary absolute top-1/2 left-0 h-px w-full" />
          <i className="bg-primary absolute top-0 left-1/2 h-full w-px" />
        </div>
      )}
    </div>
  );
}

const clamp = (value: number, most: number): number => Math.max(0, Math.min(most, value));
