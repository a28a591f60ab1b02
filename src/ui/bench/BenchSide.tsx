'use client';
// The one thing to do next, and the ways to carry values to the machine.
import Link from 'next/link';
import { useState } from 'react';
import { ActButton, type Outcome } from '../common/ActButton';
import { InMachine } from './InMachine';
import { Price } from './Price';
import { GO_ON, type Rung } from './rungs';

type Props = {
  next: Rung | null;
  bench: number;
  /** Changes with the bench. */
  stamp: string;
  carried: {
    id: number;
    setting: string;
    simulated: boolean;
    lines: string[];
    say: string;
    /** Whether it is in the machine itself; null where that is never asked. */
    inMachine: boolean | null;
  }[];
  carry: (id: number, carried: boolean) => Promise<Outcome>;
  setUp: (kind: string) => Promise<Outcome>;
};

export function BenchSide({ next, bench, stamp, carried, carry, setUp }: Props) {
  const [shown, setShown] = useState(false);
  const under = next?.underway;
  return (
    // On a phone what to do next comes before the route, the rest after it.
    <aside className="max-lg:contents">
      <section className="max-lg:order-first">
        <h2>Next</h2>
        {next && under ? (
          <>
            <p className="text-3xl leading-tight font-semibold">{GO_ON[under.state].label}</p>
            <p className="mt-2 mb-4">
              A ladder for {next.title.toLowerCase()} {GO_ON[under.state].says}
            </p>
            <Link
              className="btn-main"
              href={`/ladder/${under.ladder}/${GO_ON[under.state].screen}`}
            >
              {GO_ON[under.state].label}
            </Link>
          </>
        ) : next ? (
          <>
            <p className="text-3xl leading-tight font-semibold">
              {next.state === 'stale' ? `${next.title} again` : next.title}
            </p>
            <p className="mt-2 mb-4">
              {next.state === 'stale' ? `Since it was found, ${next.reasons.join(', ')}. ` : ''}
              {next.decides}
            </p>
            <p className="flex flex-wrap items-center gap-x-3 gap-y-1">
              <ActButton className="btn-main" act={() => setUp(next.kind)}>
                Set up this ladder
              </ActButton>
              <Price bench={bench} kind={next.kind} stamp={stamp} />
            </p>
          </>
        ) : (
          <>
            <p className="text-3xl leading-tight font-semibold">Everything is tuned</p>
            <p className="mt-2">
              Go and print. When the spool, nozzle or machine changes, this page says what to find
              again.
            </p>
          </>
        )}
      </section>

      <section className="rule-above">
        <h2>Carry to the machine</h2>
        {carried.length === 0 ? (
          <p className="soft">
            Values that you find appear here, with the line or setting that carries them over.
          </p>
        ) : shown ? (
          carried.map(({ id, setting, simulated, lines, say, inMachine }) => (
            <div key={`${setting} ${simulated}`} className="mb-3">
              {simulated && (
                <p className="text-sm font-semibold">Simulated: from no real machine</p>
              )}
              {lines.map((line) => (
                <code
                  key={line}
                  className="bg-base-200 block overflow-x-auto rounded px-2 py-1 font-mono whitespace-pre"
                  tabIndex={0}
                >
                  {line}
                </code>
              ))}
              <p className="soft mt-1">{say}</p>
              {inMachine !== null && (
                <InMachine carried={inMachine} carry={(now) => carry(id, now)} />
              )}
            </div>
          ))
        ) : (
          <button type="button" className="btn-quiet" onClick={() => setShown(true)}>
            Show the lines
          </button>
        )}
      </section>
    </aside>
  );
}
