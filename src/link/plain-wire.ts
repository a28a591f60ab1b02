/**
 * The wire to a machine that counts no lines: one line at a time, and nothing ahead of its answer. Where an answer stays
 * out nobody can know whether the line was done, so that is the end of it: nothing is ever sent on a guess.
 */

import type { Answer } from './answers';
import { Awake } from './awake';
import { Ear } from './ear';
import { COMING_MS, MOST_AGAIN, MOST_SAID, PLAIN_TICK_MS } from './limits';
import { numbered } from './numbered';
import type { End, Has, HostWire, Outcome } from './outcome';
import { patienceForAll } from './patience';
import type { Transport } from './transport';
import type { WireOptions } from './wire';

type Given = { command: string; resolve: (outcome: Outcome) => void };

export class PlainWire implements HostWire {
  readonly counts = false;
  private readonly given: Given[] = [];
  private underWay: (Given & { at: number; said: string[]; again: number }) | null = null;
  /** Lines that were given and that were answered. */
  private last = 0;
  private taken = 0;
  private life = performance.now();
  private readonly awake = new Awake();
  private end: End | null = null;
  private idle: (() => void)[] = [];
  private readonly tick: NodeJS.Timeout;
  private readonly ear = new Ear((answer, raw) => this.line(answer, raw));
  resends = 0;

  /** @param numbers whether it wants lines to have a number and a sum, though it does not count them */
  constructor(
    private readonly transport: Transport,
    private readonly numbers: boolean,
    private readonly options: WireOptions = {},
  ) {
    transport.heard = (text) => this.ear.hear(text);
    transport.lost = (why) => this.finish({ why: 'lost', text: `The link was lost: ${why}.` });
    this.tick = setInterval(() => this.watch(), PLAIN_TICK_MS);
    this.tick.unref();
  }

  get sure(): number {
    return this.taken;
  }
  get open(): number {
    return this.last - this.taken;
  }
  get coming(): number {
    return this.last + 1;
  }
  get room(): number {
    return this.open === 0 ? 1 : 0;
  }
  get over(): End | null {
    return this.end;
  }
  get heardAt(): number {
    return this.life;
  }

  send(command: string): Promise<Outcome> {
    if (this.end) return Promise.resolve({ ok: false, end: this.end });
    this.last++;
    const outcome = new Promise<Outcome>((resolve) => this.given.push({ command, resolve }));
    this.pump();
    return outcome;
  }

  async space(): Promise<void> {
    while (!this.end && this.room === 0)
      await new Promise<void>((resolve) => this.idle.push(resolve));
  }

  async settle(): Promise<Outcome> {
    await this.space();
    return this.end ? { ok: false, end: this.end } : { ok: true, said: [] };
  }

  private pump(): void {
    if (this.underWay || this.end) return;
    const next = this.given.shift();
    if (!next) return;
    this.underWay = { ...next, at: performance.now(), said: [], again: 0 };
    this.options.told?.(next.command);
    this.write();
  }

  private write(): void {
    const { command } = this.underWay!;
    this.transport.write(this.numbers ? numbered(this.taken + 1, command) : `${command}\n`);
  }

  private line(answer: Answer, raw: string): boolean {
    this.options.heard?.(answer, raw);
    this.life = performance.now();
    if (answer.kind === 'ok') this.onOk();
    else if (answer.kind === 'resend') this.onAgain(answer.line);
    else if (answer.kind === 'halted')
      this.finish({ why: 'halted', text: `The machine has stopped: ${answer.text}` });
    else if (answer.kind === 'greeting')
      this.finish({
        why: 'restarted',
        text: 'The machine has restarted: it greets as after switching on.',
      });
    else if (answer.kind !== 'wait' && answer.kind !== 'spoilt') {
      const said = this.underWay?.said;
      if (said && said.length < MOST_SAID) said.push(raw.trim());
    }
    return this.end === null;
  }

  private onOk(): void {
    const done = this.underWay;
    if (!done) return;
    this.underWay = null;
    this.taken++;
    done.resolve({ ok: true, said: done.said });
    this.pump();
    this.wake();
  }

  /** It looks at sums after all: what came damaged was not done, and is sent again. */
  private onAgain(line: number): void {
    if (!this.underWay) return;
    if (line !== this.taken + 1)
      return this.finish({
        why: 'unsure',
        text: `The machine did not count lines, and asks for line ${line} now: what it has done is not known.`,
      });
    this.resends++;
    if (++this.underWay.again > MOST_AGAIN)
      return this.finish({
        why: 'spoilt',
        text: `Line ${line} came damaged ${MOST_AGAIN} times in a row. The cable or the speed of the port is wrong.`,
      });
    this.write();
  }

  private watch(): void {
    const { underWay } = this;
    // Its ticks are further apart than what counts as held up: that much is taken off.
    const missed = this.awake.missed() - PLAIN_TICK_MS;
    if (underWay && missed > PLAIN_TICK_MS)
      this.life = Math.min(performance.now(), Math.max(underWay.at, this.life) + missed);
    if (!underWay || this.ear.isComing(COMING_MS)) return;
    const now = performance.now();
    const { silentMs, mostMs } = patienceForAll([underWay.command], this.options.hurry);
    const over =
      now - Math.max(underWay.at, this.life) > silentMs
        ? silentMs
        : now - underWay.at > mostMs
          ? mostMs
          : null;
    if (over !== null)
      this.finish({
        why: 'silent',
        text: `The machine has not answered ${underWay.command.slice(0, 60)} for ${Math.round(over / 1000)} s.`,
      });
  }

  shout(command: string): void {
    if (this.end?.why === 'lost' || this.end?.why === 'closed') return;
    this.options.told?.(command);
    this.transport.write(`\n${command}\n`);
  }

  emergency(): void {
    this.shout('M112');
    this.finish({ why: 'halted', text: 'It was stopped by the emergency stop.' });
  }

  async letGo(): Promise<void> {
    this.finish({ why: 'lost', text: 'The link was lost: it was let go.' });
    await this.transport.close();
  }

  /** Who counts no lines cannot say which of them it has. */
  async reopen(transport: Transport): Promise<Has> {
    await Promise.all([this.letGo(), transport.close()]);
    return { kind: 'uncounted' };
  }

  async close(): Promise<void> {
    this.finish({ why: 'closed', text: 'The link was closed.' });
    await this.transport.close();
  }

  private wake(): void {
    for (const one of this.idle.splice(0)) one();
  }

  private finish(end: End): void {
    if (this.end) return;
    this.end = end;
    clearInterval(this.tick);
    const left = this.underWay ? [this.underWay, ...this.given] : this.given;
    this.underWay = null;
    for (const { resolve } of [...left]) resolve({ ok: false, end });
    this.given.length = 0;
    this.options.ended?.(end);
    this.wake();
  }
}
