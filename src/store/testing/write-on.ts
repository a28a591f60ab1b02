/** Writes taps without end and says each one after it is kept; killed from outside by killed.test.ts. */

import { writeSync } from 'node:fs';
import { migrationsIn, openStore } from '../open';
import { readings } from '../readings';

const [path, readingId] = process.argv.slice(2);
const opened = openStore(path!, migrationsIn('src/store/migrations'));
if (!opened.ok) throw new Error(JSON.stringify(opened.problems));
const store = readings(opened.value);
for (let n = 0; ; n++) {
  const act = {
    rung: n % 30,
    criterion: 'stringing' as const,
    score: (n % 5) as 0 | 1 | 2 | 3 | 4,
  };
  store.score(Number(readingId), act, String(n));
  say(`${n}\n`);
}

/** Written past any buffer: what the parent has read was said before the kill. */
function say(text: string): void {
  for (;;)
    try {
      writeSync(1, text);
      return;
    } catch (error) {
      // The parent is behind on a busy machine: the writer waits, and does not end by itself.
      if ((error as NodeJS.ErrnoException).code !== 'EAGAIN') throw error;
      Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 5);
    }
}
