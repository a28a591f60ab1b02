/**
 * The first words with a machine (docs/domain.md §11): its count is set to nothing, then it is shown a line whose
 * number is far ahead. Who counts lines asks for the one that it expects; who does not, answers with temperatures. The
 * line asks for these alone, so it harms nothing whoever it meets.
 */

import type { Answer } from './answers';
import { Ear } from './ear';
import { AHEAD } from './limits';
import { numbered } from './numbered';
import type { Transport } from './transport';

export type Met =
  /** It counts, and expects this line next. */
  | { kind: 'counts'; expects: number }
  /** It does not count; without `numbers` it does not even know them. */
  | { kind: 'uncounted'; numbers: boolean }
  | { kind: 'silent' }
  | { kind: 'lost'; text: string }
  | { kind: 'halted'; text: string }
  /** It answers, but not in a way from which it can be told. */
  | { kind: 'unsure' };

export type Meeting = {
  /** How long it may be silent, ms. */
  withinMs: number;
  /** How long it may take in all while it says that it is at something, ms. */
  mostMs?: number;
  /** How long the first answer is waited for before it is asked again, ms; it doubles. */
  everyMs?: number;
  heard?: (answer: Answer, raw: string) => void;
};

/** After what was asked twice others may still be on their way, ms. */
const QUIET_MS = 60;
const LONGEST_EVERY_MS = 3000;
/** So often the same has to be said before it is believed. */
const TWICE = 2;
/** Answers without a temperature that make up for one with. */
const PLAIN_OKS = 3;

class Talk {
  private readonly came: Answer[] = [];
  private wake: (() => void) | null = null;
  lost: string | null = null;
  private lifeAt = performance.now();
  private everyMs: number;
  private startedAt = performance.now();

  constructor(
    readonly transport: Transport,
    private readonly how: Meeting,
  ) {
    this.everyMs = how.everyMs ?? 700;
    const ear = new Ear((answer, raw) => {
      // Who only talks is no machine that is at something.
      if (answer.kind === 'busy' || answer.kind === 'heat') this.lifeAt = performance.now();
      how.heard?.(answer, raw);
      this.came.push(answer);
    });
    transport.heard = (text) => {
      ear.hear(text);
      this.wake?.();
    };
    transport.lost = (why) => {
      this.lost = why;
      this.wake?.();
    };
  }

  /** It is there: the wait begins anew. */
  begin(): void {
    this.lifeAt = this.startedAt = performance.now();
    this.everyMs = this.how.everyMs ?? 700;
  }

  get over(): boolean {
    const now = performance.now();
    const { withinMs, mostMs = 4 * withinMs } = this.how;
    return this.lost !== null || now - this.lifeAt > withinMs || now - this.startedAt > mostMs;
  }

  /** Asks, and gives each answer to `heed` until it is content, the wait is over, or the other side is gone. */
  async ask(line: string, heed: (answer: Answer) => boolean): Promise<boolean> {
    this.transport.write(line);
    const until = performance.now() + this.everyMs;
    for (;;) {
      for (let one = this.came.shift(); one; one = this.came.shift()) if (heed(one)) return true;
      const left = until - performance.now();
      if (this.over || left <= 0) break;
      await this.nextWithin(left);
    }
    this.everyMs = Math.min(LONGEST_EVERY_MS, 2 * this.everyMs);
    return false;
  }

  private nextWithin(ms: number): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(() => this.wake?.(), ms);
      this.wake = () => {
        clearTimeout(timer);
        this.wake = null;
        resolve();
      };
    });
  }

  /** Lets pass what is still on its way. */
  async quiet(heed: (answer: Answer) => void = () => undefined): Promise<void> {
    const before = performance.now();
    for (let last = before; performance.now() - last < QUIET_MS && !this.lost;) {
      await this.nextWithin(QUIET_MS);
      // Who speaks of itself all the time is not waited for.
      if (this.came.some(({ kind }) => kind === 'ok' || kind === 'resend'))
        last = performance.now();
      this.came.splice(0).forEach(heed);
      if (last - before > 20 * QUIET_MS) return;
    }
  }
}

