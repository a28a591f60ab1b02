'use client';
// The way to the first value of a bench, in four steps, until it is walked or put aside.
import { useSyncExternalStore } from 'react';
import type { Underway } from '@/core/route/route';
import { listen } from '../common/listen';

const STEPS = [
  ['Set up', 'Choose a rung: its ladder is drawn for this bench.'],
  ['Print', 'Take the file to the machine, or let the simulated one print it.'],
  ['Score', 'Look at each rung, and say how good it is.'],
  ['Value', 'Save what comes out: the rungs above stand on it.'],
] as const;
/** Which step a ladder waits for. */
const AT: Record<Underway['state'], number> = { designed: 1, printed: 2, reading: 2, read: 3 };

const KEY = 'ash-path-aside';
const isAside = (): boolean => {
  try {
    return localStorage.getItem(KEY) !== null;
  } catch {
    return false;
  }
};
const follow = (told: () => void) => listen({ storage: told });

export function FirstPath({ state }: { state: Underway['state'] | null }) {
  // Until the browser is asked it is shown: it keeps its place.
  const aside = useSyncExternalStore(follow, isAside, () => false);
  const at = state === null ? 0 : AT[state];
  if (aside) return null;
  return (
    <section aria-label="The way to the first value" className="mb-4 flex items-start gap-4">
      <ol className="grid flex-1 gap-x-6 gap-y-2 sm:grid-cols-4">
        {STEPS.map(([title, says], i) => (
          <li
            key={title}
            aria-current={i === at ? 'step' : undefined}
            className={`border-t-4 pt-1 leading-tight ${
              i === at ? 'border-primary' : i < at ? 'border-secondary' : 'border-base-300'
            } ${i === at ? '' : 'max-sm:hidden'}`}
          >
            <b className={i === at ? '' : 'font-medium'}>
              {i < at && '✓ '}
              {i + 1}. {title}
            </b>
            <span className="soft block">{says}</span>
          </li>
        ))}
      </ol>
      <button
        type="button"
        className="btn btn-ghost btn-sm font-normal"
        onClick={() => {
          try {
            localStorage.setItem(KEY, 'yes');
          } catch {
            // A browser that keeps nothing shows it again.
          }
          window.dispatchEvent(new StorageEvent('storage'));
        }}
      >
        Hide
      </button>
    </section>
  );
}
