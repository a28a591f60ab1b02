/// <reference lib="webworker" />
/** Thin shell: prints a file on an understudy and draws the picture. Stopping is ending the worker. */

import * as Comlink from 'comlink';
import type { Bench } from '../core/bench/bench';
import { readText } from '../core/gcode/read';
import type { Plan } from '../core/plan/plan';
import { halfScored, simulatedPrint } from '../rehearsal/simulated-print';

/** Share of the work that printing is; the picture follows. */
const PRINTING = 0.7;

const api = {
  async print(
    text: string,
    bench: Bench,
    plan: Plan,
    seed: number,
    colour: string,
    half: boolean,
    progress: (share: number) => void,
  ) {
    const trace = readText(text, bench.machine);
    const made = simulatedPrint({ trace, bench, plan, seed, colour }, (share) =>
      progress(share * PRINTING),
    );
    const { failed, seconds } = made;
    if (failed !== null) return { failed, png: null, measured: {}, seen: {}, seconds };
    const { rgba, width, height } = made.picture;
    progress(0.95);
    const canvas = new OffscreenCanvas(width, height);
    canvas.getContext('2d')!.putImageData(new ImageData(rgba, width, height), 0, 0);
    const png = await canvas.convertToBlob({ type: 'image/png' });
    const seen = half ? halfScored(made.printed, plan, seed) : {};
    return { failed: null, png, measured: made.measured, seen, seconds };
  },
};
export type UnderstudyWorker = typeof api;

Comlink.expose(api);
