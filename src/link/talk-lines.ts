/** What was said on a wire, as a person would read it. */

import type { TalkLine } from '../core/link-state';
import { plainLine } from '../core/text';
import { readAnswer } from './answers';

/** Lines that are kept, and that are told. */
const MOST = 400;
const TOLD = 120;
const LONGEST = 300;

export class TalkLines {
  private lines: TalkLine[] = [];
  private said = 0;

  get told(): TalkLine[] {
    return this.lines.slice(-TOLD);
  }

  /** @returns whether it is worth telling */
  hear(text: string, from: TalkLine['from'], printing: boolean): boolean {
    // What a file sends is no talk, nor what is asked every two seconds.
    if (from === 'host' && (printing || text === 'M105')) return false;
    if (printing && text === 'ok') return false;
    const answer = from === 'machine' ? readAnswer(text) : null;
    // Lines that have to be sent again are the wire's own affair.
    if (answer?.kind === 'resend' || answer?.kind === 'spoilt') return false;
    const heat = answer?.kind === 'heat' || (answer?.kind === 'ok' && answer.heat !== undefined);
    if (heat && this.lines.at(-1)?.heat) this.lines.pop();
    const line = { n: ++this.said, from, text: plainLine(text, LONGEST) };
    this.lines.push(heat ? { ...line, heat } : line);
    if (this.lines.length > MOST) this.lines = this.lines.slice(MOST / 4);
    return true;
  }
}
