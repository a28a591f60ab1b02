/**
 * The host's side of the wire (docs/domain.md §11): numbered lines with sums, as many under way as the machine has
 * room for. Whatever is lost, doubled, damaged or late, the machine executes every line once and in order, since it
 * counts them itself; what an `ok` belongs to is a guess, what a machine asks for is proof.
 */

import { readAnswer, type Answer } from './answers';
import {
  KEPT,
  AHEAD,
  PATIENCE_MS,
  TICK_MS,
  LONG_SILENCE_MS,
  MOST_BYTES,
  MOST_AHEAD,
  MOST_SAID,
  MOST_AGAIN,
  MOST_AGAINST,
  LONGEST_HEARD,
} from './limits';
import { numbered } from './numbered';
import type { End, Outcome } from './outcome';
import { patienceFor } from './patience';
import { RoundTrip } from './round-trip';
import type { Transport } from './transport';

export type WireOptions = {
  /** Shortest wait before the machine is asked what it has, ms; it grows with what its answers really take. */
  patienceMs?: number;
  /** Every line that comes in. */
  heard?: (answer: Answer, text: string) => void;
  /** Every line that goes out, without its number and sum. */
  told?: (command: string) => void;
  ended?: (end: End) => void;
};

type UnderWay = { number: number; at: number; bytes: number };
type Waiting = { resolve: (outcome: Outcome) => void; said: string[] };

export class Wire {
  private transport: Transport;
  private readonly texts = new Map<number, string>();
  private readonly waiting = new Map<number, Waiting>();
  /** Number of the next new line, and of the next to be sent: lower while lines are sent again. */
  private next = 1;
  private cursor = 1;
  /** One past the highest line that was ever sent. */
  private top = 1;
  private underWay: UnderWay[] = [];
  private bytes = 0;
  /** Highest line that was taken: as the answers count, and as the machine has proven. */
  private taken = 0;
  private proven = 0;
  private state: 'run' | 'draining' | 'asking' | 'held' = 'run';
  private window = 1;
  /** Answers that still belong to a wish to have a line again. */
  private swallow = 0;
  private okFollows = true;
  private missed = 0;
  private again = 0;
  private against = 0;
  private doubted = 0;
  private ear = '';
  private readonly trip: RoundTrip;
  private life = 0;
  private asked = 0;
  private askWait = 0;
  private timer: NodeJS.Timeout | null = null;
  private tick: NodeJS.Timeout | null = null;
  private end: End | null = null;
  private idle: (() => void)[] = [];
  private proof: ((expected: number) => void) | null = null;
  /** Lines that had to be sent again. */
  resends = 0;

  constructor(
    transport: Transport,
    private readonly options: WireOptions = {},
  ) {
    this.transport = transport;
    this.trip = new RoundTrip(options.patienceMs ?? PATIENCE_MS);
    this.listen();
  }

  /** Highest line that the machine has surely taken. */
  get sure(): number {
    return this.proven;
  }

  /** Lines that were given and not answered yet. */
  get open(): number {
    return this.next - 1 - this.taken;
  }

  /** Number that the next line gets. */
  get coming(): number {
    return this.next;
  }

  /** How many lines may be given before an answer comes. */
  get room(): number {
    return Math.max(0, this.window - this.open);
  }

  get over(): End | null {
    return this.end;
  }

  private listen(): void {
    const { transport } = this;
    transport.heard = (text) => this.hear(text);
    transport.lost = (why) => this.finish({ why: 'lost', text: `The link was lost: ${why}.` });
  }

  /**
   * Sets both counters to nothing, so that numbering can begin. @param withinMs how long the machine may be silent
   * @returns whether it answered
   */
  async begin(withinMs: number, everyMs = 700): Promise<boolean> {
    const until = performance.now() + withinMs;
    this.state = 'held';
    while (!this.end && performance.now() < until) {
      const came = new Promise<boolean>((resolve) => {
        const late = setTimeout(() => resolve(false), everyMs);
        this.proof = (line) => {
          // Its own wish for line 1 says as much as an `ok`.
          if (line > 1) return;
          clearTimeout(late);
          resolve(true);
        };
      });
      this.transport.write(`\n${numbered(0, 'M110 N0')}`);
      if (!(await came)) continue;
      // What was said before it, or to one that was asked twice, is let pass.
      await new Promise((resolve) => setTimeout(resolve, Math.max(60, this.trip.quiet)));
      this.proof = null;
      this.state = 'run';
      this.swallow = 0;
      this.pump();
      return true;
    }
    this.proof = null;
    return false;
  }

