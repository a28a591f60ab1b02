'use client';
// Corners as each shaper would leave them at one acceleration, to choose another than the one that is proposed.
import { SHAPER_TITLES, type Shaper } from '@/core/dialect/shapers';
import { short } from '@/core/numbers';
import { cornerLine, waveOf } from '@/core/shake/corner';
import type { Limits, Option } from '@/core/shake/propose';
import { capital } from '@/core/text';
import { safely } from './told';

type Props = {
  shapers: readonly Option[];
  chosen: Shaper | null;
  proposed: Shaper | null;
  /** At which the corners are drawn, and at which a ghost would begin to be seen without a shaper, mm/s². */
  acceleration: number;
  plain: number;
  limits: Limits;
  /** What rings most. */
  peak: { hz: number; damping: number };
  onChoose: (type: Shaper) => void;
};

/** Speed that corners are drawn at, mm/s, how far they are seen, mm, and how many times what is off is drawn larger. */
const [SPEED, REACH, LARGER] = [100, 11, 16];
/** Room around a corner, mm. */
const AIR = 2.2;

export function Shapers({ shapers, chosen, proposed, onChoose, ...at }: Props) {
  const { acceleration, plain, limits, peak } = at;
  const seen = waveOf(SPEED, peak.hz, peak.damping);
  return (
    <fieldset>
      <legend className="sr-only">Shaper</legend>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(8.75rem,1fr))] gap-2">
        {shapers.map(({ type, hz, acceleration: most, echo, rounding, moved }) => {
          // Both grow with the acceleration.
          const share = acceleration / most;
          return (
            <label
              key={type}
              className={`border-base-300 grid cursor-pointer rounded border p-2 leading-tight ${
                chosen === type
                  ? 'bg-accent text-accent-content outline-primary outline-3 -outline-offset-1'
                  : 'hover:border-neutral'
              }`}
            >
              <input
                type="radio"
                name="shaper"
                className="sr-only"
                checked={chosen === type}
                onChange={() => onChoose(type)}
              />
              <Drawn cut={rounding * share} ghost={echo * share} {...seen} />
              <b>
                {chosen === type && '✓ '}
                {capital(SHAPER_TITLES[type])}, {short(hz, 1)} Hz
              </b>
              <span className="text-sm">
                up to {safely(most)} mm/s²{proposed === type && ', proposed'}
              </span>
              <span className="text-sm">{safely(moved)} if a tenth off</span>
            </label>
          );
        })}
        <div className="grid content-start p-2 leading-tight">
          <Drawn cut={0} ghost={limits.echo * (acceleration / plain)} {...seen} />
          <b>Without a shaper</b>
          <span className="text-sm">up to {safely(plain)} mm/s²</span>
        </div>
      </div>
      <p className="soft mt-2">
        A corner at {safely(acceleration)} mm/s² and {SPEED} mm/s, seen from above; what is off is
        drawn {LARGER} times as large.
      </p>
    </fieldset>
  );
}

/** The wall of a print around its corner. */
function Drawn(corner: Parameters<typeof cornerLine>[0]) {
  const line = cornerLine(corner, REACH, LARGER)
    .map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${x.toFixed(3)} ${(-y).toFixed(3)}`)
    .join('');
  const size = REACH + 2 * AIR;
  return (
    <svg
      viewBox={`${-AIR} ${-AIR} ${REACH + AIR} ${0.52 * size}`}
      className="mb-1 w-full"
      aria-hidden
    >
      <path d={`${line}V${size}H0Z`} className="fill-secondary" opacity={0.55} />
      <path
        d={`M0 ${size}V0H${REACH}`}
        className="stroke-neutral"
        fill="none"
        strokeWidth={0.12}
        strokeDasharray="0.5 0.4"
      />
      <path d={line} className="stroke-base-content" fill="none" strokeWidth={0.32} />
    </svg>
  );
}
