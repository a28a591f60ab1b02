'use client';
// What did not go where it was meant to: refused, or made with other data than there is now. It stands until it is seen.
import { Archive, CircleX, Layers2 } from 'lucide-react';
import { useEffect, useState, useSyncExternalStore, type ReactNode } from 'react';
import type { Problem } from '@/core/result';
import { outbox } from './browser-outbox';
import { onOtherStore, otherStore } from './own-fetch';
import type { OutboxState, Refused } from './outbox';
import { howMany } from './waiting-words';

type Props = {
  state: OutboxState;
  /** Whether the place at the edge is taken. */
  failing: boolean;
  /** What is told of a press of the page before. */
  left: Problem | null;
  seen: () => void;
};

export function LeftOver({ state, failing, left, seen }: Props) {
  const other = useSyncExternalStore(onOtherStore, otherStore, () => null);
  if (other === null && !left && state.aside === 0 && state.refused.length === 0) return null;
  return (
    <div
      className={`no-print fixed inset-x-0 z-40 max-h-[45dvh] overflow-y-auto max-lg:top-0 lg:bottom-0 ${
        failing ? 'max-lg:top-14 lg:bottom-11' : ''
      }`}
    >
      {other !== null && (
        <Line icon={<Layers2 size={18} aria-hidden />}>
          <span className="flex-1">
            The program holds other data now than this page shows: something was imported, or other
            data is served at this address.
          </span>
          <button type="button" className={PRESS} onClick={() => window.location.reload()}>
            Load the page again
          </button>
        </Line>
      )}
      {left && (
        <Line icon={<CircleX size={18} aria-hidden />}>
          <span className="flex-1">
            {left.what} {left.mend}
          </span>
          <button type="button" className={PRESS} onClick={seen}>
            Seen
          </button>
        </Line>
      )}
      {state.aside > 0 && <Aside all={state.aside} pictures={state.asidePictures} />}
      {state.refused.map((one) => (
        <OneRefused key={one.key} refused={one} />
      ))}
    </div>
  );
}

const PRESS = 'min-h-8 underline';

function Line({ icon, children }: { icon: ReactNode; children: ReactNode }) {
  return (
    <div className="bg-base-content text-base-100 border-base-100/40 flex flex-wrap items-center gap-x-4 gap-y-1 border-t px-4 py-2 max-lg:text-sm max-lg:leading-tight">
      <span className="shrink-0">{icon}</span>
      {children}
    </div>
  );
}

function Aside({ all, pictures }: { all: number; pictures: number }) {
  const [sure, setSure] = useState(false);
  const save = async () => {
    const url = URL.createObjectURL(await outbox().asideFile());
    const link = Object.assign(document.createElement('a'), { href: url, download: 'aside.json' });
    link.click();
    setTimeout(() => URL.revokeObjectURL(url), 10_000);
  };
  return (
    <Line icon={<Archive size={18} aria-hidden />}>
      <span className="flex-1">
        {howMany(all, pictures)} made here with other data {all === 1 ? 'is' : 'are'} kept aside,
        and sent when that data is back.
      </span>
      <button type="button" className={PRESS} onClick={() => void save()}>
        Save as a file
      </button>
      <button
        type="button"
        className={PRESS}
        onClick={() => (sure ? outbox().throwAside() : setSure(true))}
        onBlur={() => setSure(false)}
      >
        {sure ? 'Throw away for good' : 'Throw away …'}
      </button>
    </Line>
  );
}

function OneRefused({ refused: { key, id, picture, problems } }: { refused: Refused }) {
  const [shown, setShown] = useState<string | null>(null);
  useEffect(() => {
    if (!picture) return;
    let url: string | null = null;
    let gone = false;
    void outbox()
      .picture(id)
      .then((bytes) => {
        if (!bytes || gone) return;
        url = URL.createObjectURL(bytes);
        setShown(url);
      });
    return () => {
      gone = true;
      if (url) URL.revokeObjectURL(url);
    };
  }, [id, picture]);
  return (
    <Line icon={<CircleX size={18} aria-hidden />}>
      {shown && (
        // eslint-disable-next-line @next/next/no-img-element -- it is in this browser alone
        <img src={shown} alt="" className="h-10 w-10 rounded object-cover" />
      )}
      <span className="flex-1">
        {picture ? 'A picture was not taken' : 'A change was not taken'}:{' '}
        {problems.map(({ what, mend }) => `${what} ${mend}`).join(' ')}
      </span>
      <button type="button" className={PRESS} onClick={() => outbox().again(key)}>
        Send again
      </button>
      <button type="button" className={PRESS} onClick={() => outbox().seen(key)}>
        Seen
      </button>
    </Line>
  );
}
