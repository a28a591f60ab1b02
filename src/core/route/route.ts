/** The route: ladders of a bench in the order in which they stand on each other, and the state of each. */

import type { Bench } from '../bench/bench';
import { kinds } from '../ladders/registry';
import type { Setting } from '../settings';
import { baseOf, staleReasons, type Base } from './base';

/** A current value of the ledger, as much of it as the route needs. */
export type Standing = {
  setting: Setting;
  value: number;
  base: Base;
  at: string;
  simulated: boolean;
};

/** What is under way on a kind: printed and waiting, or half read. */
export type Underway = {
  kind: string;
  ladder: number;
  state: 'designed' | 'printed' | 'reading' | 'read';
};

export type Stop = {
  kind: string;
  title: string;
  setting: Setting;
  state: 'open' | 'fresh' | 'stale';
  standing: Standing | null;
  reasons: string[];
  underway: Underway | null;
};

/** Foot first: what is printed first stands lowest. */
export function routeOf(
  bench: Bench,
  standings: readonly Standing[],
  underway: readonly Underway[],
): Stop[] {
  const now = baseOf(bench);
  return kinds().map(({ id, title, setting }) => {
    const standing = standings.find((one) => one.setting === setting) ?? null;
    const reasons = standing ? staleReasons(standing.base, now) : [];
    return {
      kind: id,
      title,
      setting,
      state: !standing ? 'open' : reasons.length > 0 ? 'stale' : 'fresh',
      standing,
      reasons,
      underway: underway.find((one) => one.kind === id) ?? null,
    };
  });
}

/** The one thing to do next: what is under way, else the lowest rung that is stale or open. */
export function nextStop(route: readonly Stop[]): Stop | null {
  return (
    route.find(({ underway }) => underway !== null) ??
    route.find(({ state }) => state !== 'fresh') ??
    null
  );
}
