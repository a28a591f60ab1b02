'use client';
// How warm the nozzle is while something prints, and was until it ended.
import { useEffect, useState } from 'react';
import type { HeatRow } from '@/core/link-state';
import { HeatCurve } from './HeatCurve';

/** How often it is looked at while something prints, ms. */
const EVERY_MS = 3000;

type Props = { machine: number; running: boolean };

export function HeatChart({ machine, running }: Props) {
  const [rows, setRows] = useState<HeatRow[]>([]);
  useEffect(() => {
    const look = async () => {
      const answer = await fetch(`/machines/${machine}/heat`, { cache: 'no-store' }).catch(
        () => null,
      );
      if (answer?.ok) setRows((await answer.json()) as HeatRow[]);
    };
    void look();
    if (!running) return;
    const timer = setInterval(() => void look(), EVERY_MS);
    return () => clearInterval(timer);
  }, [machine, running]);
  return <HeatCurve rows={rows} />;
}
