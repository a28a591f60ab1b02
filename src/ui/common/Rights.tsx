'use client';
// What may be done where this page is open: everything at the computer, less on a device that was let in.
import { createContext, useContext, type ReactNode } from 'react';
import { mayNot, RIGHTS, type Right } from '@/core/rights';

export type Here = {
  /** Name of the device; null at the computer. */
  device: string | null;
  rights: readonly Right[];
  /** Whose scores come from here; empty until that was said. */
  reader: string;
};

const HereContext = createContext<Here>({ device: null, rights: RIGHTS, reader: '' });

export function Rights({ here, children }: { here: Here; children: ReactNode }) {
  return <HereContext value={here}>{children}</HereContext>;
}

export const useHere = (): Here => useContext(HereContext);

/** Why something is not offered on this device, in place of a failure; nothing where it is. */
export function NotHere({ right }: { right: Right }) {
  const { rights } = useHere();
  if (rights.includes(right)) return null;
  const { what, mend } = mayNot(right);
  return (
    <p role="note" className="border-secondary my-3 border-l-4 pl-3">
      {what} {mend}
    </p>
  );
}
