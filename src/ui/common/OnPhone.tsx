'use client';
// "Score it on the phone": a code for the camera of a phone that is let in, which opens this very reading.
import { Smartphone } from 'lucide-react';
import Link from 'next/link';
import { useRef, useState } from 'react';
import type { Answer, Problem } from '@/core/result';
import { attempt } from './attempt';
import { Dialog } from './Dialog';
import { Problems } from './Problems';
import { Qr } from './Qr';
import { useHere } from './Rights';

type Props = {
  label: string;
  /** Address of the reading on this server, or what makes one first. */
  path: string | (() => Promise<Answer<string>>);
  /** Where phones find this computer, the likeliest first; none while it is switched off. */
  hosts: readonly string[];
};

export function OnPhone({ label, path, hosts }: Props) {
  const { device } = useHere();
  const dialog = useRef<HTMLDialogElement>(null);
  const opener = useRef<HTMLButtonElement>(null);
  const [made, setMade] = useState<string | null>(typeof path === 'string' ? path : null);
  const [chosen, setChosen] = useState(0);
  const [problems, setProblems] = useState<Problem[]>([]);
  // A phone is on the phone already.
  if (device !== null) return null;
  const to = typeof path === 'string' ? path : made;
  const host = hosts[Math.min(chosen, hosts.length - 1)];
  const open = async () => {
    // Without a way in, nothing is begun.
    if (to === null && typeof path !== 'string' && host) {
      const answer = await attempt(path);
      if (!answer.ok) return setProblems(answer.problems);
      setMade(answer.value);
    }
    dialog.current?.showModal();
  };
  return (
    <>
      <button ref={opener} type="button" className="btn-quiet" onClick={() => void open()}>
        <Smartphone size={18} aria-hidden /> {label}
      </button>
      <Problems problems={problems} />
      <Dialog at={dialog} opener={opener} title={label} className="w-[30rem] max-w-[96vw]">
        <div className="p-4 pt-1">
          {host && to ? (
            <>
              <div className="mx-auto w-72 max-w-full">
                <Qr text={`http://${host}${to}`} label="Code for the camera of a phone" />
              </div>
              <p className="mt-3 text-center font-mono break-all">
                http://{host}
                {to}
              </p>
              {hosts.length > 1 && (
                <label className="mt-3 block">
                  <span className="soft mb-1 block">The network that the phone is on</span>
                  <select
                    className="select w-full"
                    value={chosen}
                    onChange={({ target }) => setChosen(Number(target.value))}
                  >
                    {hosts.map((one, i) => (
                      <option key={one} value={i}>
                        {one}
                      </option>
                    ))}
                  </select>
                </label>
              )}
              <p className="mt-3">
                Point the camera of a phone at it. What is scored there shows here at once, and the
                other way round. A phone that is not let in yet asks for a code:{' '}
                <Link className="underline" href="/phones">
                  show one
                </Link>
                .
              </p>
            </>
          ) : (
            <>
              <p className="mb-4">
                No phone can reach this computer now. Switch that on under Phones, and let the phone
                in once.
              </p>
              <Link className="btn-main" href="/phones">
                Let a phone in
              </Link>
            </>
          )}
        </div>
      </Dialog>
    </>
  );
}
