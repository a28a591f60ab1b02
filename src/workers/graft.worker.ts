/// <reference lib="webworker" />
/** Thin shell: a sliced file is read and looked into off the page's thread. Stopping is ending the worker. */

import * as Comlink from 'comlink';
import type { Bench } from '../core/bench/bench';
import type { Wish } from '../core/graft/recipe';
import { Workbench } from '../core/graft/workbench';
import { readPieces } from './read-pieces';

let bench: Workbench | null = null;

/** Share of the work that reading is. */
const READING = 0.6;

const api = {
  /** `progress` is told shares from 0, at once, to 1. */
  async open(name: string, source: Blob, on: Bench, progress: (share: number) => void) {
    const { bytes, trace } = await readPieces(source, on.machine, READING, progress);
    bench = new Workbench(name, bytes, trace, on);
    progress(0.9);
    const opened = bench.opened();
    return Comlink.transfer(opened, [opened.strip.top.buffer, opened.strip.plastic.buffer]);
  },
  tried(wish: Wish) {
    if (!bench) throw new Error('no file is open');
    const tried = bench.tried(wish);
    return Comlink.transfer(tried, [tried.picture.rgba.buffer]);
  },
};
export type GraftWorker = typeof api;

Comlink.expose(api);
