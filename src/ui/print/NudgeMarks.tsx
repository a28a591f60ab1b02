// Where nudges took effect, on a drawing from above.
import { signed } from '@/core/numbers';
import type { Nudge } from '@/core/plan/nudged';

export type Frame = { minX: number; minY: number; maxX: number; maxY: number };

export function NudgeMarks({ nudges, frame }: { nudges: readonly Nudge[]; frame: Frame }) {
  const share = (value: number, from: number, to: number) =>
    `${(100 * Math.min(to - from, Math.max(0, value - from))) / (to - from)}%`;
  return nudges.map(({ x, y, mm, line, total }) =>
    x === null || y === null ? null : (
      <span
        key={`${line} ${total}`}
        className="bg-secondary text-secondary-content absolute -translate-x-full translate-y-1/2 rounded px-1 text-[13px] leading-tight font-semibold whitespace-nowrap"
        style={{ left: share(x, frame.minX, frame.maxX), bottom: share(y, frame.minY, frame.maxY) }}
      >
        {signed(mm)}
      </span>
    ),
  );
}
