'use server';

import type { Answer } from '@/core/result';
import type { Revealed } from '@/rehearsal/revealed';
import { store } from '../server/store';
import { inThread } from '../server/threads';
import { gone, idIn } from './answer';

/** Tells what was hidden in the machine of a simulated print. */
export async function revealTruths(printId: unknown): Promise<Answer<Revealed>> {
  const print = store().prints.get(idIn(printId));
  const file = print && store().files.get(print.fileId);
  if (!print?.simulated || !file) return gone('print');
  return inThread('reveal', { plan: file.plan, seed: print.simulated.seed });
}
