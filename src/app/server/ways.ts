/** The ways between the pages that belong to no ladder. */

import 'server-only';
import type { Way } from '@/ui/common/Header';
import { store } from './store';

type Place = 'bench' | 'inspect' | 'things' | 'phones';

/** @param bench the bench that is meant; otherwise the one that was open last */
export function mainWays(here: Place | null, bench?: number): Way[] {
  const { benches, places } = store();
  const last = bench ?? Number(places.get('bench') ?? 0);
  const known = benches.has(last) ? last : benches.first();
  const ways: [Place, string, string][] = [
    ['bench', known ? `/bench/${known}` : '/', 'Bench'],
    ['inspect', '/inspect', 'Inspect'],
    ['things', '/things', 'Spools and machines'],
    ['phones', '/phones', 'Phones'],
  ];
  return ways.map(([place, href, label]) => ({ href, label, here: place === here }));
}