  /** Gives a command to the machine. The promise is kept when it was taken, or when the wire has ended. */
  send(command: string): Promise<Outcome> {
    if (this.end) return Promise.resolve({ ok: false, end: this.end });
    const number = this.next++;
    this.texts.set(number, command);
    this.texts.delete(number - KEPT);
    const outcome = new Promise<Outcome>((resolve) =>
      this.waiting.set(number, { resolve, said: [] }),
    );
    this.pump();
    return outcome;
  }

  /** Waits until there is room for another line. */
  async space(): Promise<void> {
    while (!this.end && this.room === 0)
      await new Promise<void>((resolve) => this.idle.push(resolve));
  }

  /** Asks the machine until it has proven that it took everything that was sent. */
  async settle(): Promise<Outcome> {
    while (!this.end && this.proven < this.next - 1) {
      while (!this.end && this.open > 0)
        await new Promise<void>((resolve) => this.idle.push(resolve));
      if (this.end || this.proven >= this.next - 1) break;
      if (this.state === 'run') this.ask();
      await new Promise<void>((resolve) => this.idle.push(resolve));
    }
    return this.end ? { ok: false, end: this.end } : { ok: true, said: [] };
  }

  /** Past every line, without a number: for what cannot wait. */
  shout(command: string): void {
    if (this.end?.why === 'lost' || this.end?.why === 'closed') return;
    this.options.told?.(command);
    // A line end first: half a line may stand in the machine's ear.
    this.transport.write(`\n${command}\n`);
  }

  /** Stops the machine at once; nothing is sent to it after that. */
  emergency(): void {
    this.shout('M112');
    // Once more with a number, for who takes no other: from here on numbers matter no more.
    if (this.end?.why !== 'lost' && this.end?.why !== 'closed')
      this.transport.write(numbered(this.taken + 1, 'M112'));
    this.finish({ why: 'halted', text: 'It was stopped by the emergency stop.' });
  }

  /**
   * Goes on over another connection after the old one was lost: asks the machine what it has, and holds. Lines that
   * were not taken wait for `go` or `drop`. @returns the line that it expects next, or that it counts from the start
   * again; null when it does not say
   */
  async reopen(transport: Transport, withinMs: number): Promise<number | 'restarted' | null> {
    this.transport.close();
    this.transport = transport;
    this.end = null;
    this.ear = '';
    this.underWay = [];
    this.bytes = 0;
    this.state = 'held';
    this.listen();
    const until = performance.now() + withinMs;
    let expected: number | null = null;
    while (!this.end && expected === null && performance.now() < until) {
      expected = await new Promise<number | null>((resolve) => {
        const late = setTimeout(() => resolve(null), 700);
        this.proof = (line) => {
          if (line < 1) return;
          clearTimeout(late);
          resolve(line);
        };
        this.transport.write(`\n${numbered(this.next + AHEAD, 'M105')}`);
      });
    }
    this.proof = null;
    if (expected === null) return null;
    if (this.contradicts(expected)) return 'restarted';
    this.believe(expected);
    return expected;
  }

  /** After `reopen`: sends what was not taken. */
  go(): void {
    if (this.state !== 'held' || this.end) return;
    this.resume();
  }

  /** Forgets what was given and not taken, so that what comes next is the machine's next line. Only when held. */
  drop(): void {
    for (let number = this.taken + 1; number < this.next; number++) {
      this.answerTo(number, { ok: false, end: { why: 'closed', text: 'It was not sent.' } });
      this.texts.delete(number);
    }
    this.next = this.cursor = this.top = this.taken + 1;
    this.state = 'run';
  }

  /** Numbers from the start again, with nothing of what was, unless there is no machine that could hear them. */
  async anew(withinMs: number): Promise<boolean> {
    if (this.end && /^(?:lost|closed|halted)$/.test(this.end.why)) return false;
    const end: End = this.end ?? { why: 'restarted', text: 'The machine has restarted.' };
    for (const number of [...this.waiting.keys()]) this.answerTo(number, { ok: false, end });
    this.end = null;
    this.texts.clear();
    this.next = this.cursor = this.top = 1;
    this.taken = this.proven = this.bytes = this.against = this.again = 0;
    this.underWay = [];
    return this.begin(withinMs);
  }

  close(): void {
    this.finish({ why: 'closed', text: 'The link was closed.' });
    this.transport.close();
  }

