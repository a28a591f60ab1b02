/**
 * The host's side of the wire (docs/domain.md §11): numbered lines with sums, as many under way as the machine has
 * room for. Whatever is lost, doubled, damaged or late, the machine executes every line once and in order, since it
 * counts them itself; what an `ok` belongs to is a guess, what a machine asks for is proof.
 */

import type { Answer } from './answers';
import { Awake } from './awake';
import { Ear } from './ear';
import {
  KEPT,
  AHEAD,
  COMING_MS,
  PATIENCE_MS,
  TICK_MS,
  LONG_SILENCE_MS,
  LATEST_ASKED_MS,
  MOST_BYTES,
  MOST_AHEAD,
  MOST_SAID,
  MOST_AGAIN,
  MOST_AGAINST,
} from './limits';
import { askWhatItHas } from './meeting';
import { numbered } from './numbered';
import type { End, Has, HostWire, Outcome } from './outcome';
import { patienceForAll } from './patience';
import { RoundTrip } from './round-trip';
import type { Transport } from './transport';

export type WireOptions = {
  /** Shortest wait before the machine is asked what it has, ms; it grows with what its answers really take. */
  patienceMs?: number;
  /** Divides how long a silent machine is borne, for tests. */
  hurry?: number;
  /** Every line that comes in. */
  heard?: (answer: Answer, text: string) => void;
  /** Every line that goes out, without its number and sum. */
  told?: (command: string) => void;
  ended?: (end: End) => void;
};

type UnderWay = { number: number; at: number; bytes: number };
type Waiting = { resolve: (outcome: Outcome) => void; said: string[] };

/** How long between two asks at the most, ms. */
const LONGEST_ASK_MS = 5000;

/** The wire to a machine that counts lines. */
export class Wire implements HostWire {
  readonly counts = true;
  private transport: Transport;
  private readonly texts = new Map<number, string>();
  private readonly waiting = new Map<number, Waiting>();
  /** Number of the next new line, and of the next to be sent: lower while lines are sent again. */
  private next: number;
  private cursor: number;
  /** One past the highest line that was ever sent. */
  private top: number;
  private underWay: UnderWay[] = [];
  private bytes = 0;
  /** Highest line that was taken: as the answers count, and as the machine has proven. */
  private taken: number;
  private proven: number;
  private state: 'run' | 'draining' | 'asking' = 'run';
  private window = 1;
  /** Answers that still belong to a wish to have a line again. */
  private swallow = 0;
  private okFollows = true;
  private missed = 0;
  private again = 0;
  private against = 0;
  private doubted = 0;
  private readonly ear = new Ear((answer, raw) => this.line(answer, raw));
  private readonly trip: RoundTrip;
  /** When it said anything last; and when it last proved what it has, ms. */
  private life = performance.now();
  private provenAt = performance.now();
  private readonly awake = new Awake();
  private asked = 0;
  /** Since when it is asked without an answer. */
  private askedFirst = 0;
  private askWait = 0;
  private timer: NodeJS.Timeout | null = null;
  private tick: NodeJS.Timeout | null = null;
  private end: End | null = null;
  private idle: (() => void)[] = [];
  resends = 0;

  /** @param expects the line that the machine expects next, as it has said when it was met */
  constructor(
    transport: Transport,
    private readonly options: WireOptions = {},
    expects = 1,
  ) {
    this.transport = transport;
    this.trip = new RoundTrip(options.patienceMs ?? PATIENCE_MS);
    this.next = this.cursor = this.top = expects;
    this.taken = this.proven = expects - 1;
    this.listen();
  }

  get sure(): number {
    return this.proven;
  }

  get open(): number {
    return this.next - 1 - this.taken;
  }

  get coming(): number {
    return this.next;
  }

  get room(): number {
    return Math.max(0, this.window - this.open);
  }

  get over(): End | null {
    return this.end;
  }

  get heardAt(): number {
    return this.life;
  }

