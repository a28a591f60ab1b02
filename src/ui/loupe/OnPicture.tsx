'use client';
// The picture as it was taken: where a measure was taken on it, to be moved by hand, and a known length to check it by.
import { useRef, useState, type ReactNode, type RefObject } from 'react';
import type { KeptLook, MeasureKept, MovedPlace } from '@/core/loupe/kept';
import { lengthByCorners } from '@/core/loupe/ruler';
import { short } from '@/core/numbers';
import { ActButton, type Outcome } from '../common/ActButton';
import { Picture } from '../common/Picture';
import type { LoupePicture } from './LoupeScreen';
import { LengthBox } from './LengthBox';
import { PullMark, type Point } from './PullMark';

type Props = {
  picture: LoupePicture;
  found: KeptLook;
  /** Of the measure that is shown. */
  all: readonly MeasureKept[];
  labelOf: (rung: number) => string;
  move: (moved: MovedPlace[]) => Promise<Outcome>;
};

export function OnPicture(props: Props) {
  const [checks, setChecks] = useState(false);
  return (
    <section aria-label="On the picture" className="rule-above mt-8 max-w-3xl space-y-3">
      <div className="flex flex-wrap gap-x-6">
        {[false, true].map((one) => (
          <label key={String(one)} className="flex min-h-11 cursor-pointer items-center gap-2">
            <input
              type="radio"
              name="on picture"
              className="radio"
              checked={checks === one}
              onChange={() => setChecks(one)}
            />
            {one ? 'Check it by a length that you know' : 'Where it was taken'}
          </label>
        ))}
      </div>
      {checks ? <KnownLength {...props} /> : <Places {...props} />}
    </section>
  );
}

const polygon = (places: readonly Point[]) => places.map(({ x, y }) => `${x},${y}`).join(' ');
const middleOf = (places: readonly Point[]): Point => ({
  x: places.reduce((sum, { x }) => sum + x, 0) / places.length,
  y: places.reduce((sum, { y }) => sum + y, 0) / places.length,
});
const STILL: Point = { x: 0, y: 0 };

type ShownProps = {
  box: RefObject<HTMLDivElement | null>;
  picture: LoupePicture;
  children: ReactNode;
};

/** The picture, with something over it. */
function Shown({ box, picture: { src, width, height }, children }: ShownProps) {
  return (
    <div
      ref={box}
      className="relative select-none"
      style={{ aspectRatio: `${width} / ${height}`, maxWidth: `calc(60dvh * ${width / height})` }}
    >
      <Picture
        src={src}
        alt="The picture as it was taken"
        words="The picture is on its way …"
        className="h-full w-full"
      />
      {children}
    </div>
  );
}

