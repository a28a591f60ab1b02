'use client';
// On every page: sends what waits, says when something does, and makes pages anew that come out of a cache.
import { CloudOff } from 'lucide-react';
import { usePathname, useRouter } from 'next/navigation';
import { useEffect, useRef, useState, useSyncExternalStore } from 'react';
import type { Problem } from '@/core/result';
import { outbox } from './browser-outbox';
import { listen } from './listen';
import { followLive, onShut } from './live';
import { LOOK_AGAIN, settleLeft } from './attempt';
import { EMPTY_OUTBOX, PREFIX } from './outbox';
import { LeftOver } from './LeftOver';
import { waitingWords } from './waiting-words';

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
    () => EMPTY_OUTBOX,
  );
  const [left, setLeft] = useState<Problem | null>(null);
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
    const onLook = () => router.refresh();
    window.addEventListener(LOOK_AGAIN, onLook);
    send();
    // What the page before this one has pressed, and did not wait for.
    void settleLeft().then(setLeft);
    const end = listen({
      online: send,
      storage: onStorage,
      pageshow: onShow,
      popstate: onBack,
      visibilitychange: onVisible,
    });
    return () => {
      window.removeEventListener(LOOK_AGAIN, onLook);
      end();
    };
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
            The program does not answer. {waitingWords(state.waiting, state.pictures)} here, to be
            sent when it does.
          </span>
          <button type="button" className="min-h-8 underline" onClick={() => void outbox().drain()}>
            Try now
          </button>
        </div>
      )}
      <LeftOver state={state} failing={state.failing} left={left} seen={() => setLeft(null)} />
      {/* Room for what stands at the edge: nothing of the page stays under it. */}
      {(state.failing || left || state.aside > 0 || state.refused.length > 0) && (
        <div className="no-print h-28" aria-hidden />
      )}
    </div>
  );
}
