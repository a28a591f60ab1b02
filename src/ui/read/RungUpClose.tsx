'use client';
// The picture of one rung, as tall as an eye needs; what is wider than its room is moved to where the criterion is looked at.
import { useLayoutEffect, useRef } from 'react';
import type { Rung } from '@/core/plan/plan';
import { RungStrip } from './RungStrip';

/** Least height at which threads and layers are seen, px. */
const TALL = 120;

type Props = {
  picture: string;
  rung: Rung;
  height: number;
  width: number;
  /** Of a cell: its ends across the picture, mm. */
  across?: { from: number; to: number } | undefined;
  /** Where the criterion is looked at, as a share of the width that is shown. */
  spot: number;
};

export function RungUpClose({ picture, rung, height, width, across, spot }: Props) {
  const box = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    const one = box.current!;
    one.scrollLeft = spot * one.scrollWidth - one.clientWidth / 2;
  }, [spot, rung.index]);
  const wide = across ? across.to - across.from : width + 2;
  const least = (TALL * wide) / (rung.z.to - rung.z.from);
  return (
    <div
      ref={box}
      className="overflow-x-auto rounded [scrollbar-width:thin]"
      tabIndex={0}
      role="region"
      aria-label="The rung up close"
    >
      <div style={{ width: `max(100%, ${Math.round(least)}px)` }}>
        <RungStrip picture={picture} rung={rung} height={height} width={width} across={across} />
      </div>
    </div>
  );
}
