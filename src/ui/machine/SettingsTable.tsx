'use client';
// The ledger beside the machine, differences first.
import type { ComparedSetting } from '@/core/bench/compare';
import { addsUp, bareValue } from '@/core/bench/settings';
import { signed } from '@/core/numbers';
import { capital } from '@/core/text';
import { Term } from '../common/Term';
import { ActButton, type Outcome } from '../common/ActButton';

type Props = {
  rows: readonly ComparedSetting[];
  storedRead: boolean;
  apply: (row: ComparedSetting) => Promise<Outcome>;
  /** Null where its settings stand in a file. */
  store: (() => Promise<Outcome>) | null;
  takeOver: (row: ComparedSetting) => Promise<Outcome>;
};

export function SettingsTable({ rows, storedRead, apply, store, takeOver }: Props) {
  return (
    <div className="mt-5" role="table" aria-label="Settings side by side">
      <div role="row" className={`soft ${ROW} border-b max-sm:hidden`}>
        {['Setting', 'Ledger', 'In force', 'Stored', ''].map((title) => (
          <span key={title} role="columnheader">
            {title}
          </span>
        ))}
      </div>
      {rows.map((row) => {
        const { setting, title, unit, ledger, inForce, stored, wants, adds } = row;
        const off = wants === 'apply' ? 'text-primary' : '';
        const unkept =
          wants !== 'nothing' && stored !== null && stored !== (adds ? inForce : ledger);
        return (
          <div
            role="row"
            key={setting}
            className={`${ROW} border-b ${wants === 'nothing' ? '' : 'bg-base-200'}`}
          >
            <div role="rowheader" className="max-sm:col-span-full">
              {capital(title)} <span className="soft whitespace-nowrap">{unit}</span>
              <Term of={setting} brief />
            </div>
            <Cell title="Ledger">
              {ledger === null ? '–' : adds ? `add ${signed(ledger)}` : bareValue(setting, ledger)}
            </Cell>
            <Cell title="In force" className={off}>
              {inForce === null ? '–' : bareValue(setting, inForce)}
            </Cell>
            <Cell title="Stored" className={unkept ? 'text-primary' : ''}>
              {stored !== null
                ? bareValue(setting, stored)
                : store
                  ? storedRead
                    ? '–'
                    : '?'
                  : 'in its file'}
            </Cell>
            <span role="cell" className="justify-self-end max-sm:col-span-full">
              {wants === 'apply' ? (
                <ActButton
                  className="btn-main"
                  needs="start"
                  label={`Apply ${title}`}
                  working="Applying …"
                  act={() => apply(row)}
                >
                  {adds ? 'Add and store' : 'Apply'}
                </ActButton>
              ) : wants === 'store' && store ? (
                <ActButton
                  className="btn-quiet"
                  needs="start"
                  label={`Store ${title}`}
                  working="Storing …"
                  act={store}
                >
                  Store
                </ActButton>
              ) : wants === 'store' ? (
                <span className="soft">differs in its file</span>
              ) : adds ? (
                <span className="soft">added</span>
              ) : addsUp(setting) ? null : ledger === null ? (
                <ActButton
                  className="btn btn-ghost btn-sm font-normal"
                  needs="start"
                  label={`Take ${title} into the ledger`}
                  act={() => takeOver(row)}
                >
                  Take it over
                </ActButton>
              ) : (
                <span className="soft">agrees</span>
              )}
            </span>
          </div>
        );
      })}
    </div>
  );
}

const ROW =
  'border-base-300 grid min-h-13 grid-cols-3 items-center gap-x-3 gap-y-1 px-2 py-2 sm:grid-cols-[minmax(0,1.3fr)_repeat(3,minmax(0,1fr))_7rem]';

function Cell({
  title,
  className = '',
  children,
}: {
  title: string;
  className?: string;
  children: string;
}) {
  return (
    <span role="cell" className={`text-lg font-semibold ${className}`}>
      <span className="soft block font-normal sm:hidden">{title}</span>
      {children}
    </span>
  );
}
