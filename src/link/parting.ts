/** A machine that nobody is linked to any more and that may be hot: cooled when it answers, then let go. */

import { parseAddress } from './address';
import { coolDown } from './cool-down';
import type { Debts, Debt } from './debts';
import { Machine } from './machine';
import { Nap } from './nap';

/** Between two tries, ms: it doubles. */
const FIRST_MS = 1000;
const LONGEST_MS = 20_000;

export class Parting {
  private ending = false;
  private readonly nap = new Nap();
  readonly over: Promise<void>;

  constructor(
    readonly debt: Debt,
    private machine: Machine | null,
    private readonly debts: Debts,
  ) {
    this.over = this.run();
  }

  private async run(): Promise<void> {
    const { debt } = this;
    let wait = FIRST_MS;
    while (this.wanted()) {
      const machine = (this.machine ??= await this.find());
      if (machine) {
        const round = performance.now() + LONGEST_MS * 3;
        const wanted = () => this.wanted();
        const told = () => this.debts.heard(debt, true);
        const cooled = await coolDown(machine, round, wanted, undefined, told);
        if (cooled === 'falls') this.debts.paid(debt);
        else if (cooled === 'unheard') this.debts.heard(debt, false);
        if (cooled !== 'unheard') continue;
        await machine.close();
        this.machine = null;
      }
      if (!this.wanted()) break;
      await this.nap.take(wait);
      wait = Math.min(LONGEST_MS, 2 * wait);
    }
    await this.machine?.close();
  }

  private async find(): Promise<Machine | null> {
    const address = parseAddress(this.debt.address);
    if (!address.ok) return null;
    const found = await Machine.find(address.value);
    if (!found.ok) return null;
    found.value.tools = this.debt.tools;
    return found.value;
  }

  private wanted(): boolean {
    return !this.ending && this.debts.stands(this.debt);
  }

  /** Lets go of the machine; what is owed still stands. The promise is kept when its port is free. */
  end(): Promise<void> {
    this.ending = true;
    this.nap.wake();
    return this.over;
  }
}
