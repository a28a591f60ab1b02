'use client';
// Four marks on a picture, pulled onto the corners of the print: with a finger, and what is under it shown larger.
import { useRef, useState } from 'react';
import { Picture } from '../common/Picture';
import { PullMark, type Point } from './PullMark';

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

export function CornerMarks({ src, width, height, corners, onChange }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [held, setHeld] = useState<number | null>(null);
  const [wide, setWide] = useState(0);
  const move = (i: number, to: Point) =>
    onChange(corners.map((one, k) => (k === i ? to : one)) as FourCorners);
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
      <Picture
        src={src}
        alt="The picture of the print"
        words="The picture is on its way …"
        className="h-full w-full"
      />
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
        <PullMark
          key={NAMES[i]}
          label={`Corner, ${NAMES[i]}`}
          at={corner}
          width={width}
          height={height}
          box={box}
          onMove={(to) => move(i, to)}
          onHold={(taken) => {
            setWide(box.current!.getBoundingClientRect().width);
            setHeld(taken ? i : null);
          }}
        />
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
