'use client';
// The one thing to do next, and the ways to carry values to the machine.
import Link from 'next/link';
import { useState } from 'react';
import type { Stop } from '@/core/route/route';
import { ActButton, type Outcome } from '../common/ActButton';
import { InMachine } from './InMachine';

type Props = {
  next: Stop | null;
  kinds: { kind: string; title: string; reason: string }[];
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
  /** The machine on the wire: its name, and where its page is. */
  machine: { name: string; href: string };
  /** Where the machine is shaken. */
  shake: string;
  setUp: (kind: string) => Promise<Outcome>;
};

const GO_ON = {
  designed: {
    says: 'is set up, ready to print.',
    label: 'Continue designing',
    screen: 'design',
  },
  printed: { says: 'is printed and waiting to be scored.', label: 'Score it', screen: 'read' },
  reading: { says: 'is partly scored.', label: 'Continue scoring', screen: 'read' },
  read: {
    says: 'is scored; its value is ready to save.',
    label: 'See the finding',
    screen: 'finding',
  },
} as const;

export function BenchSide({ next, kinds, carried, carry, machine, shake, setUp }: Props) {
  const [shown, setShown] = useState(false);
  const about = kinds.find(({ kind }) => kind === next?.kind);
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
              {about?.reason}
            </p>
            <ActButton className="btn-main" act={() => setUp(next.kind)}>
              Set up this ladder
            </ActButton>
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
        <h2>Another ladder</h2>
        <div className="flex flex-wrap gap-1.5">
          {kinds.map(({ kind, title }) => (
            <ActButton
              key={kind}
              className="btn-quiet btn-sm"
              label={`New ${title.toLowerCase()} ladder`}
              act={() => setUp(kind)}
            >
              {title}
            </ActButton>
          ))}
        </div>
      </section>

      <section className="rule-above">
        <h2>Shake</h2>
        <p className="soft mb-2">
          An accelerometer tells what rings, the input shaper that calms it, and how hard the
          machine may be driven.
        </p>
        <Link className="btn-quiet" href={shake}>
          Shake {machine.name}
        </Link>
      </section>

      <section className="rule-above">
        <h2>Carry to the machine</h2>
        <p className="mb-3">
          <Link className="btn-quiet" href={machine.href}>
            {machine.name} on the wire
          </Link>
        </p>
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
