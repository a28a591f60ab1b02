// What is known of a plane, drawn over the plastic it speaks of: lines of equal goodness, the region, the best.
import type { Plane } from '@/core/reading/finding';
import { contoursOf, type Placed } from '@/core/view/contours';

type Props = { plane: Plane; placed: Placed; height: number; width: number };

/** Half a side of the cross at the best, and of one place of the region, mm. */
const CROSS = 2.2;
const path = (ring: readonly (readonly [number, number])[], height: number): string =>
  ring
    .map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${x.toFixed(2)} ${(height - y).toFixed(2)}`)
    .join('');

export function PlaneOver({ plane, placed, height, width }: Props) {
  const { x, y, upIsA } = placed;
  const wide = width + 2;
  const at = ([of, over]: readonly [number, number]): [number, number] =>
    upIsA ? [x(over), y(of)] : [x(of), y(over)];
  const [best] = [at(plane.best)];
  const ridge = plane.slices[upIsA ? 'b' : 'a'].map(({ at: over, best: of }) =>
    at(upIsA ? [over, of] : [of, over]),
  );
  const lines = contoursOf(plane, placed);
  const [stepX, stepY] = stepsOf(plane, at);
  return (
    <div className="relative h-full">
      <svg
        viewBox={`0 0 ${wide} ${height}`}
        preserveAspectRatio="none"
        className="h-full w-full overflow-hidden"
        role="img"
        aria-label="Lines of equal goodness, the best, and the region in which it lies in 8 of 10 cases"
      >
        {plane.region.map((place) => {
          const [px, py] = at(place);
          return (
            <rect
              key={place.join()}
              x={px - stepX / 2}
              y={height - py - stepY / 2}
              width={stepX}
              height={stepY}
              className="fill-primary"
              opacity={0.45}
            />
          );
        })}
        {lines.map(({ score, pieces }) => (
          <g key={score} fill="none" strokeLinejoin="round">
            {pieces.map((ring, i) => (
              <g key={i}>
                <path
                  d={path(ring, height)}
                  className="stroke-base-100"
                  strokeWidth={3}
                  vectorEffect="non-scaling-stroke"
                  opacity={0.75}
                />
                <path
                  d={path(ring, height)}
                  className="stroke-base-content"
                  strokeWidth={1.3}
                  vectorEffect="non-scaling-stroke"
                />
              </g>
            ))}
          </g>
        ))}
        <path
          d={path(ridge, height)}
          fill="none"
          className="stroke-primary"
          strokeWidth={2}
          strokeDasharray="5 4"
          vectorEffect="non-scaling-stroke"
        />
        {(['stroke-base-100', 'stroke-primary'] as const).map((colour, i) => (
          <path
            key={colour}
            d={`M${best[0] - CROSS} ${height - best[1]}h${2 * CROSS}M${best[0]} ${height - best[1] - CROSS}v${2 * CROSS}`}
            className={colour}
            strokeWidth={i === 0 ? 7 : 4}
            strokeLinecap="round"
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </svg>
      {lines.map(({ score, pieces }) => {
        const run = pieces.reduce((one, other) => (other.length > one.length ? other : one));
        const [px, py] = run[Math.floor(run.length / 2)]!;
        return (
          <span
            key={score}
            aria-hidden
            className="bg-base-100 text-base-content absolute -translate-x-1/2 translate-y-1/2 rounded-sm px-0.5 text-[13px] leading-none font-semibold"
            style={{ left: `${(100 * px) / wide}%`, bottom: `${(100 * py) / height}%` }}
          >
            {score}
          </span>
        );
      })}
    </div>
  );
}

/** Width and height of one point of the plane on the drawing, mm. */
function stepsOf({ a, b }: Plane, at: (place: [number, number]) => [number, number]) {
  const [p, q] = [at([a[0]!, b[0]!]), at([a[1] ?? a[0]!, b[1] ?? b[0]!])];
  return [Math.abs(q[0] - p[0]), Math.abs(q[1] - p[1])] as const;
}
