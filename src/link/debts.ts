/**
 * Machines that are warm, and those that may be hot after something ended. Written down before anything heats, so that
 * no end of the program, however sudden, leaves one behind that nobody knows of.
 */

import type { Owed } from '../core/link-state';
import type { Records } from './records';

export type Debt = {
  machine: number;
  name: string;
  address: string;
  tools: number;
  /** Null while it is warm because it was told to be. */
  why: string | null;
  since: string;
  state: Owed['state'];
};

type At = Pick<Debt, 'address'>;
type Whose = Pick<Debt, 'machine' | 'address' | 'tools'>;

/** Told for so long without a temperature that falls, s: then that is said. */
const STUCK_AFTER_MS = 120_000;

export class Debts {
  private readonly all = new Map<string, Debt & { toldAt: number | null }>();

  constructor(
    private readonly records: Records,
    private readonly changed: () => void,
    private readonly now: () => string,
  ) {
    for (const debt of records.owed())
      this.all.set(debt.address, { ...debt, state: 'unheard', toldAt: null });
  }

  /** What was warm when the last link ended is owed from now on. */
  begin(): void {
    for (const debt of [...this.all.values()])
      if (debt.why === null) this.owe(debt, 'Ash Ladder ended while it was warm');
  }

  of(at: At): Debt | null {
    return this.all.get(at.address) ?? null;
  }

  stands(at: At): boolean {
    return (this.of(at)?.why ?? null) !== null;
  }

  /** Those that something ended on, the oldest first. */
  due(): Debt[] {
    return [...this.all.values()].filter(({ why }) => why !== null);
  }

  /** It is about to be warm, or is. */
  warm(at: Whose): void {
    if (!this.all.has(at.address)) this.put(at, null);
  }

  /** Something ended while it was, or may have been, warm. The first reason stands. */
  owe(at: Whose, why: string): void {
    if (!this.stands(at)) this.put(at, why);
  }

  private put({ machine, address, tools }: Whose, why: string | null): void {
    const name = this.of({ address })?.name ?? this.records.nameOf(machine);
    const since = this.now();
    this.keep({ machine, name, address, tools, why, since, state: 'unheard', toldAt: null });
    if (why !== null) this.changed();
  }

  private keep(debt: Debt & { toldAt: number | null }): void {
    this.all.set(debt.address, debt);
    const { toldAt: _, ...row } = debt;
    this.records.owe(row);
  }

  /** Whether it answers and has taken that it is to cool. */
  heard(at: At, told: boolean): void {
    const debt = this.all.get(at.address);
    if (!debt) return;
    const now = performance.now();
    const toldAt = told ? (debt.toldAt ?? now) : null;
    const long = toldAt !== null && now - toldAt > STUCK_AFTER_MS;
    const state = !told ? 'unheard' : long ? 'stuck' : 'told';
    if (state === debt.state && toldAt === debt.toldAt) return;
    this.keep({ ...debt, toldAt, state });
    if (state !== debt.state) this.changed();
  }

  /** It was seen to cool, or is cold, or a person says that it is off. */
  paid(at: At): void {
    const debt = this.of(at);
    if (!debt) return;
    this.all.delete(at.address);
    this.records.paid(at.address);
    if (debt.why !== null) this.changed();
  }
}

export const asOwed = ({ machine, name, address, why, since, state }: Debt): Owed => ({
  machine,
  name,
  address,
  why: why ?? '',
  since,
  state,
});
