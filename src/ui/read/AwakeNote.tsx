'use client';
// A word on how to keep the screen on, where the browser can't; said until it is read.
import { useSyncExternalStore } from 'react';
import { useAwake } from '../common/useAwake';

const READ = 'ash-awake-read';
const never = () => () => undefined;
const wasRead = (): boolean => {
  try {
    return localStorage.getItem(READ) !== null;
  } catch {
    return false;
  }
};
const watchers = new Set<() => void>();
const watch = (watcher: () => void) => {
  watchers.add(watcher);
  return () => void watchers.delete(watcher);
};

export function AwakeNote() {
  const awake = useAwake();
  const touch = useSyncExternalStore(
    never,
    () => matchMedia('(pointer: coarse)').matches,
    () => false,
  );
  const read = useSyncExternalStore(watch, wasRead, () => true);
  if (awake !== false || !touch || read) return null;
  return (
    <p className="bg-base-200 my-1 flex items-center gap-3 rounded px-3 py-1 text-sm">
      <span className="flex-1">
        The screen may go dark while you look. In the phone’s display settings, let it stay on for
        ten minutes.
      </span>
      <button
        type="button"
        className="btn btn-ghost btn-sm"
        onClick={() => {
          try {
            localStorage.setItem(READ, 'yes');
          } catch {
            // Kept nowhere, it is said again on the next page.
          }
          watchers.forEach((told) => told());
        }}
      >
        OK
      </button>
    </p>
  );
}
