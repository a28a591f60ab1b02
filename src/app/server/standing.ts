/** Where a ladder will stand on its design page. The page waits for it only as long as nobody notices. */

import 'server-only';
import type { Bench } from '@/core/bench/bench';
import type { Standing } from '@/core/view/standing';
import { inThread } from './threads';

const PATIENCE_MS = 600;

export async function standingSoon(
  kind: string,
  spec: Record<string, number>,
  bench: Bench,
): Promise<Standing | null> {
  const late = new Promise<null>((done) => setTimeout(() => done(null), PATIENCE_MS).unref());
  // A page without a kept place is whole as well.
  return Promise.race([inThread('standing', { kind, spec, bench }).catch(() => null), late]);
}
