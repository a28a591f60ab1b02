/** Lines out of what comes in piece by piece, however small the pieces. */

import { readAnswer, type Answer } from './answers';
import { LONGEST_HEARD } from './limits';

export class Ear {
  private half = '';
  /** When anything came last, ms. */
  private at = -Infinity;

  /** @param heard is told each line, until it returns false */
  constructor(private readonly heard: (answer: Answer, raw: string) => boolean | void) {}

  hear(text: string): void {
    this.at = performance.now();
    this.half += text;
    let from = 0;
    for (let to = this.half.indexOf('\n'); to !== -1; to = this.half.indexOf('\n', from)) {
      const raw = this.half.slice(from, to);
      from = to + 1;
      const answer = readAnswer(raw);
      if (answer && this.heard(answer, raw) === false) break;
    }
    this.half = this.half.slice(from);
    if (this.half.length > LONGEST_HEARD) this.half = '';
  }

  /** Whether a line has begun to come within some ms: what it says is waited for. */
  isComing(withinMs: number): boolean {
    return this.half !== '' && performance.now() - this.at < withinMs;
  }

  forget(): void {
    this.half = '';
  }
}
