// Into the ledger in one act, whether one value was found or two that go together; and what is in it now.
import Link from 'next/link';
import { useState } from 'react';
import { short } from '@/core/numbers';
import { isKept, settingInfo, type Setting } from '@/core/bench/settings';
import type { Proposal } from '@/core/reading/finding';
import type { Answer } from '@/core/result';
import { InMachine } from '../bench/InMachine';
import { ActButton, type Outcome } from '../common/ActButton';
import { TypedValue } from './TypedValue';

/** What the ledger holds of a setting. */
export type InLedger = {
  id: number;
  value: number;
  ofThis: boolean;
  simulated: boolean;
  inMachine: boolean;
};
export type Carried = { lines: string[]; say: string };

type Props = {
  values: readonly Proposal[];
  /** For each value what the ledger has, and how it gets to the machine. */
  entries: readonly (InLedger | undefined)[];
  carry: readonly (Carried | null)[];
  simulated: boolean;
  /** What the button says, where that is not the usual. */
  save?: string;
  /** Says whether a value is in the machine itself now. */
  carryIt: (id: number, carried: boolean) => Promise<Outcome>;
  put: (typed?: number, of?: Setting) => Promise<Answer<number>>;
  takeBack: (id: number) => Promise<Outcome>;
  /** What comes next on the bench, once this is saved. */
  after: { title: string; href: string } | null;
};

export function Ledgering(props: Props) {
  const { values, entries, carry, simulated, carryIt, put, takeBack } = props;
  const [justPut, setJustPut] = useState(false);
  const found = values.flatMap((one, i) =>
    one.value === null ? [] : [{ ...one, entry: entries[i], carried: carry[i] ?? null }],
  );
  const stands = found.every(({ entry, value }) => entry?.ofThis && entry.value === value);
  const many = found.length > 1;
  const one = many ? 'These values are' : 'This value is';
  const save = props.save ?? (many ? 'Save both to ledger' : 'Save to ledger');
  return (
    <div className="mt-4">
      {stands ? (
        <div role="status">
          <p className="font-semibold">
            {justPut ? 'Saved to the ledger' : `${one} in the ledger`}
            {simulated && ', as simulated'}.
          </p>
          {found.map(({ setting, carried, entry }) => (
            <div key={setting}>
              {carried?.lines.map((line) => (
                <code key={line} className="bg-base-200 mt-2 block rounded px-3 py-2 font-mono">
                  {line}
                </code>
              ))}
              <p className="soft my-2">{carried?.say}</p>
              {!simulated && isKept(setting) && (
                <InMachine
                  carried={entry!.inMachine}
                  carry={(carriedNow) => carryIt(entry!.id, carriedNow)}
                />
              )}
            </div>
          ))}
          <p className="flex flex-wrap gap-2">
            {props.after && (
              <Link className="btn-main" href={props.after.href}>
                {props.after.title}
              </Link>
            )}
            <ActButton act={() => takeBack(found[0]!.entry!.id)}>Undo</ActButton>
          </p>
        </div>
      ) : (
        <ActButton
          className="btn-main"
          act={async () => {
            const answer = await put();
            setJustPut(answer.ok);
            return answer;
          }}
        >
          {simulated ? `${save}, as simulated` : save}
        </ActButton>
      )}
      {found.map(({ setting }) => (
        <TypedValue
          key={setting}
          title={settingInfo(setting).title}
          unit={settingInfo(setting).unit}
          named={many}
          put={async (value) => put(value, setting)}
        />
      ))}
      {found.map(
        ({ setting, entry, value }) =>
          entry &&
          !(entry.ofThis && entry.value === value) && (
            <p key={setting} className="soft mt-2">
              The ledger has {short(entry.value)} {settingInfo(setting).unit} now
              {entry.simulated && ' (simulated)'}; that moves to the history.
            </p>
          ),
      )}
    </div>
  );
}