  private pump(): void {
    if (this.state !== 'run' || this.end) return;
    let out = '';
    while (this.cursor < this.next && this.underWay.length < this.window) {
      const number = this.cursor;
      const command = this.texts.get(number);
      if (command === undefined) return this.tooOld(number);
      const line = numbered(number, command);
      if (this.underWay.length > 0 && this.bytes + line.length > MOST_BYTES) break;
      this.cursor++;
      this.top = Math.max(this.top, this.cursor);
      this.bytes += line.length;
      this.underWay.push({ number, at: performance.now(), bytes: line.length });
      this.options.told?.(command);
      out += line;
    }
    if (out === '') return;
    this.transport.write(out);
    this.startWatch();
  }

  private startWatch(): void {
    const every = Math.min(TICK_MS, Math.max(2, (this.options.patienceMs ?? PATIENCE_MS) / 4));
    this.tick ??= setInterval(() => this.watch(), every);
  }

  private tooOld(number: number): void {
    this.finish({
      why: 'too-old',
      text: `The machine asks for line ${number} again, which is not kept any more: the last ${KEPT} are.`,
    });
  }

  /** Looks for what is late. */
  private watch(): void {
    const front = this.underWay[0];
    const now = performance.now();
    if (this.state === 'run' && !front) {
      if (this.tick) clearInterval(this.tick);
      this.tick = null;
      return;
    }
    if (this.state === 'draining' || this.state === 'held') return;
    const command = front ? (this.texts.get(front.number) ?? '') : '';
    const { long, limitMs } = patienceFor(command);
    const silent = now - Math.max(front?.at ?? this.asked, this.life);
    if (front && now - Math.max(front.at, this.life) > limitMs)
      return this.finish({
        why: 'silent',
        text: `The machine has not answered ${command.slice(0, 60)} for ${Math.round(limitMs / 1000)} s.`,
      });
    if (this.state === 'run') {
      if (silent > (long ? LONG_SILENCE_MS : this.trip.patience)) this.ask();
    } else if (now - this.asked > this.askWait) {
      this.askWait = Math.min(5000, this.askWait * 2);
      this.ask(this.askWait);
    }
  }

  /** Asks which line the machine expects: it wants that one again when another comes. */
  private ask(wait = 2 * this.trip.patience): void {
    this.state = 'asking';
    this.asked = performance.now();
    this.askWait = wait;
    this.transport.write(`\n${numbered(this.next + AHEAD, 'M105')}`);
    this.startWatch();
  }

  private hear(text: string): void {
    this.ear += text;
    let from = 0;
    for (
      let to = this.ear.indexOf('\n', from);
      to !== -1 && !this.end;
      to = this.ear.indexOf('\n', from)
    ) {
      this.line(this.ear.slice(from, to));
      from = to + 1;
    }
    this.ear = this.ear.slice(from);
    if (this.ear.length > LONGEST_HEARD) this.ear = '';
    // Only when all that came has been understood: a doubled answer stands right beside the first.
    this.pump();
    this.wake();
  }

  private wake(): void {
    if (this.idle.length === 0) return;
    const woken = this.idle;
    this.idle = [];
    for (const one of woken) one();
  }

  private line(raw: string): void {
    const answer = readAnswer(raw);
    if (!answer) return;
    this.options.heard?.(answer, raw);
    switch (answer.kind) {
      case 'ok':
        return this.onOk(answer);
      case 'resend':
        return this.onAgain(answer.line);
      case 'halted':
        return this.finish({ why: 'halted', text: `The machine has stopped: ${answer.text}` });
      case 'greeting':
        if (this.state === 'held' || this.next === 1) return;
        return this.finish({
          why: 'restarted',
          text: 'The machine has restarted: it greets as after switching on.',
        });
      case 'wait':
        return this.onWait();
      case 'spoilt':
        return;
      default:
        this.life = performance.now();
        this.keepSaid(raw);
    }
  }

  /** The machine has nothing to do: the answer to what is under way was lost, or the line itself. */
  private onWait(): void {
    const front = this.underWay[0];
    if (this.state !== 'run' || !front) return;
    if (performance.now() - front.at > this.trip.quiet) this.ask();
  }

  private keepSaid(raw: string): void {
    const front = this.underWay[0];
    const said = front && this.waiting.get(front.number)?.said;
    if (said && said.length < MOST_SAID) said.push(raw.trim());
  }

