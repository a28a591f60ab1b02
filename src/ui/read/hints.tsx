// Small drawings of our own: what a poor and a clean rung look like, one pair a criterion.
import type { ReactNode } from 'react';
import { CRITERIA, type Criterion } from '@/core/criteria';

const body = 'fill-secondary';
const ink = 'stroke-base-content';
const posts = (
  <>
    <rect x={6} y={6} width={12} height={36} className={body} />
    <rect x={46} y={6} width={12} height={36} className={body} />
  </>
);
const layers = (wobble: number) => (
  <g>
    {[8, 15, 22, 29, 36].map((y, i) => (
      <rect
        key={y}
        x={10 + (i % 2) * wobble}
        y={y}
        width={44 - (i % 3) * wobble}
        height={6}
        rx={3}
        className={body}
      />
    ))}
  </g>
);

/** A bead from above along a path, with its width. */
const bead = (d: string, width: number) => (
  <path
    d={d}
    className="stroke-secondary"
    strokeWidth={width}
    strokeLinejoin="miter"
    strokeLinecap="butt"
    fill="none"
  />
);
/** Lines of a patch side by side, with light between them or without. */
const lines = (width: number) => (
  <>
    {[8, 16, 24, 32, 40].map((y) => (
      <g key={y}>{bead(`M6 ${y}H58`, width)}</g>
    ))}
  </>
);

/** A poor and a clean drawing for each criterion. */
export const HINTS: Record<Criterion, { poor: ReactNode; clean: ReactNode }> = {
  corners: {
    poor: (
      <>
        {bead('M8 40V12H56', 8)}
        <circle cx={9} cy={13} r={9} className={body} />
        <path
          d="M24 12H56"
          className="stroke-base-100"
          strokeWidth={2}
          transform="translate(0 3.4)"
        />
      </>
    ),
    clean: bead('M8 40V12H56', 8),
  },
  evenness: {
    poor: (
      <>
        <path
          d="M4 21H22L26 22.5H38L42 17H48L52 21H60V27H52L48 31H42L38 25.5H26L22 27H4Z"
          className={body}
        />
        <path d="M24 6v6M42 6v6M24 36v6M42 36v6" className={ink} strokeWidth={1.5} />
      </>
    ),
    clean: (
      <>
        {bead('M4 24H60', 6)}
        <path d="M24 6v6M42 6v6M24 36v6M42 36v6" className={ink} strokeWidth={1.5} />
      </>
    ),
  },
  gaps: { poor: lines(4), clean: lines(8.4) },
  ridges: {
    poor: <path d="M4 34V22q5-12 10 0t10-1 10 2 10-4 10 1 6 2V34z" className={body} />,
    clean: <rect x={4} y={19} width={56} height={15} className={body} />,
  },
  ringing: {
    poor: (
      <>
        <path d="M6 6h52v36H6z" className={body} />
        <path
          d="M15 6v36M24 6v36M33 6v36M42 6v36"
          className="stroke-base-content"
          strokeWidth={1.6}
          opacity={0.45}
        />
      </>
    ),
    clean: <path d="M6 6h52v36H6z" className={body} />,
  },
  seam: {
    poor: (
      <>
        <rect x={14} y={4} width={40} height={40} className={body} />
        {[8, 15, 22, 29, 36, 42].map((y, i) => (
          <circle key={y} cx={14 - (i % 2)} cy={y} r={3.6} className={body} />
        ))}
      </>
    ),
    clean: <rect x={14} y={4} width={40} height={40} className={body} />,
  },
  'line-up': {
    poor: (
      <>
        {bead('M28 4V23', 5)}
        {bead('M34 25V44', 5)}
      </>
    ),
    clean: (
      <>
        {bead('M32 4V23', 5)}
        {bead('M32 25V44', 5)}
      </>
    ),
  },
  stringing: {
    poor: (
      <>
        {posts}
        <path
          d="M18 14Q32 24 46 15M18 24Q30 34 46 22M18 32Q36 40 46 34"
          className={ink}
          fill="none"
          strokeWidth={1.2}
        />
      </>
    ),
    clean: posts,
  },
  overhang: {
    poor: <path d="M6 6h26l22 14q6 6-2 9-6-6-14 0-10-2-14 13H6z" className={body} />,
    clean: <path d="M6 6h26l24 14-24 22H6z" className={body} />,
  },
  bridging: {
    poor: (
      <>
        {posts}
        <path
          d="M6 8h52M12 12Q32 30 52 12M12 12Q30 21 52 13"
          className="stroke-secondary"
          strokeWidth={3.4}
          fill="none"
        />
      </>
    ),
    clean: (
      <>
        {posts}
        <rect x={6} y={4} width={52} height={8} className={body} />
      </>
    ),
  },
  surface: { poor: layers(4), clean: layers(0) },
  gloss: {
    poor: (
      <>
        <rect x={10} y={6} width={44} height={36} className={body} />
        <path
          d="M10 14h44M10 24h44M10 34h44"
          className="stroke-base-200"
          strokeWidth={5}
          opacity={0.75}
        />
      </>
    ),
    clean: <rect x={10} y={6} width={44} height={36} className={body} />,
  },
  'layer adhesion': {
    poor: (
      <>
        <rect x={24} y={26} width={16} height={16} className={body} />
        <rect x={28} y={4} width={16} height={15} className={body} transform="rotate(16 36 12)" />
        <path d="M18 23l6-3 5 3 6-4 6 4 5-3" className={ink} fill="none" strokeWidth={1.2} />
      </>
    ),
    clean: <path d="M24 42V26q0-14 12-20l10 10q-6 4-6 12v14z" className={body} />,
  },
};

export function Hint({ criterion, side }: { criterion: Criterion; side: 'poor' | 'clean' }) {
  return (
    <svg viewBox="0 0 64 48" className="h-12 w-16 shrink-0" aria-hidden>
      {HINTS[criterion][side]}
    </svg>
  );
}

/** Both, named, for somebody who has not seen either yet. */
export function HintPair({ criterion }: { criterion: Criterion }) {
  return (
    <div className="my-1 grid grid-cols-2 gap-3">
      {(['poor', 'clean'] as const).map((side) => (
        <p key={side} className="soft flex items-center gap-2 text-[13px] leading-tight">
          <Hint criterion={criterion} side={side} />
          <span>
            <b>{side}</b>: {CRITERIA[criterion][side]}
          </span>
        </p>
      ))}
    </div>
  );
}
