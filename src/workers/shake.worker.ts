/// <reference lib="webworker" />
/** Thin shell: a record is read and analysed off the page's thread. Stopping is ending the worker. */

import * as Comlink from 'comlink';
import type { Problem } from '../core/result';
import { analyse, checkSensor, type Asked } from '../core/shake/analyse';
import { keptOf, type KeptShake } from '../core/shake/kept';

export type Told = { refused: Problem[]; found: KeptShake | null };

const api = {
  /** @param alive is called once the worker has begun */
  async analyse(record: Blob, asked: Asked, alive: () => void): Promise<Told> {
    alive();
    const found = analyse(await record.text(), asked);
    return { refused: found.refused, found: found.refused.length > 0 ? null : keptOf(found) };
  },
  /** Whether a record of a sensor that lies still is right. */
  async check(record: Blob, asked: Asked, alive: () => void): Promise<Told> {
    alive();
    return { refused: checkSensor(await record.text(), asked), found: null };
  },
};
export type ShakeWorker = typeof api;

Comlink.expose(api);