  private listen(): void {
    const { transport } = this;
    transport.heard = (text) => {
      this.ear.hear(text);
      // Only when all that came has been understood: a doubled answer stands right beside the first.
      this.pump();
      this.wake();
    };
    transport.lost = (why) => this.finish({ why: 'lost', text: `The link was lost: ${why}.` });
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

  async space(): Promise<void> {
    while (!this.end && this.room === 0)
      await new Promise<void>((resolve) => this.idle.push(resolve));
  }

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

  shout(command: string): void {
    if (this.gone) return;
    this.options.told?.(command);
    // A line end first: half a line may stand in the machine's ear.
    this.transport.write(`\n${command}\n`);
  }

  private get gone(): boolean {
    return this.end?.why === 'lost' || this.end?.why === 'closed';
  }

  emergency(): void {
    this.shout('M112');
    // Once more with a number, for who takes no other: from here on numbers matter no more.
    if (!this.gone) this.transport.write(numbered(this.taken + 1, 'M112'));
    this.finish({ why: 'halted', text: 'It was stopped by the emergency stop.' });
  }

  async letGo(): Promise<void> {
    this.finish({ why: 'lost', text: 'The link was lost: it was let go.' });
    await this.transport.close();
  }

  async reopen(transport: Transport, withinMs: number): Promise<Has> {
    await this.letGo();
    const { heard } = this.options;
    const has = await askWhatItHas(
      transport,
      this.next + AHEAD,
      (line) => !this.contradicts(line),
      { withinMs, ...(heard ? { heard } : {}) },
    );
    if (has.kind !== 'expects') {
      await transport.close();
      return has;
    }
    this.transport = transport;
    this.ear.forget();
    this.underWay = [];
    this.bytes = this.swallow = this.against = this.again = 0;
    this.life = this.provenAt = performance.now();
    this.end = null;
    this.listen();
    if (this.contradicts(has.line)) {
      this.finish({
        why: 'restarted',
        text: 'The machine has restarted: it counts its lines anew.',
      });
      return { kind: 'restarted' };
    }
    this.prove(has.line - 1);
    for (let number = has.line; number < this.next; number++) this.texts.delete(number);
    this.taken = has.line - 1;
    this.next = this.cursor = this.top = has.line;
    this.state = 'run';
    return has;
  }

  async close(): Promise<void> {
    this.finish({ why: 'closed', text: 'The link was closed.' });
    await this.transport.close();
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
    if (!this.tick) this.awake.begin();
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
    if (this.state === 'draining') return;
    const { long, silentMs, mostMs } = patienceForAll(
      this.underWay.map(({ number }) => this.texts.get(number) ?? ''),
      this.options.hurry,
    );
    const since = front ? front.at : this.askedFirst;
    const missed = this.awake.missed();
    if (missed > 0) this.life = Math.min(now, Math.max(since, this.life) + missed);
    if (now - Math.max(since, this.life) > silentMs) return this.silent(silentMs, front);
    if (this.state === 'asking' && now - this.askedFirst > mostMs)
      return this.silent(mostMs, front);
    // What it begins to say may be the answer.
    if (this.ear.isComing(COMING_MS)) return;
    if (this.state === 'run') {
      const quietFor = now - Math.max(since, this.life);
      // Who talks all the time is asked as well, only later.
      const unproven = now - Math.max(since, this.provenAt);
      if (
        quietFor > (long ? LONG_SILENCE_MS : this.trip.patience) ||
        unproven > (long ? 6 : 1) * LATEST_ASKED_MS
      )
        this.ask();
    } else if (now - this.asked > this.askWait) {
      this.askWait = Math.min(LONGEST_ASK_MS, this.askWait * 2);
      this.ask(this.askWait);
    }
  }

  private silent(ms: number, front: UnderWay | undefined): void {
    const asked = (front && this.texts.get(front.number)) ?? 'what it has';
    this.finish({
      why: 'silent',
      text: `The machine has not answered ${asked.slice(0, 60)} for ${Math.round(ms / 1000)} s.`,
    });
  }

  /** Asks which line the machine expects: it wants that one again when another comes. */
  private ask(wait = 2 * this.trip.patience): void {
    this.asked = performance.now();
    if (this.state !== 'asking') this.askedFirst = this.asked;
    this.state = 'asking';
    this.askWait = wait;
    this.transport.write(`\n${numbered(this.next + AHEAD, 'M105')}`);
    this.startWatch();
  }

  private wake(): void {
    if (this.idle.length === 0) return;
    const woken = this.idle;
    this.idle = [];
    for (const one of woken) one();
  }

  /** @returns false when nothing after it is to be looked at */
  private line(answer: Answer, raw: string): boolean {
    this.options.heard?.(answer, raw);
    this.life = performance.now();
    this.take(answer, raw);
    return this.end === null;
  }

  private take(answer: Answer, raw: string): void {
    switch (answer.kind) {
      case 'ok':
        return this.onOk(answer);
      case 'resend':
        return this.onAgain(answer.line);
      case 'halted':
        return this.finish({ why: 'halted', text: `The machine has stopped: ${answer.text}` });
      case 'greeting':
        return this.finish({
          why: 'restarted',
          text: 'The machine has restarted: it greets as after switching on.',
        });
      case 'wait':
        return this.onWait();
      case 'spoilt':
        return;
      default:
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
    this.provenAt = performance.now();
    this.against = 0;
  }

  private onAgain(expected: number): void {
    this.swallow = this.okFollows ? 1 : 0;
    // How long it takes to say so is how long it is to be waited for the next time.
    if (this.state === 'asking') this.trip.took(performance.now() - this.asked);
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
    for (const number of [...this.waiting.keys()]) this.answerTo(number, { ok: false, end });
    this.options.ended?.(end);
    this.wake();
  }
}
