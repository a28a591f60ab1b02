/** The rungs of a bench: each stop of its route with its ladders, and what stood on it before. */

import 'server-only';
import { createHash } from 'node:crypto';
import type { Bench } from '@/core/bench/bench';
import { saidValue, settingInfo } from '@/core/bench/settings';
import { SHAPER_FREQUENCIES } from '@/core/bench/shaper';
import { termOf } from '@/core/bench/terms';
import { formerKinds, kindFor, kinds } from '@/core/ladders/registry';
import type { LadderKind } from '@/core/ladders/types';
import { short } from '@/core/numbers';
import { nextStop, routeOf, type Stop } from '@/core/route/route';
import { listed } from '@/core/text';
import type { Entry } from '@/store/ledger';
import type { StoredBench } from '@/store/benches';
import type { Rung } from '@/ui/bench/rungs';
import { store } from './store';
import { stateOf, underwayOf } from './underway';

/** Ladders of a rung, and values that stood on it, that are listed there; all of them stand below the route. */
const MOST_LISTED = 5;
/** Newest ladders of a bench among which they are looked for. */
const MOST_LOOKED = 200;

/** Changes with what the bench is and what is tuned on it. */
export const stampOf = (bench: Bench): string =>
  createHash('sha256').update(JSON.stringify(bench)).digest('base64url').slice(0, 10);

/** The route of a bench as it stands. @param current values of its ledger */
export function routeNow({ id, bench }: StoredBench, current: readonly Entry[]): Stop[] {
  const times = store().ledger.times(id);
  const values = current.map(({ foundAt, rows, ...entry }) => ({
    ...entry,
    rows: rows !== null,
    at: foundAt,
    times: times(entry.setting, entry.simulated),
  }));
  return routeOf(bench, values, underwayOf(id));
}

/** What comes after this, in a word, and where that is. */
export function nextOf(stored: StoredBench): { title: string; href: string } {
  const next = nextStop(routeNow(stored, store().ledger.current(stored.id)));
  const href = `/bench/${stored.id}`;
  return next
    ? { title: `Next: ${next.title.toLowerCase()}`, href: `${href}#${next.kind}` }
    : { title: 'Back to the bench', href };
}

/** @param values of the bench, the newest first of each setting */
export function rungsOf(
  stored: StoredBench,
  route: readonly Stop[],
  values: readonly Entry[],
): Rung[] {
  const { bench, id } = stored;
  const progress = store().ladders.progress(id, MOST_LOOKED);
  return route.map((stop): Rung => {
    const ways = stop.kinds.flatMap(({ id: kind }) => kinds().filter((one) => one.id === kind));
    const usual = ways[0];
    const mine = idsOf(stop);
    const [low, high] = [stop.found?.low ?? null, stop.found?.high ?? null];
    return {
      ...stop,
      decides: usual?.decides ?? termOf(stop.setting),
      reason: usual?.reason(bench) ?? '',
      looks: usual?.criteria[0]?.name ?? null,
      between:
        low === null || high === null || low === high ? null : `${short(low)} to ${short(high)}`,
      ways: ways.map((kind) => ({ kind: kind.id, title: kind.title, also: alsoOf(kind) })),
      ladders: progress
        .filter(({ kind }) => mine.includes(kind))
        .slice(0, MOST_LISTED)
        .map((one) => ({
          id: one.id,
          title: titleOf(one.kind),
          state: stateOf(one),
          at: one.createdAt,
        })),
      before: values
        .filter(({ setting, replacedAt }) => setting === stop.setting && replacedAt !== null)
        .slice(0, MOST_LISTED)
        .map((entry) => ({
          id: entry.id,
          said: `${saidValue(entry.setting, entry.value)}${entry.simulated ? ', simulated' : ''}`,
          at: entry.foundAt,
          ladder: entry.ladderId,
        })),
      shake: stop.setting === 'acceleration' ? shakeOf(stored) : null,
    };
  });
}

/** Its kinds, and those that were printed in their place before. */
const idsOf = ({ kinds: ways }: Stop): string[] => [
  ...ways.map(({ id }) => id),
  ...formerKinds().flatMap(({ id, now: today }) =>
    ways.some((way) => way.id === today) ? [id] : [],
  ),
];

const titleOf = (id: string): string => {
  const kind = kindFor({ kind: id, spec: {} });
  return kind.ok ? kind.value.title : id;
};

/** What a ladder finds besides the value of its rung. */
const alsoOf = ({ finds: [, ...more] }: LadderKind): string | null =>
  more.length > 0 ? listed(more.map((setting) => settingInfo(setting).title)) : null;

/** An accelerometer tells what rings without a print. */
function shakeOf({ id, bench }: StoredBench): Rung['shake'] {
  const found = SHAPER_FREQUENCIES.flatMap((setting) => {
    const value = bench.tuned?.[setting];
    return value === undefined
      ? []
      : [`${settingInfo(setting).title} ${saidValue(setting, value)}`];
  });
  const says =
    found.length > 0
      ? `${listed(found)}.`
      : 'An accelerometer tells what rings, the input shaper that calms it, and how hard the machine may be driven.';
  return { href: `/bench/${id}/shake`, machine: bench.machine.name, says };
}
