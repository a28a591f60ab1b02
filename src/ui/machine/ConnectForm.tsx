'use client';
// Where the machine is: a cable, the network, or a simulated one that stands ready.
import { useState } from 'react';
import type { Problem } from '@/core/result';
import { attempt, type Outcome } from '../common/attempt';
import { Problems } from '../common/Problems';
import { WireSketch } from '../common/Sketches';

type Props = {
  name: string;
  ports: readonly { path: string; about: string }[];
  standIns: readonly { address: string; name: string; machine: string }[];
  /** Where it was last. */
  last: string | null;
  connect: (address: string) => Promise<Outcome>;
};

export function ConnectForm({ name, ports, standIns, last, connect }: Props) {
  const [address, setAddress] = useState(last ?? '');
  const [busy, setBusy] = useState(false);
  const [problems, setProblems] = useState<Problem[]>([]);
  const go = async (to: string) => {
    setBusy(true);
    setProblems([]);
    const outcome = await attempt(() => connect(to));
    setBusy(false);
    setProblems(outcome.ok ? [] : outcome.problems);
  };
  return (
    <div className="grid items-start gap-x-14 gap-y-8 lg:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)]">
      <section aria-label="Connect" className="max-w-2xl">
        <h1 className="text-2xl font-semibold lg:text-3xl">How is {name} connected?</h1>
        {ports.length > 0 && (
          <>
            <h2 className="mt-6">On a cable</h2>
            <ul className="mt-2 flex flex-wrap gap-2">
              {ports.map(({ path, about }) => (
                <li key={path}>
                  <button
                    type="button"
                    className="btn-quiet"
                    aria-disabled={busy}
                    onClick={() => void go(`serial:${path}`)}
                  >
                    {about || path}
                  </button>
                </li>
              ))}
            </ul>
          </>
        )}
        {standIns.length > 0 && (
          <>
            <h2 className="mt-6">No machine at hand</h2>
            <p className="soft mt-1">
              These are simulated: they answer, heat and move as machines do, faster than real ones.
            </p>
            <ul className="mt-2 flex flex-wrap gap-2">
              {standIns.map(({ address: at, name: played, machine }) => (
                <li key={at}>
                  <button
                    type="button"
                    className={machine === name ? 'btn-main' : 'btn-quiet'}
                    aria-disabled={busy}
                    onClick={() => void go(at)}
                  >
                    {machine === name ? `Simulated: ${played}` : `${played}, made like ${machine}`}
                  </button>
                </li>
              ))}
            </ul>
          </>
        )}
        <form
          className="mt-6 flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            if (!busy) void go(address);
          }}
        >
          <label className="min-w-0 flex-1 basis-72">
            <span className="soft mb-1 block">Address</span>
            <input
              className="input w-full font-mono"
              value={address}
              placeholder="tcp:192.168.1.20:23"
              spellCheck={false}
              autoComplete="off"
              onChange={({ target }) => {
                setAddress(target.value);
                // What was wrong with the one before says nothing of this one.
                setProblems([]);
              }}
            />
          </label>
          <button type="submit" className="btn-quiet" aria-disabled={busy}>
            {busy ? 'Looking for it …' : 'Connect'}
          </button>
        </form>
        <p className="soft mt-2">
          On the network <span className="font-mono">tcp:HOST:PORT</span>, on a cable{' '}
          <span className="font-mono">serial:PATH</span>; the speed is found by asking.
        </p>
        <Problems problems={problems} />
      </section>
      <section aria-label="What a link is good for" className="space-y-4">
        <WireSketch />
        <ul className="list-disc space-y-1 pl-5">
          <li>Ladders are printed from here, and scored as soon as they are done.</li>
          <li>What the machine has is shown beside what you found, and put in with one press.</li>
          <li>Filament is fed and measured, heaters are tuned, and one key stops everything.</li>
        </ul>
      </section>
    </div>
  );
}
