/** The route: values of a bench in the order in which they stand on each other, and the state of each. */

import type { Bench } from '../bench/bench';
import { formerKinds, kinds } from '../ladders/registry';
import type { LadderKind } from '../ladders/types';
import { settingInfo, type Setting } from '../bench/settings';
import { capital } from '../text';
import { baseOf, settingOf, staleReasons, type Base } from './base';

/** A current value of the ledger, as much of it as the route needs. */
export type LedgerValue = {
  setting: Setting;
  value: number;
  /** In which it lies in 8 of 10 cases; null where nobody can say. */
  low?: number | null;
  high?: number | null;
  base: Base;
  at: string;
  simulated: boolean;
  /** How often it was found on this bench. */
  times: number;
  /** Whether a table was found with it. */
  rows?: boolean;
  /** When it was proven against the value before it. */
  provenAt?: string | null;
};

/** What is under way on a kind: printed and waiting, or partly scored. */
export type Underway = {
  kind: string;
  ladder: number;
  state: 'designed' | 'printed' | 'reading' | 'read';
};

export type Stop = {
  /** The usual way to find the value, and all ways. */
  kind: string;
  kinds: { id: string; title: string }[];
  title: string;
  setting: Setting;
  /** Only asked for when its setting is suspected. */
  onDemand: boolean;
  state: 'open' | 'fresh' | 'stale';
  /** What stands: the value of the real machine, or where there is none, that of a simulated one. */
  found: LedgerValue | null;
  /** What a simulated machine showed, beside a real value. */
  tried: LedgerValue | null;
  reasons: string[];
  /** Since when it is stale; null where it is not, or where nobody kept the date. */
  since: string | null;
  /** What is said instead of a value, where none is found. */
  says: string | null;
  underway: Underway | null;
};

/** A ladder of a bench, as much of it as says whether it is still under way. */
export type Laddered = Underway & { settled: boolean };

/**
 * Ladders that still wait for somebody, the newest first. What went into the ledger, or proved what is in it, is done,
 * and so is what was set up before it of the same kind; a proof has nothing to save, and is done once it is read.
 *
 * @param all the newest first
 */
export function stillUnderway(all: readonly Laddered[]): Underway[] {
  const past = new Set<string>();
  return all.flatMap(({ settled, ...one }) => {
    if (settled) past.add(one.kind);
    const kind = kinds().find(({ id }) => id === one.kind);
    const read = kind?.rule.kind === 'proof' && one.state === 'read';
    return past.has(one.kind) || read ? [] : [one];
  });
}

/** Two values that are tuned with each other ask for each other again once, not for ever (domain.md §9). */
const TIMES_OF_PAIR = 2;

/** A value is one stop, however many ladders can find it; a map is a stop of its own beside the one value. */
const stopOf = ({ id, finds: [setting], rule }: LadderKind): string =>
  rule.kind === 'map' || rule.kind === 'proof' ? id : setting;

/** Foot first: what is printed first stands lowest. */
export function routeOf(
  bench: Bench,
  values: readonly LedgerValue[],
  underway: readonly Underway[],
): Stop[] {
  const offered = kinds().filter((kind) => !kind.unfit?.(bench));
  // What is not offered any more stays for whoever has a value of it, or a print under way.
  const kept = formerKinds().filter(
    ({ id, now, finds: [setting] }) =>
      !now &&
      (values.some((one) => one.setting === setting) || underway.some(({ kind }) => kind === id)),
  );
  const fitting = [...offered, ...kept];
  const stops = [...new Set(fitting.map(stopOf))];
  const route = stops.map((stop): Stop => {
    const ways = fitting.filter((kind) => stopOf(kind) === stop);
    const [usual] = ways as [LadderKind];
    const [setting] = usual.finds;
    const own = values.filter(
      (one) => one.setting === setting && (usual.rule.kind !== 'map' || one.rows === true),
    );
    const real = own.find(({ simulated }) => !simulated) ?? null;
    const tried = own.find(({ simulated }) => simulated) ?? null;
    const found = real ?? tried;
    const reasons = found ? reasonsOf(found, usual, fitting, bench) : [];
    const ids = printedAs(ways);
    const mine = underway.find(({ kind }) => ids.includes(kind)) ?? null;
    if (usual.rule.kind === 'proof') return proofStop(usual, ways, values, mine);
    return {
      kind: usual.id,
      kinds: ways.map(({ id, title }) => ({ id, title })),
      // A grid finds it with another setting: by itself the stop keeps its name.
      title: alone(ways) > 1 ? capital(settingInfo(setting).title) : usual.title,
      setting,
      onDemand: usual.onDemand === true,
      state: !found ? 'open' : reasons.length > 0 ? 'stale' : 'fresh',
      found,
      tried: real ? tried : null,
      reasons,
      since: sinceOf(found, reasons, usual, values),
      says: null,
      underway: mine,
    };
  });
  return route.map((stop) =>
    stop.says === null ? { ...stop, says: comesFirst(stop, route) } : stop,
  );
}

