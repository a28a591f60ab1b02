'use client';
// The code that lets one device in, as a picture for its camera and as digits to type, while it lasts.
import { useEffect, useState } from 'react';
import { ActButton, type Outcome } from '../common/ActButton';
import { Qr } from '../common/Qr';

type Props = {
  host: string;
  offer: { code: string; until: number };
  hide: () => Promise<Outcome>;
  again: () => Promise<Outcome>;
};

const SECOND_MS = 1000;

export function CodeCard({ host, offer, hide, again }: Props) {
  const { code, until } = offer;
  const [left, setLeft] = useState<number | null>(null);
  useEffect(() => {
    const look = () => setLeft(Math.max(0, Math.ceil((until - Date.now()) / SECOND_MS)));
    look();
    const timer = setInterval(look, SECOND_MS / 4);
    return () => clearInterval(timer);
  }, [until]);
  if (left === 0)
    return (
      <>
        <p className="mb-3">This code has expired.</p>
        <ActButton className="btn-main" act={again}>
          Show a new code
        </ActButton>
      </>
    );
  return (
    <div className="flex flex-wrap items-start gap-6">
      <div className="w-72 max-w-full">
        <Qr text={`http://${host}/pair?code=${code}`} label="Code for the camera of a phone" />
      </div>
      <div className="min-w-56 flex-1">
        <p>Point the phone’s camera at the square, or open the address above on it and type</p>
        <p
          className="my-2 text-5xl font-semibold tracking-wider whitespace-nowrap"
          aria-label={`Code ${code}`}
        >
          {code.slice(0, 3)} {code.slice(3)}
        </p>
        <p className="soft" role="timer">
          It works once{left === null ? '' : `, for ${left} more seconds`}.
        </p>
        <div className="mt-4">
          <ActButton act={hide}>Hide the code</ActButton>
        </div>
      </div>
    </div>
  );
}
