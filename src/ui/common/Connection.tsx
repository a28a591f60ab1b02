'use client';
// On every page: sends what waits, says when something does, and makes pages anew that come out of a cache.
import { CloudOff } from 'lucide-react';
import { usePathname, useRouter } from 'next/navigation';
import { useEffect, useRef, useSyncExternalStore } from 'react';
import { outbox } from './browser-outbox';
import { listen } from './listen';
import { followLive, onShut } from './live';
import { PREFIX, type OutboxState } from './outbox';

const NOTHING: OutboxState = { waiting: 0, pictures: 0, failing: false, shut: false };

type Props = {
  /** Whether this is a device that was let in, and may be put out again. */
  device: boolean;
};

/** Where a code is entered; it also says that this device was put out. */
const leave = () => window.location.replace('/pair');

export function Connection({ device }: Props) {
  const router = useRouter();
  const state = useSyncExternalStore(
    (watcher) => outbox().watch(watcher),
    () => outbox().now(),
    () => NOTHING,
  );
  // On another page the focus begins at its head; what had it before is gone.
  const path = usePathname();
  const shown = useRef(path);
  useEffect(() => {
    if (shown.current === path) return;
    shown.current = path;
    if (document.activeElement !== document.body && document.activeElement !== null) return;
    const head = document.querySelector<HTMLElement>('main h1') ?? document.querySelector('main');
    if (!head) return;
    head.tabIndex = -1;
    head.focus({ preventScroll: true });
  }, [path]);
  useEffect(() => {
    const send = () => void outbox().drain();
    const onStorage = ({ key }: StorageEvent) => key?.startsWith(PREFIX) && outbox().load();
    const onShow = ({ persisted }: PageTransitionEvent) => persisted && router.refresh();
    const onVisible = () => document.visibilityState === 'visible' && router.refresh();
    // After going back the page is out of the program's own cache.
    const onBack = () => setTimeout(() => router.refresh(), 0);
    send();
    return listen({
      online: send,
      storage: onStorage,
      pageshow: onShow,
      popstate: onBack,
      visibilitychange: onVisible,
    });
  }, [router]);
  // A device that is put out shows nothing any longer, whatever page is open on it.
  useEffect(() => {
    if (!device) return;
    const ends = [followLive('', () => undefined), onShut(leave)];
    return () => ends.forEach((end) => end());
  }, [device]);
  useEffect(() => {
    if (state.shut) leave();
  }, [state.shut]);
  return (
    <div role="status" aria-live="polite">
      {state.failing && (
        // On a phone it stands at the top: at the bottom are the keys for the thumb.
        <div className="bg-base-content text-base-100 no-print fixed inset-x-0 top-0 z-50 flex items-center gap-x-3 px-4 py-2 max-lg:text-sm max-lg:leading-tight lg:top-auto lg:bottom-0">
          <CloudOff size={18} aria-hidden className="shrink-0" />
          <span className="flex-1">
            The program does not answer. {waitingWords(state)} here, to be sent when it does.
          </span>
          <button type="button" className="min-h-8 underline" onClick={() => void outbox().drain()}>
            Try now
          </button>
        </div>
      )}
    </div>
  );
}

/** What waits, as the beginning of a sentence. */
function waitingWords({ waiting, pictures }: OutboxState): string {
  const changes = waiting - pictures;
  const parts = [
    changes > 0 && (changes === 1 ? 'One change' : `${changes} changes`),
    pictures > 0 && (pictures === 1 ? 'one picture' : `${pictures} pictures`),
  ].filter(Boolean);
  const words = parts.join(' and ');
  return `${words[0]!.toUpperCase()}${words.slice(1)} ${waiting === 1 ? 'waits' : 'wait'}`;
}
