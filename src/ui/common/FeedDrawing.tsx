// A file that prints nothing but feeds: filament, its mark and a ruler, before it and after it.
import type { LadderKind } from '@/core/ladders/types';
import { short } from '@/core/numbers';

type Props = {
  /** How far above the extruder the filament is marked, and how much of it is fed, mm. */
  mark: number;
  length: number;
  className?: string;
};

/** What the inputs of a kind that feeds say. */
export const fedIn = (
  { mark, length }: NonNullable<LadderKind['feeds']>,
  spec: object,
): Pick<Props, 'mark' | 'length'> => {
  const of = spec as Record<string, number>;
  return { mark: of[mark]!, length: of[length]! };
};

/** Sizes of the drawing, mm: above the mark, of the extruder under it, and across. */
const [OVER, EXTRUDER, ACROSS] = [18, 46, 210];
/** Middles of the two strands, and where the ruler stands. */
const [BEFORE, AFTER, RULER] = [62, 142, 24];

export function FeedDrawing({ mark, length, className = '' }: Props) {
  const top = mark + OVER;
  const y = (mm: number): number => top - mm;
  const left = mark - length;
  const ticks = Array.from({ length: Math.floor(top / 10) + 1 }, (_, i) => i * 10);
  return (
    <svg
      viewBox={`0 0 ${ACROSS} ${top + EXTRUDER}`}
      className={className}
      style={{ width: `min(42rem, var(--room), calc(var(--tall) * ${ACROSS / (top + EXTRUDER)}))` }}
      fontSize={7}
      role="img"
      aria-label={`The filament is marked ${short(mark)} mm above the extruder; ${short(length)} mm are fed; what is left to the mark is measured`}
    >
      <g className="stroke-neutral fill-neutral" strokeWidth={0.5}>
        {ticks.map((mm) => (
          <g key={mm}>
            <path d={`M${RULER} ${y(mm)}h${mm % 50 === 0 ? 8 : 4}`} />
            {mm % 50 === 0 && (
              <text x={RULER - 3} y={y(mm) + 2.4} textAnchor="end" stroke="none">
                {mm}
              </text>
            )}
          </g>
        ))}
        <path d={`M${RULER} ${y(0)}V0`} />
      </g>
      <path
        d={`M${RULER} ${y(0)}H${AFTER + 22}`}
        className="stroke-neutral"
        strokeWidth={0.6}
        strokeDasharray="2 2"
      />
      {[
        { x: BEFORE, at: mark, said: 'before' },
        { x: AFTER, at: left, said: 'after' },
      ].map(({ x, at, said }) => (
        <g key={said}>
          <rect x={x - 3} width={6} height={top + 34} className="fill-secondary" />
          <Extruder x={x} y={top} />
          <rect
            x={x - 7}
            y={y(at) - 1.6}
            width={14}
            height={3.2}
            rx={1}
            className="fill-base-content"
          />
          <text x={x} y={top + 44.5} textAnchor="middle" className="fill-neutral">
            {said}
          </text>
        </g>
      ))}
      <path
        d={`M${BEFORE + 9} ${y(mark)}H${AFTER + 16}`}
        className="stroke-neutral"
        strokeWidth={0.6}
        strokeDasharray="2 2"
      />
      <text x={BEFORE + 11} y={y(mark) - 3} className="fill-base-content">
        mark
      </text>
      <Span x={AFTER + 13} from={y(mark)} to={y(left)} className="stroke-neutral" />
      <text x={AFTER + 18} y={(y(mark) + y(left)) / 2} className="fill-neutral">
        <tspan x={AFTER + 18}>about {short(length)} mm</tspan>
        <tspan x={AFTER + 18} dy={9}>
          are fed
        </tspan>
      </text>
      <Span x={AFTER + 13} from={y(left)} to={y(0)} className="stroke-primary" />
      <text x={AFTER + 18} y={(y(left) + y(0)) / 2 - 2} className="fill-primary" fontWeight={700}>
        <tspan x={AFTER + 18}>measure</tspan>
        <tspan x={AFTER + 18} dy={9}>
          this
        </tspan>
      </text>
    </svg>
  );
}

/** A gear and its roller, with what is around them. */
function Extruder({ x, y }: { x: number; y: number }) {
  return (
    <g>
      <path
        d={`M${x - 20} ${y}h40v24h-12l-4 8h-8l-4-8h-12z`}
        className="fill-base-200 stroke-neutral"
        strokeWidth={0.8}
      />
      <rect x={x - 3} y={y} width={6} height={34} className="fill-secondary" />
      <circle
        cx={x - 10.5}
        cy={y + 12}
        r={7.5}
        className="fill-base-100 stroke-neutral"
        strokeWidth={1.6}
        strokeDasharray="1.6 1"
      />
      <circle
        cx={x + 9}
        cy={y + 12}
        r={5.5}
        className="fill-base-100 stroke-neutral"
        strokeWidth={0.8}
      />
    </g>
  );
}

/** How far it is from one height to another. */
const Span = ({
  x,
  from,
  to,
  className,
}: {
  x: number;
  from: number;
  to: number;
  className: string;
}) => (
  <path
    d={`M${x - 2.5} ${from}h5M${x} ${from}V${to}M${x - 2.5} ${to}h5`}
    className={className}
    strokeWidth={1.2}
    fill="none"
  />
);
