'use client';
// What is set in the sections: one setting over a range, several by a table, or one that climbs with every layer.
import type { Bench } from '@/core/bench/bench';
import { settingInfo } from '@/core/bench/settings';
import type { Opened } from '@/core/graft/workbench';
import type { Climbs } from '@/core/graft/recipe';
import { tableText } from '@/core/graft/wishes';
import { WAY_WORDS } from '@/core/graft/ways';
import { short, tidy } from '@/core/numbers';
import type { Way } from '@/core/plan/plan';
import { NumberBox } from '../common/NumberBox';
import { rangeOf, valuesOf, type Draft, type Mode } from './draft';

type Props = {
  draft: Draft;
  opened: Opened;
  bench: Bench;
  count: number;
  onChange: (patch: Partial<Draft>) => void;
};

const MODES: Record<Mode, string> = {
  range: 'One setting',
  slope: 'Climbing with every layer',
  table: 'Several, by a table',
};

export function WhatClimbs({ draft, opened, bench, count, onChange }: Props) {
  const { mode, setting } = draft;
  const offered = opened.offered.find((one) => one.setting === setting) ?? opened.offered[0];
  if (!offered) return null;
  const { unit, resolution } = settingInfo(setting);
  const steps = Math.max(1, count - 1);
  const step = tidy(Math.abs(draft.to - draft.from) / steps);
  const way = draft.ways[setting] ?? offered.ways[0]!;
  const box = { unit, grows: true, className: 'input-in-text', step: resolution };
  const ends = offered.ends;
  return (
    <div className="mt-4">
      <div role="radiogroup" aria-label="What is set" className="mb-2 flex flex-wrap gap-x-4">
        {(Object.keys(MODES) as Mode[]).map((one) => (
          <label key={one} className="flex min-h-8 items-center gap-2">
            <input
              type="radio"
              name="mode"
              className="radio radio-sm"
              checked={mode === one}
              onChange={() => onChange(toMode(one, draft, opened, bench, count))}
            />
            {MODES[one]}
          </label>
        ))}
      </div>
      {mode === 'table' ? (
        <Table draft={draft} onChange={onChange} />
      ) : (
        <div className="text-xl leading-[1.75] lg:text-2xl lg:leading-[1.75]">
          Set{' '}
          <select
            aria-label="Setting"
            className="input-in-text max-w-full"
            value={setting}
            onChange={({ target }) => {
              const next = target.value as Climbs;
              onChange({ setting: next, ...rangeOf(next, bench, count) });
            }}
          >
            {opened.offered
              .filter((one) => mode !== 'slope' || one.ways.includes('command'))
              .map((one) => (
                <option key={one.setting} value={one.setting}>
                  {settingInfo(one.setting).title}
                </option>
              ))}
          </select>{' '}
          from{' '}
          <NumberBox
            key={`from ${setting}`}
            label="At the bottom"
            value={draft.from}
            onChange={(from) => onChange({ from })}
            {...ends}
            {...box}
          />{' '}
          {unit} at the bottom{' '}
          {mode === 'slope' ? (
            <>
              on, by{' '}
              <NumberBox
                label="For every mm of height"
                value={draft.perMm}
                onChange={(perMm) => onChange({ perMm })}
                {...box}
                step={resolution}
              />{' '}
              {unit} for every mm of height.
            </>
          ) : (
            <>
              to{' '}
              <NumberBox
                key={`to ${setting}`}
                label="At the top"
                value={draft.to}
                onChange={(to) => onChange({ to })}
                {...ends}
                {...box}
              />{' '}
              {unit} in steps of{' '}
              <NumberBox
                key={`step ${setting}`}
                label="Step"
                value={step}
                onChange={(next) =>
                  next > 0 &&
                  onChange({
                    to: tidy(draft.from + (draft.to < draft.from ? -1 : 1) * next * steps),
                  })
                }
                {...box}
              />
              {unit ? ` ${unit}` : ''}.
            </>
          )}
        </div>
      )}
      {mode !== 'table' && (
        <p className="soft mt-1">
          Set {WAY_WORDS[way]}
          {offered.ways.length > 1 && (
            <>
              {' · '}
              <button
                type="button"
                className="link"
                onClick={() =>
                  onChange({
                    ways: {
                      ...draft.ways,
                      [setting]: offered.ways.find((one) => one !== way) as Way,
                    },
                  })
                }
              >
                {WAY_WORDS[offered.ways.find((one) => one !== way)!]} instead
              </button>
            </>
          )}
          {mode === 'range' &&
            `: ${valuesOf(draft, count)
              .map((one) => short(one, 4))
              .join(', ')} ${unit}`}
        </p>
      )}
    </div>
  );
}

/** The other way to say the same, as far as it can. */
function toMode(
  mode: Mode,
  draft: Draft,
  opened: Opened,
  bench: Bench,
  count: number,
): Partial<Draft> {
  if (mode === 'table') {
    const values = valuesOf(draft, draft.heights.length);
    const rows = draft.heights.map((from, i) => ({ from, set: { [draft.setting]: values[i]! } }));
    return { mode, table: draft.table || tableText(rows) };
  }
  const commanded = opened.offered.filter(({ ways }) => ways.includes('command'));
  if (mode === 'slope' && !commanded.some((one) => one.setting === draft.setting)) {
    const setting = commanded.find((one) => one.setting === 'advance')?.setting ?? 'nozzle';
    return { mode, setting, ...rangeOf(setting, bench, count) };
  }
  return { mode };
}

function Table({ draft, onChange }: Pick<Props, 'draft' | 'onChange'>) {
  return (
    <div>
      <label>
        <span className="soft mb-1 block">
          One row a section: the height from which it holds, then a column for each setting. Paste
          one from a spreadsheet, or type it.
        </span>
        <textarea
          className="textarea h-44 w-full font-mono text-sm"
          aria-label="Table"
          spellCheck={false}
          value={draft.table}
          onChange={({ target }) => onChange({ table: target.value })}
        />
      </label>
      <div className="mt-2 flex flex-wrap gap-2">
        <label className="btn-quiet btn-sm">
          Open a CSV
          <input
            type="file"
            accept=".csv,text/csv,text/plain"
            className="sr-only"
            onChange={({ target }) => {
              void target.files?.[0]?.text().then((table) => onChange({ table }));
              target.value = '';
            }}
          />
        </label>
        <a
          className="btn-quiet btn-sm"
          download="sections.csv"
          href={`data:text/csv;charset=utf-8,${encodeURIComponent(draft.table)}`}
        >
          Save as CSV
        </a>
      </div>
    </div>
  );
}
