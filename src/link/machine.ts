/** A machine on the wire: found at an address, asked what it is, told things one by one. */

import type { Temperatures } from '../core/link-state';
import { heatIn, type Answer } from './answers';
import { addressText, USUAL_SPEEDS, type Address } from './address';
import { fail, ok, problem, type Problem, type Result } from '../core/result';
import { numbered } from './numbered';
import { openTransport } from './transport';
import type { End } from './outcome';
import { Wire } from './wire';

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

export type MachineOptions = { patienceMs?: number; withinMs?: number };

/** How long a machine may need to come up after its port was opened: some restart then. */
const COMES_UP_MS = 12_000;
/** How long each speed is tried. */
const SPEED_MS = 3500;
/** How long one that was lost is asked what it has. */
const ASKED_MS = 8000;
const RESTARTS_MS = 500;

export class Machine {
  /** What it says it is. */
  about = '';
  heat: Temperatures = {};
  /** Nozzles that have a heater of their own. */
  tools = 1;
  private refused: string | null = null;
  readonly listeners = new Set<Listener>();

  private constructor(
    readonly address: Address,
    readonly wire: Wire,
  ) {}

  /** Opens the address and asks who is there. */
  static async find(address: Address, options: MachineOptions = {}): Promise<Result<Machine>> {
    const tried =
      address.by === 'serial' && address.speed === undefined ? USUAL_SPEEDS : [undefined];
    const problems: Problem[] = [];
    for (const speed of tried) {
      const opened = await openTransport(address, speed);
      if (!opened.ok) return opened;
      const found: Address =
        speed === undefined || address.by === 'tcp' ? address : { ...address, speed };
      const hooks: { machine?: Machine } = {};
      const wire = new Wire(opened.value, {
        ...(options.patienceMs === undefined ? {} : { patienceMs: options.patienceMs }),
        heard: (answer, text) => hooks.machine?.hear(answer, text),
        told: (command) => hooks.machine?.tell('talk', command, 'host'),
        ended: (end) => hooks.machine?.tell('ended', end),
      });
      const machine = (hooks.machine = new Machine(found, wire));
      const within = options.withinMs ?? (tried.length > 1 ? SPEED_MS : COMES_UP_MS);
      if (await wire.begin(within)) {
        const said = await wire.send('M115');
        if (said.ok) {
          machine.about = said.said
            .filter((line) => !/^cap:/i.test(line) && heatIn(line) === null)
            .join(' ')
            .slice(0, 400);
          return ok(machine);
        }
      }
      const why = wire.over?.text;
      wire.close();
      problems.push(silent(found, why));
    }
    return fail(problems[0]!);
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

  /** Whether a heater is told to be warm, as far as it has said; what was never said may be. */
  get hot(): boolean {
    const on = (heat: Temperatures['nozzle']) => heat !== undefined && heat.target !== 0;
    return !this.heat.nozzle || on(this.heat.nozzle) || on(this.heat.bed);
  }

  /** Asks whether a heater is told to be warm. */
  async isHot(): Promise<boolean> {
    await this.wire.send('M105');
    return this.hot;
  }

  /** Over a new connection to the same machine: see {@link Wire.reopen}. */
  async again(): Promise<Result<number | 'restarted' | null>> {
    const opened = await openTransport(this.address);
    return opened.ok ? ok(await this.wire.reopen(opened.value, ASKED_MS)) : opened;
  }

  close(): void {
    this.wire.close();
  }
}

/** Restarts a machine that takes nothing else any more. @returns whether it was reached */
export async function restart(address: Address): Promise<boolean> {
  const opened = await openTransport(address);
  if (!opened.ok) return false;
  opened.value.write(`\n${numbered(0, 'M110 N0')}${numbered(1, 'M999')}`);
  await new Promise((resolve) => setTimeout(resolve, RESTARTS_MS));
  opened.value.close();
  return true;
}

/** A target that was not said is what it was. */
function told(before: Temperatures, now: Temperatures): Temperatures {
  const both = (name: 'nozzle' | 'bed') => {
    const heat = now[name];
    if (!heat) return {};
    const target = Number.isNaN(heat.target) ? (before[name]?.target ?? 0) : heat.target;
    return { [name]: { now: heat.now, target } };
  };
  return { ...both('nozzle'), ...both('bed') };
}

export const ended = ({ text, why }: End): Problem =>
  problem(
    'machine',
    text,
    why === 'halted' || why === 'restarted'
      ? 'See what it needs, switch it off and on, and connect again.'
      : 'See to the cable, then connect again.',
  );

const silent = (address: Address, why?: string): Problem =>
  problem(
    'machine',
    `${addressText(address)} was opened, but ${why ? `it ended: ${why}` : 'no machine answered there'}.`,
    address.by === 'serial'
      ? 'See that the machine is on and the cable is the right one; give its speed as serial:PATH@SPEED where you know it.'
      : 'See that this is the machine, and that nothing else talks to it.',
  );
