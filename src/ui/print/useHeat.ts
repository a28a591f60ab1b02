'use client';
// How warm a machine was in the course of its print, looked at again while it prints.
import { useEffect, useState } from 'react';
import type { HeatRow } from '@/core/link-state';

/** How often it is looked at while something prints, ms. */
const EVERY_MS = 3000;

export function useHeat(machine: number, running: boolean): HeatRow[] {
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
  return rows;
}
