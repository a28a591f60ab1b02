/// <reference lib="webworker" />
/** Thin shell: reads a file off the page's thread, telling how far it is. Stopping is ending the worker. */

import * as Comlink from 'comlink';
import type { Bench } from '../core/bench/bench';
import { readBytes } from '../core/gcode/read';
import type { Trace } from '../core/gcode/trace';
import { proveGraft } from '../core/graft/prove';
import type { Quantity } from '../core/view/quantity';
import { OpenedFile } from '../core/view/opened';
import { readPieces } from './read-pieces';

let bytes = new Uint8Array(0);
let opened: OpenedFile | null = null;

const file = (): OpenedFile => {
  if (!opened) throw new Error('no file is open');
  return opened;
};

/** Share of the work that reading is; planning and looking follow. */
const READING = 0.7;

function look(bench: Bench, trace: Trace) {
  opened = new OpenedFile(bytes, trace, bench);
  const overview = opened.overview();
  overview.audit.findings.unshift(...proveGraft(bytes, overview.plan));
  const { layers, tracks } = overview;
  return Comlink.transfer(overview, [
    ...Object.values(layers).map(({ buffer }) => buffer),
    ...tracks.flatMap(({ z, value, line }) => [z.buffer, value.buffer, line.buffer]),
  ]);
}

const api = {
  /** Reads a file piece by piece. `progress` is told shares from 0, at once, to 1. */
  async open(source: Blob, bench: Bench, progress: (share: number) => void) {
    const read = await readPieces(source, bench.machine, READING, progress);
    bytes = read.bytes;
    return look(bench, read.trace);
  },

  /** Looks at the same file again, for another bench. */
  again(bench: Bench) {
    return look(bench, readBytes(bytes, bench.machine));
  },

  beads(first: number, last: number, name: Quantity) {
    const beads = file().beads(first, last, name);
    return Comlink.transfer(beads, [
      beads.strokes.buffer,
      beads.share.buffer,
      beads.move.buffer,
      beads.travels.buffer,
      beads.travelMove.buffer,
      beads.retractions.buffer,
    ]);
  },
  lines: (from: number, count: number) => file().lines.some(from, count),
  find: (text: string, from: number, backward: boolean) => file().lines.find(text, from, backward),
  move: (index: number) => file().move(index),
  moveAtLine: (line: number) => file().moveAtLine(line),
  told: () => file().told(),
};
export type FileWorker = typeof api;

Comlink.expose(api);
