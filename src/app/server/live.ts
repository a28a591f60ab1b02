/** Tells open pages that something they show is another now. */

import 'server-only';
import { EventEmitter } from 'node:events';

// On the global object: routes are bundled apart, and the door of phones tells of changes too.
const shared = globalThis as { ashLive?: EventEmitter };

function hub(): EventEmitter {
  if (!shared.ashLive) shared.ashLive = new EventEmitter().setMaxListeners(0);
  return shared.ashLive;
}

/** @param topic address at which the changed thing is kept, such as `/readings/3`, and what it counts now */
export const changed = (topic: string, revision: number): void => void hub().emit(topic, revision);

/** @returns ends it */
export function follow(topic: string, told: (revision?: number) => void): () => void {
  hub().on(topic, told);
  return () => void hub().off(topic, told);
}

/** Told when other data takes the place of what there was. */
export const STORE_TOPIC = '/store';
