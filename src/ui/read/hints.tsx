// Small drawings of our own: what a poor and a clean rung look like, one pair a criterion.
import type { ReactNode } from 'react';
import type { Criterion } from '@/core/criteria';

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

/** Drawings for the criteria that have one; others are told in words alone. */
export const HINTS: Partial<Record<Criterion, { poor: ReactNode; clean: ReactNode }>> = {
  hairs: {
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
  bridge: {
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
  snap: {
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
  const drawing = HINTS[criterion]?.[side];
  return drawing ? (
    <svg viewBox="0 0 64 48" className="h-12 w-16 shrink-0" aria-hidden>
      {drawing}
    </svg>
  ) : null;
}