/** What a value that is not found yet waits for, in words; null where nothing stands before it. */
function comesFirst({ kind, state, onDemand }: Stop, route: readonly Stop[]): string | null {
  const usual = kinds().find(({ id }) => id === kind);
  if (state !== 'open' || onDemand || !usual) return null;
  // The lowest of them: what stands above it waits for it as well.
  const lowest = route.find(
    (one) => one.state === 'open' && !one.onDemand && usual.standsOn.includes(one.setting),
  );
  const stands = route.findIndex((one) => one.kind === kind);
  return lowest && route.indexOf(lowest) < stands ? `after ${lowest.title.toLowerCase()}` : null;
}

/** When the newest of the values that it was tuned with came; null where something else changed. */
function sinceOf(
  found: LedgerValue | null,
  reasons: readonly string[],
  { standsOn }: LadderKind,
  values: readonly LedgerValue[],
): string | null {
  if (!found || reasons.length === 0) return null;
  const later = values.filter(
    ({ setting, simulated, at }) =>
      standsOn.includes(setting) && simulated === found.simulated && at > found.at,
  );
  // A nozzle or a spool that was changed has no date of its own.
  const tuned = reasons.filter((reason) =>
    later.some(({ setting }) => reason.startsWith(`${settingInfo(setting).title} changed`)),
  );
  return tuned.length === reasons.length ? later.map(({ at }) => at).sort()[0]! : null;
}

/** At the top: reached when every value that a proof can speak of is proven. */
function proofStop(
  kind: LadderKind,
  ways: readonly LadderKind[],
  values: readonly LedgerValue[],
  underway: Underway | null,
): Stop {
  const spoken = new Map<Setting, LedgerValue>();
  for (const value of values.filter(({ setting }) => kind.finds.includes(setting)))
    if (!value.simulated || !spoken.has(value.setting)) spoken.set(value.setting, value);
  const proven = [...spoken.values()].filter(({ provenAt }) => provenAt);
  return {
    kind: kind.id,
    kinds: ways.map(({ id, title }) => ({ id, title })),
    title: kind.title,
    setting: kind.finds[0],
    onDemand: spoken.size === 0,
    state: spoken.size > 0 && proven.length === spoken.size ? 'fresh' : 'open',
    found: null,
    tried: null,
    reasons: [],
    since: null,
    says: spoken.size > 0 ? `${proven.length} of ${spoken.size} values proven` : null,
    underway,
  };
}

const alone = (ways: readonly LadderKind[]): number =>
  ways.filter(({ rule }) => rule.kind !== 'plane' && rule.kind !== 'limits').length;

/** Ids of kinds, and of those that were printed in their place before. */
function printedAs(ways: readonly LadderKind[]): string[] {
  const ids = ways.map(({ id }) => id);
  const before = formerKinds().filter(({ now }) => now !== undefined && ids.includes(now));
  return [...ids, ...before.map(({ id }) => id)];
}

function reasonsOf(
  { base, times, setting }: LedgerValue,
  kind: LadderKind,
  all: readonly LadderKind[],
  bench: Bench,
): string[] {
  const settled = times >= TIMES_OF_PAIR;
  const counts = Object.entries(base).filter(([name]) => {
    const on = settingOf(name);
    const pair =
      on !== null && all.some((one) => one.finds[0] === on && one.standsOn.includes(setting));
    return !(settled && pair);
  });
  return staleReasons(Object.fromEntries(counts), baseOf(bench, kind.standsOn));
}

/** The one thing to do next: what is under way, else the lowest rung that is stale or open. */
export function nextStop(route: readonly Stop[]): Stop | null {
  return (
    route.find(({ underway }) => underway !== null) ??
    route.find(({ state, onDemand }) => state === 'stale' || (state === 'open' && !onDemand)) ??
    null
  );
}
