/** A machine on the wire: found at an address, asked what it is, told things one by one. */

import type { Heat, Temperatures } from '../core/link-state';
import { fail, ok, problem, type Problem, type Result } from '../core/result';
import { heatersOf } from './cooling';
import { addressText, USUAL_SPEEDS, type Address } from './address';
import { heatIn, type Answer } from './answers';
import { meet, type Meeting, type Met } from './meeting';
import { numbered } from './numbered';
import type { End, Has, HostWire } from './outcome';
import { WAITS_MS } from './patience';
import { PlainWire } from './plain-wire';
import { openTransport, type Transport } from './transport';
import { Wire, type WireOptions } from './wire';

export type Listener = {
  /** Every line in either direction, as a person would read it. */
  talk?: (line: string, from: 'host' | 'machine') => void;
  heat?: (heat: Temperatures) => void;
  ended?: (end: End) => void;
  /** The machine waits for a button to be pressed. */
  person?: () => void;
  /** It has refused something, in its own words. */
  refused?: (text: string) => void;
};

export type MachineOptions = {
  patienceMs?: number;
  /** Divides how long a silent machine is borne, for tests. */
  hurry?: number;
  /** How long it may be silent before it is given up, ms; and in all, while it says something. */
  withinMs?: number;
  mostMs?: number;
  everyMs?: number;
};

const RESTARTS_MS = 500;

export class Machine {
  /** What it says it is. */
  about = '';
  heat: Temperatures = {};
  /** Nozzles that have a heater of their own. */
  tools = 1;
  private refused: string | null = null;
  private now: HostWire | null = null;
  readonly listeners = new Set<Listener>();

  private constructor(
    readonly address: Address,
    private readonly options: MachineOptions,
  ) {}

  /** What it is spoken to over; another one after {@link anew}. */
  get wire(): HostWire {
    return this.now!;
  }

  /** Opens the address and asks who is there. */
  static async find(address: Address, options: MachineOptions = {}): Promise<Result<Machine>> {
    const tried =
      address.by === 'serial' && address.speed === undefined ? USUAL_SPEEDS : [undefined];
    let first: Result<Machine> | null = null;
    for (const speed of tried) {
      const opened = await openTransport(address, speed);
      if (!opened.ok) return first ?? opened;
      const machine = new Machine(
        speed === undefined || address.by === 'tcp' ? address : { ...address, speed },
        options,
      );
      const withinMs = options.withinMs ?? (tried.length > 1 ? WAITS_MS.speed : WAITS_MS.comesUp);
      const joined = await machine.join(opened.value, {
        mostMs: WAITS_MS.comesUpBusy,
        ...options,
        withinMs,
      });
      if (joined.ok) return ok(machine);
      first ??= joined;
    }
    return first!;
  }

  /** The first words over a connection, and the wire that follows from them. */
  private async join(transport: Transport, how: Meeting): Promise<Result<null>> {
    const wireOptions: WireOptions = {
      ...(this.options.patienceMs === undefined ? {} : { patienceMs: this.options.patienceMs }),
      ...(this.options.hurry === undefined ? {} : { hurry: this.options.hurry }),
      heard: (answer, text) => this.hear(answer, text),
      told: (command) => this.tell('talk', command, 'host'),
      ended: (end) => this.tell('ended', end),
    };
    const met = await meet(transport, { ...how, heard: (answer, text) => this.hear(answer, text) });
    if (met.kind !== 'counts' && met.kind !== 'uncounted') {
      await transport.close();
      return fail(notMet(this.address, met));
    }
    const wire = (this.now =
      met.kind === 'counts'
        ? new Wire(transport, wireOptions, met.expects)
        : new PlainWire(transport, met.numbers, wireOptions));
    const said = await wire.send('M115');
    if (!said.ok) {
      await wire.close();
      return fail(notMet(this.address, { kind: 'lost', text: said.end.text }));
    }
    this.about = said.said
      .filter((line) => !/^cap:/i.test(line) && heatIn(line) === null)
      .join(' ')
      .slice(0, 400);
    return ok(null);
  }

  private hear(answer: Answer, text: string): void {
    this.tell('talk', text.trim(), 'machine');
    const heat = answer.kind === 'heat' || answer.kind === 'ok' ? answer.heat : undefined;
    if (heat) {
      this.heat = { ...this.heat, ...told(this.heat, heat) };
      this.tell('heat', this.heat);
    }
    if (answer.kind === 'busy' && answer.forPerson) this.tell('person');
    // What is asked for again was damaged on its way, not refused, in whatever words.
    if (answer.kind === 'error') this.refused = answer.text;
    else if (answer.kind === 'resend' || answer.kind === 'spoilt') this.refused = null;
    else if (answer.kind === 'ok' && this.refused !== null) {
      this.tell('refused', this.refused);
      this.refused = null;
    }
  }

