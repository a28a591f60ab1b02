/** A process that is started again when it ends by itself. */

import type { ChildProcess } from 'node:child_process';

/** More ends than these within a minute are no accident. */
const MOST_ENDS = 5;
const MINUTE_MS = 60_000;

export type Kept = {
  /** Kept when it has ended too often; its last exit code. */
  gaveUp: Promise<number>;
  /** Ends it for good. @returns when it has ended */
  end: (signal: NodeJS.Signals) => Promise<void>;
};

export function keepUp(start: () => ChildProcess): Kept {
  let child = start();
  let ending = false;
  let gone: (() => void) | undefined;
  const ends: number[] = [];
  const gaveUp = new Promise<number>((resolve) => {
    const watch = () =>
      child.on('exit', (code) => {
        gone?.();
        if (ending) return;
        const now = Date.now();
        ends.push(now);
        if (ends.filter((at) => now - at < MINUTE_MS).length > MOST_ENDS) return resolve(code ?? 1);
        child = start();
        watch();
      });
    watch();
  });
  return {
    gaveUp,
    end(signal) {
      ending = true;
      if (child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
      const ended = new Promise<void>((resolve) => (gone = resolve));
      child.kill(signal);
      return ended;
    },
  };
}
