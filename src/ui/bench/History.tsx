'use client';
// Every value that stood on this bench, newest first; the newest can be taken back.
import Link from 'next/link';
import { ActButton, type Outcome } from '../common/ActButton';
import { age } from '../common/format';

export type HistoryRow = {
  id: number;
  title: string;
  /** The value with its unit, or the word of a choice. */
  said: string;
  /** Its range, in words. */
  between: string;
  foundAt: string;
  /** Other values that it was found with, in words. */
  standsOn: string[];
  current: boolean;
  ladderId: number | null;
  simulated: boolean;
};

type Props = {
  rows: readonly HistoryRow[];
  nowMs: number;
  takeBack: (id: number) => Promise<Outcome>;
};

export function History({ rows, nowMs, takeBack }: Props) {
  if (rows.length === 0) return null;
  return (
    <section className="rule-above">
      <h2>Values and their history</h2>
      <div
        className="overflow-x-auto"
        tabIndex={0}
        role="region"
        aria-label="Values and their history"
      >
        <table className="table-sm table">
          <thead>
            <tr>
              <th>Value</th>
              <th>Setting</th>
              <th>Most likely between</th>
              <th>Found</th>
              <th>
                <span className="sr-only">Undo</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map(
              ({ id, title, said, between, foundAt, standsOn, current, ladderId, simulated }) => (
                <tr key={id} className={current ? 'font-semibold' : 'text-neutral'}>
                  <td>{said}</td>
                  <td>
                    {title}
                    {simulated && ' (simulated)'}
                    {standsOn.length > 0 && (
                      <span className="soft block font-normal">with {standsOn.join(', ')}</span>
                    )}
                  </td>
                  <td>{between}</td>
                  <td>
                    {ladderId ? (
                      <Link className="underline" href={`/ladder/${ladderId}/finding`}>
                        {age(foundAt, nowMs)}
                      </Link>
                    ) : (
                      age(foundAt, nowMs)
                    )}
                  </td>
                  <td className="text-right">
                    {current ? (
                      <ActButton
                        className="btn btn-ghost btn-sm font-normal"
                        label={`Undo ${said} of ${title}${simulated ? ', simulated' : ''}`}
                        act={() => takeBack(id)}
                      >
                        Undo
                      </ActButton>
                    ) : (
                      'before'
                    )}
                  </td>
                </tr>
              ),
            )}
          </tbody>
        </table>
      </div>
    </section>
  );
}