  private onOk({ line, room, heat }: Answer & { kind: 'ok' }): void {
    if (room !== undefined) this.window = Math.min(MOST_AHEAD, Math.max(this.window, room, 1));
    if (this.state === 'held') return this.proof?.(0);
    if (this.swallow > 0) {
      this.swallow--;
      this.missed = 0;
      if (this.state === 'draining' && this.swallow === 0 && this.underWay.length === 0)
        this.resume();
      return;
    }
    const front = this.underWay[0];
    // With nothing under way it was doubled, or belongs to what was proven taken meanwhile.
    if (!front) return;
    if (line !== undefined) {
      if (line < front.number || line >= this.top) return;
      while (this.underWay[0] && this.underWay[0].number <= line) this.pop();
      this.prove(line);
      return this.advance(line);
    }
    if (heat) {
      const asks = /^M105\b/.test(this.texts.get(front.number) ?? '');
      // Only that command is answered so: if another stands in front, answers have shifted.
      if (!asks) return this.state === 'run' ? this.ask() : undefined;
      this.prove(front.number);
    }
    this.pop();
    this.advance(front.number);
  }

  private pop(): void {
    const { at, bytes } = this.underWay.shift()!;
    this.bytes -= bytes;
    this.trip.took(performance.now() - at);
    this.again = 0;
  }

  private advance(line: number): void {
    for (let number = this.taken + 1; number <= line; number++)
      this.answerTo(number, { ok: true, said: this.waiting.get(number)?.said ?? [] });
    this.taken = Math.max(this.taken, line);
  }

  private answerTo(number: number, outcome: Outcome): void {
    const waits = this.waiting.get(number);
    if (!waits) return;
    this.waiting.delete(number);
    waits.resolve(outcome);
  }

  private prove(line: number): void {
    this.proven = Math.max(this.proven, line);
    this.against = 0;
  }

  private onAgain(expected: number): void {
    this.swallow = this.okFollows ? 1 : 0;
    if (this.state === 'held') return this.proof?.(expected);
    if (this.contradicts(expected)) return this.onContradiction(expected);
    if (expected < this.next - KEPT) return this.tooOld(expected);
    if (this.state === 'run') {
      this.resends++;
      if (++this.again > MOST_AGAIN)
        return this.finish({
          why: 'spoilt',
          text: `Line ${expected} came damaged ${MOST_AGAIN} times in a row. The cable or the speed of the port is wrong.`,
        });
    }
    if (this.state === 'draining' && this.underWay.length > 0) this.underWay.shift();
    if (this.state === 'run') this.underWay.shift();
    this.believe(expected);
    this.state = 'draining';
    this.cursor = expected;
    if (this.swallow === 0 && this.underWay.length === 0) return this.resume();
    this.drain();
  }

  /**
   * What it expects contradicts what it has proven: a damaged or doubled answer, or it has lost its count. It is asked
   * again; what it says several times in a row is so, if it is only a few lines off: then a damaged answer was believed.
   */
  private onContradiction(expected: number): void {
    this.against = expected === this.doubted ? this.against + 1 : 1;
    this.doubted = expected;
    if (this.against > MOST_AGAINST && this.state === 'asking') {
      const off = this.proven - (expected - 1);
      if (expected === 1 || off <= 0 || off > MOST_AHEAD)
        return this.finish({
          why: 'restarted',
          text: `The machine asks for line ${expected}, though it has taken ${this.proven}: it has restarted or lost its count.`,
        });
      this.proven = this.taken = expected - 1;
      this.against = 0;
      this.state = 'draining';
      return this.drain();
    }
    if (this.state !== 'asking') this.ask();
  }

  /** Whether what it expects cannot be, after all that it has taken. Some answers too many may have been counted. */
  private contradicts(expected: number): boolean {
    return (
      expected <= this.proven ||
      expected > this.top ||
      (expected === 1 && this.taken > 1) ||
      expected < this.taken - MOST_AHEAD
    );
  }

  /** The machine says what it expects: everything before is taken, nothing from there on. */
  private believe(expected: number): void {
    this.prove(expected - 1);
    if (this.taken < expected - 1) this.advance(expected - 1);
    this.taken = expected - 1;
  }

  /** Goes on when nothing has come for a while. */
  private drain(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      if (this.state !== 'draining') return;
      if (this.swallow > 0 && ++this.missed >= 3) this.okFollows = false;
      this.resume();
      this.wake();
    }, this.trip.quiet);
  }

  private resume(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    this.underWay = [];
    this.bytes = 0;
    this.swallow = 0;
    this.cursor = this.taken + 1;
    this.state = 'run';
    this.pump();
  }

  private finish(end: End): void {
    if (this.end) return;
    this.end = end;
    if (this.timer) clearTimeout(this.timer);
    if (this.tick) clearInterval(this.tick);
    this.tick = this.timer = null;
    // After a lost link the lines that wait may still be sent; everything else is the end of them.
    if (end.why !== 'lost')
      for (const number of [...this.waiting.keys()]) this.answerTo(number, { ok: false, end });
    this.options.ended?.(end);
    this.wake();
  }
}