/** What is told of a machine by its answers to a line far ahead. */
class Votes {
  private readonly wishes = new Map<number, number>();
  private wished = 0;
  private executed = 0;
  private plain = 0;
  numberless = false;

  /** @param stale answers that may still come to what was asked before */
  constructor(private readonly stale: number) {}

  take(answer: Answer): void {
    if (answer.kind === 'resend') {
      this.wished++;
      this.wishes.set(answer.line, (this.wishes.get(answer.line) ?? 0) + 1);
    } else if (answer.kind === 'ok' && answer.heat) this.executed++;
    else if (answer.kind === 'ok') this.plain++;
    else if (answer.kind === 'unknown' && /^N\d/i.test(answer.word)) this.numberless = true;
  }

  /** The line that it expects; null where that is not sure yet. @param likely is believed at once */
  expects(likely: (line: number) => boolean): number | null {
    for (const [line, times] of this.wishes)
      if (this.executed < times && (times >= TWICE || likely(line))) return line;
    return null;
  }

  get isUncounted(): boolean {
    if (this.wished > 0) return false;
    return this.executed >= TWICE || this.plain >= this.stale + PLAIN_OKS;
  }
}

/** Meets a machine. Afterwards nothing listens to the transport: the wire that is made of it does. */
export async function meet(transport: Transport, how: Meeting): Promise<Met> {
  const talk = new Talk(transport, how);
  let halted: string | null = null;
  let asked = 0;
  let answered = false;
  while (!answered && !talk.over) {
    asked++;
    answered = await talk.ask(`\n${numbered(0, 'M110 N0')}`, (answer) => {
      if (answer.kind === 'halted') halted = answer.text;
      // Its own wish for line 1 says as much as an `ok`.
      return answer.kind === 'ok' || answer.kind === 'resend' || answer.kind === 'halted';
    });
  }
  if (halted !== null) return { kind: 'halted', text: halted };
  if (talk.lost !== null) return { kind: 'lost', text: talk.lost };
  if (!answered) return { kind: 'silent' };
  await talk.quiet();
  talk.begin();
  const votes = new Votes(asked - 1);
  const decided = (): Met | null => {
    const expects = votes.expects((line) => line === 1);
    if (expects !== null) return { kind: 'counts', expects };
    if (votes.isUncounted) return { kind: 'uncounted', numbers: !votes.numberless };
    return null;
  };
  while (!talk.over) {
    await talk.ask(`\n${numbered(AHEAD, 'M105')}`, (answer) => {
      votes.take(answer);
      // One answer to each time that it is asked, wherever it can be told.
      return decided() !== null || (answer.kind === 'ok' && answer.heat !== undefined);
    });
    const met = decided();
    if (!met) continue;
    await talk.quiet();
    return talk.lost === null ? met : { kind: 'lost', text: talk.lost };
  }
  if (talk.lost !== null) return { kind: 'lost', text: talk.lost };
  // It has answered before: who then lets lines out of turn pass without a word cannot be told from one that loses them.
  return { kind: 'unsure' };
}

/** Asks a machine over a new connection which line it expects next; its count is left as it is. */
export async function askWhatItHas(
  transport: Transport,
  ahead: number,
  likely: (line: number) => boolean,
  how: Meeting,
): Promise<{ kind: 'expects'; line: number } | { kind: 'uncounted' } | { kind: 'unheard' }> {
  const talk = new Talk(transport, how);
  const votes = new Votes(0);
  while (!talk.over) {
    await talk.ask(`\n${numbered(ahead, 'M105')}`, (answer) => {
      votes.take(answer);
      return votes.expects(likely) !== null || votes.isUncounted;
    });
    const line = votes.expects(likely);
    if (line === null && !votes.isUncounted) continue;
    await talk.quiet();
    if (talk.lost !== null) break;
    return line !== null ? { kind: 'expects', line } : { kind: 'uncounted' };
  }
  return { kind: 'unheard' };
}
