/** What ladders cost: made once for a bench as it stands, in a thread, since a file is what tells it. */

import 'server-only';
import { createHash } from 'node:crypto';
import type { Bench } from '@/core/bench/bench';
import type { Price } from '@/core/price';
import { inThread } from './threads';

/** Prices that are kept ready, some bytes each. */
const MOST_KEPT = 1000;

const shared = globalThis as { ashPrices?: Map<string, Promise<Price | null>> };

/** Null where the bench cannot print it, or where there is no such kind. */
export function priceOf(kind: string, bench: Bench): Promise<Price | null> {
  const known = (shared.ashPrices ??= new Map<string, Promise<Price | null>>());
  const key = createHash('sha256')
    .update(JSON.stringify([kind, bench]))
    .digest('base64');
  const before = known.get(key);
  if (before) return before;
  const price = inThread('price', { kind, bench });
  known.set(key, price);
  price.catch(() => known.delete(key));
  // Those of benches as they were go first.
  for (const old of known.keys()) if (known.size > MOST_KEPT) known.delete(old);
  return price;
}
