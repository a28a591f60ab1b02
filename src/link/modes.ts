/** The modes that a file has set by some line: what a pause has to put back. */

import { param, parseCommand } from '../core/dialect/command';
import type { Firmware } from '../core/dialect/dialect';
import { short } from '../core/numbers';

export class Modes {
  private relative = false;
  private relativeE = false;
  /** mm/min; null until one was given. */
  private feed: number | null = null;

  constructor(private readonly firmware: Firmware) {}

  /** Follows a line of the file, as it was sent. */
  follow(line: string): void {
    // Almost every line is a move that changes at most the speed.
    const letter = line.charCodeAt(0) | 32;
    if (letter !== 103 && letter !== 109) return;
    const isMove = /^g[0-3]\b/i.test(line);
    if (isMove && !/f/i.test(line)) return;
    if (!isMove && !/^(?:g9[01]|m8[23])\b/i.test(line)) return;
    const command = parseCommand(line);
    if (!command) return;
    if (isMove) this.feed = param(command, 'F') ?? this.feed;
    else if (command.word === 'M82') this.relativeE = false;
    else if (command.word === 'M83') this.relativeE = true;
    else {
      this.relative = command.word === 'G91';
      if (this.firmware === 'AB') this.relativeE = this.relative;
    }
  }

  /** Lines that bring these modes about again. */
  restore(): string[] {
    return [
      this.relative ? 'G91' : 'G90',
      this.relativeE ? 'M83' : 'M82',
      ...(this.feed === null ? [] : [`G1 F${short(this.feed, 1)}`]),
    ];
  }
}
