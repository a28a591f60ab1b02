'use client';
// Who is let in from the network: the door, a code for two minutes, and the devices with what they may do.
import { useRouter } from 'next/navigation';
import { useEffect, useOptimistic, useState, useTransition } from 'react';
import { RIGHT_WORDS, RIGHTS, type Right } from '@/core/rights';
import type { Problem } from '@/core/result';
import { ActButton, type Outcome } from '../common/ActButton';
import { attempt } from '../common/attempt';
import { ago } from '../common/format';
import { followLive } from '../common/live';
import { Problems } from '../common/Problems';
import { PhoneSketch } from '../common/Sketches';
import { AddressChoice } from './AddressChoice';
import { CodeCard } from './CodeCard';
import { ReaderName } from './ReaderName';

export type DeviceRow = {
  id: number;
  name: string;
  reader: string;
  rights: readonly Right[];
  letInAt: string;
  usedAt: string;
};

export type PhonesProps = {
  on: boolean;
  at: { host: string; connection: string }[];
  problems: Problem[];
  offer: { code: string; until: number } | null;
  /** When codes are given again, ms; null while they are. */
  closedUntil: number | null;
  devices: DeviceRow[];
  /** Who scores at the computer; empty until it was said. */
  reader: string;
  nowMs: number;
  turn: (on: boolean) => Promise<Outcome>;
  show: () => Promise<Outcome>;
  hide: () => Promise<Outcome>;
  putOut: (id: number) => Promise<Outcome>;
  allow: (id: number, rights: Right[]) => Promise<Outcome>;
  nameReader: (name: string) => Promise<Outcome>;
};

export function PhonesScreen(props: PhonesProps) {
  const { on, at, offer, closedUntil, devices, nowMs } = props;
  const router = useRouter();
  const [chosen, setChosen] = useState(0);
  useEffect(() => followLive('/phones', () => router.refresh()), [router]);
  const host = at[Math.min(chosen, at.length - 1)]?.host;
  return (
    <main className="mx-auto grid max-w-6xl grid-cols-[minmax(0,1fr)] gap-x-14 gap-y-8 px-4 py-8 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)] lg:px-7">
      <section>
        <h1>{on ? 'Phones can be let in' : 'No phone can reach this'}</h1>
        <p className="mt-3 text-lg">
          {on
            ? 'Score at the machine with a phone on the same network. Whoever has not been let in sees nothing but a page that asks for a code.'
            : 'Switched on, a phone on the same network can be let in with a code, to look, score and take pictures at the machine.'}
        </p>
        <div className="mt-5">
          <ActButton className={on ? 'btn-quiet' : 'btn-main'} act={() => props.turn(!on)}>
            {on ? 'Switch off' : 'Switch on'}
          </ActButton>
        </div>
        <Problems problems={props.problems} />
        {(!on || !offer) && (
          <div className="mt-6">
            <PhoneSketch />
          </div>
        )}
        {on && at.length > 0 && (
          <AddressChoice at={at} chosen={Math.min(chosen, at.length - 1)} choose={setChosen} />
        )}
        {on && host && (
          <div className="rule-above">
            {props.reader === '' ? (
              <ReaderName save={props.nameReader} />
            ) : offer ? (
              <CodeCard host={host} offer={offer} hide={props.hide} again={props.show} />
            ) : closedUntil !== null && closedUntil > nowMs ? (
              <p role="alert" className="border-warning border-l-4 pl-3">
                Ten wrong codes were tried, so nobody is let in for a while. Show a code again in{' '}
                {Math.ceil((closedUntil - nowMs) / 60_000)} minutes.
              </p>
            ) : (
              <ActButton className="btn-main" act={props.show}>
                Show a code
              </ActButton>
            )}
          </div>
        )}
      </section>
      <section>
        <h2 className="text-base-content text-xl font-semibold">Let in</h2>
        {devices.length === 0 ? (
          <>
            <p className="soft">No device has been let in yet.</p>
            <ol className="mt-3 max-w-md list-decimal space-y-2 pl-5 text-lg">
              <li>Switch it on, and show a code.</li>
              <li>Read the code with the phone, or type its address and the six digits.</li>
              <li>Score with the print in your hand: six keys, one thumb.</li>
            </ol>
          </>
        ) : (
          <ul className="divide-base-300 border-base-300 divide-y border-y">
            {devices.map((one) => (
              <li key={one.id} className="py-3">
                <div className="flex flex-wrap items-center gap-x-4">
                  <div className="min-w-0 flex-1">
                    <p className="text-lg font-medium [overflow-wrap:anywhere]">
                      <bdi>{one.name}</bdi>, scores by <bdi>{one.reader}</bdi>
                    </p>
                    <p className="soft">
                      last used {ago(one.usedAt, nowMs)}, let in {ago(one.letInAt, nowMs)}
                    </p>
                  </div>
                  <ActButton
                    className="btn-quiet"
                    label={`Remove access of ${one.name} of ${one.reader}`}
                    act={() => props.putOut(one.id)}
                  >
                    Remove access
                  </ActButton>
                </div>
                <Allowed device={one} allow={props.allow} />
              </li>
            ))}
          </ul>
        )}
        <p className="soft mt-3">
          Every device may look, score, take pictures, save values, set up ladders, watch a print
          and stop it.
        </p>
        {props.reader !== '' && (
          <details className="mt-1">
            <summary className="soft min-h-8 cursor-pointer leading-8">
              Scores at this computer are those of <b>{props.reader}</b>
            </summary>
            <ReaderName save={props.nameReader} />
          </details>
        )}
      </section>
    </main>
  );
}

function Allowed({ device, allow }: { device: DeviceRow; allow: PhonesProps['allow'] }) {
  const [problems, setProblems] = useState<Problem[]>([]);
  const [, start] = useTransition();
  const [rights, setRights] = useOptimistic(device.rights);
  const turn = (right: Right, may: boolean) =>
    start(async () => {
      const others = rights.filter((one) => one !== right);
      const wanted = may ? [...others, right] : others;
      setRights(wanted);
      const outcome = await attempt(() => allow(device.id, wanted));
      setProblems(outcome.ok ? [] : outcome.problems);
    });
  return (
    <div className="mt-1">
      {RIGHTS.map((right) => (
        <label key={right} className="flex min-h-9 cursor-pointer items-center gap-3">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={rights.includes(right)}
            onChange={({ target }) => turn(right, target.checked)}
          />
          <span>may also {RIGHT_WORDS[right]}</span>
        </label>
      ))}
      <Problems problems={problems} />
    </div>
  );
}