  private tell<K extends keyof Listener>(
    name: K,
    ...what: Parameters<NonNullable<Listener[K]>>
  ): void {
    for (const listener of this.listeners)
      (listener[name] as ((...given: typeof what) => void) | undefined)?.(...what);
  }

  /** Sends one command. @returns what was said to it */
  async ask(command: string): Promise<Result<string[]>> {
    const outcome = await this.wire.send(command);
    if (outcome.ok) return ok(outcome.said);
    return fail(ended(outcome.end));
  }

  /** Sends several, in order; ends at the first that is not taken. */
  async each(commands: readonly string[]): Promise<Result<string[]>> {
    const said: string[] = [];
    for (const command of commands) {
      const answer = await this.ask(command);
      if (!answer.ok) return answer;
      said.push(...answer.value);
    }
    return ok(said);
  }

  /** Heaters and fan off. */
  cool(): Promise<Result<string[]>> {
    const nozzles =
      this.tools > 1
        ? Array.from({ length: this.tools }, (_, tool) => `M104 T${tool} S0`)
        : ['M104 S0'];
    return this.each([...nozzles, 'M140 S0', 'M107']);
  }

  /** Asks whether a heater is told to be warm; what it does not say may be. */
  async isHot(): Promise<boolean> {
    await this.wire.send('M105');
    return !this.heat.nozzle || heatersOf(this.heat).some(({ target }) => target !== 0);
  }

  /** Asks over another connection what it has: see {@link HostWire.reopen}. @param withinMs in all */
  async again(withinMs: number): Promise<Result<Has>> {
    const until = performance.now() + withinMs;
    await this.wire.letGo();
    const opened = await openTransport(this.address);
    if (!opened.ok) return opened;
    const most = WAITS_MS.asked / (this.options.hurry ?? 1);
    const left = Math.min(most, Math.max(0, until - performance.now()));
    return ok(await this.wire.reopen(opened.value, left));
  }

  /** Meets it once more over another connection, with nothing of what was: numbers begin anew. */
  async anew(withinMs: number): Promise<Result<null>> {
    await this.wire.letGo();
    const opened = await openTransport(this.address);
    return opened.ok ? this.join(opened.value, { withinMs, mostMs: withinMs }) : opened;
  }

  close(): Promise<void> {
    return this.wire.close();
  }
}

/** Restarts a machine that takes nothing else any more. @returns whether it was reached */
export async function restart(address: Address): Promise<boolean> {
  const opened = await openTransport(address);
  if (!opened.ok) return false;
  opened.value.write(`\n${numbered(0, 'M110 N0')}${numbered(1, 'M999')}`);
  await new Promise((resolve) => setTimeout(resolve, RESTARTS_MS));
  await opened.value.close();
  return true;
}

/** A target that was not said is what it was. */
function told(before: Temperatures, now: Temperatures): Temperatures {
  const one = (heat: Heat, was: Heat | undefined): Heat =>
    Number.isNaN(heat.target) ? { now: heat.now, target: was?.target ?? NaN } : heat;
  return {
    ...(now.nozzle ? { nozzle: one(now.nozzle, before.nozzle) } : {}),
    ...(now.bed ? { bed: one(now.bed, before.bed) } : {}),
    ...(now.others ? { others: now.others.map((heat, i) => one(heat, before.others?.[i])) } : {}),
  };
}

export const ended = ({ text, why }: End): Problem =>
  problem(
    'machine',
    text,
    why === 'halted' || why === 'restarted'
      ? 'See what it needs, switch it off and on, and connect again.'
      : 'See to the cable, then connect again.',
  );

/** Why nothing came of the first words. */
function notMet(address: Address, met: Exclude<Met, { kind: 'counts' | 'uncounted' }>): Problem {
  const at = addressText(address);
  switch (met.kind) {
    case 'silent':
      return problem(
        'machine',
        `${at} was opened, but no machine answered there.`,
        address.by === 'serial'
          ? 'See that the machine is on and the cable is the right one; give its speed as serial:PATH@SPEED where you know it.'
          : 'See that this is the machine, and that nothing else talks to it.',
      );
    case 'lost':
      return problem(
        'machine',
        `${at} was opened, but it ended: ${met.text}`,
        'See that this is the machine, and that nothing else talks to it.',
      );
    case 'halted':
      return problem(
        'machine',
        `The machine at ${at} has stopped: ${met.text}`,
        'See what it needs, switch it off and on, and connect again.',
      );
    case 'unsure':
      return problem(
        'machine',
        `Something answers at ${at}, but whether it counts the lines that it takes is not clear, so nothing is sent to it.`,
        'See that this is a machine that takes G-code, and that nothing else talks to it; switch it off and on.',
      );
  }
}