function Places({ picture, found, all, labelOf, move }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [chosen, setChosen] = useState(all[0]?.rung ?? 0);
  const [pulled, setPulled] = useState<Point>(STILL);
  const one = all.find(({ rung }) => rung === chosen) ?? all[0];
  if (!one) return null;
  const { width, height } = picture;
  const middle = middleOf(one.at);
  const isSame = ({ name, rung, axis }: MovedPlace) =>
    name === one.name && rung === one.rung && axis === one.axis;
  const before = found.moved.find(isSame);
  const others = found.moved.filter((each) => !isSame(each));
  const moved = pulled.x !== 0 || pulled.y !== 0;
  const measureThere = async () => {
    const by = { x: (before?.by.x ?? 0) + pulled.x, y: (before?.by.y ?? 0) + pulled.y };
    const { name, rung, axis } = one;
    const outcome = await move([...others, { name, rung, ...(axis ? { axis } : {}), by }]);
    if (outcome.ok) setPulled(STILL);
    return outcome;
  };
  return (
    <>
      <Shown box={box} picture={picture}>
        <svg
          viewBox={`0 0 ${width} ${height}`}
          className="pointer-events-none absolute inset-0 h-full w-full"
          aria-hidden
        >
          {all.map(({ rung, axis, at, told }) => (
            <polygon
              key={`${rung} ${axis ?? ''}`}
              points={polygon(at)}
              fill="none"
              className={told ? 'stroke-primary' : 'stroke-base-300'}
              strokeWidth="1.5"
              strokeDasharray={told ? undefined : '4 3'}
              vectorEffect="non-scaling-stroke"
            />
          ))}
          <polygon
            points={polygon(one.at.map(({ x, y }) => ({ x: x + pulled.x, y: y + pulled.y })))}
            className="fill-primary/20 stroke-primary"
            strokeWidth="3"
            vectorEffect="non-scaling-stroke"
          />
        </svg>
        <PullMark
          label={`Place at ${labelOf(one.rung)}`}
          at={{ x: middle.x + pulled.x, y: middle.y + pulled.y }}
          width={width}
          height={height}
          box={box}
          onMove={({ x, y }) => setPulled({ x: x - middle.x, y: y - middle.y })}
        />
      </Shown>
      <div className="flex flex-wrap items-center gap-3">
        <label className="flex items-center gap-2 whitespace-nowrap">
          Place at
          <select
            className="select"
            value={one.rung}
            onChange={({ target }) => {
              setChosen(Number(target.value));
              setPulled(STILL);
            }}
          >
            {[...new Set(all.map(({ rung }) => rung))].map((rung) => (
              <option key={rung} value={rung}>
                {labelOf(rung)}
              </option>
            ))}
          </select>
        </label>
        {moved && (
          <ActButton className="btn-main" working="Measuring …" act={measureThere}>
            Measure there
          </ActButton>
        )}
        {before && (
          <ActButton working="Measuring …" act={() => move(others)}>
            Back to where it was planned
          </ActButton>
        )}
        <p className="soft">
          Pull the place where it should be measured, or move it by arrow keys.
        </p>
      </div>
    </>
  );
}

/** Further off than this share, the corners or the plan are wrong. */
const OFF = 0.02;

function KnownLength({ picture, found }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const { width, height } = picture;
  const [a, setA] = useState<Point>({ x: 0.3 * width, y: 0.5 * height });
  const [b, setB] = useState<Point>({ x: 0.7 * width, y: 0.5 * height });
  const [typed, setTyped] = useState('');
  const { corners, bulge, flat } = found;
  if (!corners || !flat) return null;
  const mm = lengthByCorners({ corners, bulge, flat }, { width, height }, a, b);
  const known = Number(typed.replace(',', '.'));
  const off = mm !== null && known > 0 ? mm / known - 1 : null;
  return (
    <>
      <Shown box={box} picture={picture}>
        <svg
          viewBox={`0 0 ${width} ${height}`}
          className="pointer-events-none absolute inset-0 h-full w-full"
          aria-hidden
        >
          <line
            x1={a.x}
            y1={a.y}
            x2={b.x}
            y2={b.y}
            className="stroke-primary"
            strokeWidth="3"
            vectorEffect="non-scaling-stroke"
          />
        </svg>
        {(
          [
            ['first', a, setA],
            ['second', b, setB],
          ] as const
        ).map(([name, at, put]) => (
          <PullMark
            key={name}
            label={`Length, ${name} end`}
            at={at}
            width={width}
            height={height}
            box={box}
            onMove={put}
          />
        ))}
      </Shown>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <p className="text-xl font-semibold" role="status" aria-label="Length by the corners">
          {mm === null ? 'no length' : `${short(mm, 2)} mm`}
        </p>
        <LengthBox value={typed} onChange={setTyped} />
        {off !== null && (
          <p role="status" aria-label="How far it is off">
            {Math.abs(off) <= OFF
              ? `Within ${short(100 * Math.abs(off), 1)} %: the corners are right.`
              : `${short(100 * Math.abs(off), 1)} % too ${off > 0 ? 'long' : 'short'}: put the corners again, or this is another print.`}
          </p>
        )}
      </div>
    </>
  );
}
