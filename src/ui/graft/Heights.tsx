'use client';
// Heights typed instead of dragged: all alike, or each of its own.
import { useState } from 'react';
import type { Opened } from '@/core/graft/workbench';
import { heightsOf } from '@/core/graft/wishes';
import { MOST_STEPS } from '@/core/plan/limits';
import { short, tidy } from '@/core/numbers';
import { NumberBox } from '../common/NumberBox';
import type { Draft } from './draft';

type Props = {
  draft: Draft;
  heights: readonly number[];
  opened: Opened;
  onChange: (patch: Partial<Draft>) => void;
};

export function Heights({ draft, heights, opened, onChange }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  if (draft.mode === 'table') return null;
  const base = heights[0] ?? 0;
  const section =
    heights.length > 1
      ? tidy(Number(((heights.at(-1)! - base) / (heights.length - 1)).toFixed(3)))
      : tidy(opened.height - base);
  const all = (patch: Partial<{ base: number; section: number; count: number }>) => {
    const next = { base, section, count: heights.length, ...patch };
    const count = Math.min(MOST_STEPS, Math.max(1, Math.round(next.count)));
    if (!(next.section > 0)) return;
    setTyped(null);
    onChange({ heights: heightsOf({ ...next, count }), candidate: null });
  };
  const list = typed ?? heights.map((one) => short(one, 3)).join(', ');
  return (
    <section className="rule-above" aria-label="Heights">
      <h2>Heights of the sections</h2>
      <div className="flex flex-wrap gap-3">
        {(
          [
            ['Base', 'base', base, 'mm'],
            ['Each section', 'section', section, 'mm'],
            ['Sections', 'count', heights.length, ''],
          ] as const
        ).map(([label, key, value, unit]) => (
          <label key={key} className="w-28">
            <span className="soft mb-1 block">
              {label}
              {unit && `, ${unit}`}
            </span>
            <NumberBox
              label={label}
              unit={unit}
              value={value}
              step={key === 'count' ? 1 : 0.2}
              min={key === 'base' ? 0 : 0.2}
              className="input w-full"
              onChange={(next) => all({ [key]: next })}
            />
          </label>
        ))}
        <label className="min-w-0 flex-1 basis-60">
          <span className="soft mb-1 block">Or each where it begins, mm</span>
          <input
            className="input w-full"
            aria-label="Where each section begins, mm"
            inputMode="decimal"
            autoComplete="off"
            value={list}
            onChange={({ target }) => {
              setTyped(target.value);
              const read = target.value
                .split(/[,;\s]+/)
                .filter(Boolean)
                .map(Number);
              const rises = read.every(
                (one, i) => Number.isFinite(one) && one >= 0 && (i === 0 || one > read[i - 1]!),
              );
              if (read.length > 0 && read.length <= MOST_STEPS && rises)
                onChange({ heights: read, candidate: null });
            }}
            onBlur={() => setTyped(null)}
          />
        </label>
      </div>
    </section>
  );
}
