/** Single letters from standard input: as they are pressed in a terminal, or a letter a line from a pipe. */

import type { ReadStream } from 'node:tty';

const CTRL_C = '\u0003';

/** More without a line end is no letter. */
const LONGEST = 80;

type Heeds = Record<'p' | 'g' | 's' | 'interrupt', () => void>;

/** @returns ends it: the terminal is as it was before */
export function letters(stdin: ReadStream, heeds: Heeds): { end: () => void } {
  const raw = stdin.isTTY;
  const heed = (sign: string) => {
    // In a terminal that hands over every key, it is one of them.
    if (sign === CTRL_C) heeds.interrupt();
    else if (sign === 'p' || sign === 'g' || sign === 's') heeds[sign]();
  };
  let half = '';
  const heard = (text: string) => {
    if (raw) return void [...text].forEach(heed);
    const lines = (half + text).split('\n');
    half = lines.pop()!.slice(0, LONGEST);
    for (const line of lines) heed(line.trim());
  };
  const deaf = () => undefined;
  // The last one may come without a line end.
  const ended = () => heed(half.trim());
  stdin.setEncoding('utf8');
  if (raw) stdin.setRawMode(true);
  stdin.on('data', heard);
  stdin.on('end', ended);
  stdin.on('error', deaf);
  return {
    end() {
      stdin.off('data', heard);
      stdin.off('end', ended);
      if (raw) stdin.setRawMode(false);
      stdin.pause();
      // A pipe that is never shut would keep the program alive.
      stdin.unref?.();
    },
  };
}
