/// <reference lib="webworker" />
/** Thin shell: prints a file on an understudy and draws the picture. Stopping is ending the worker. */

import * as Comlink from 'comlink';
import type { Bench } from '../core/bench/bench';
import { sightOf } from '../core/view/ladder-picture';
import { kindFor } from '../core/ladders/registry';
import { measure } from '../rehearsal/instruments';
import { readText } from '../core/gcode/read';
import type { Plan } from '../core/plan/plan';
import { drawPrint, FILAMENT_COLOURS } from '../understudy/picture';
import { printTrace } from '../understudy/print';
import { drawTruths } from '../understudy/truths';

/** Share of the work that printing is; the picture follows. */
const PRINTING = 0.7;

const api = {
  async print(
    text: string,
    bench: Bench,
    plan: Plan,
    seed: number,
    colour: string,
    progress: (share: number) => void,
  ) {
    const trace = readText(text, bench.machine);
    const printed = printTrace(trace, bench, drawTruths(bench, seed), {
      progress: (share) => progress(share * PRINTING),
    });
    if (printed.failed)
      return { failed: printed.failed, png: null, measured: {}, seconds: printed.seconds };
    const kind = kindFor(plan);
    const keys = kind.ok ? (kind.value.measures ?? []).map(({ key }) => key) : [];
    const measured = measure(keys, printed, plan, seed);
    const {
      rgba,
      width,
      height: tall,
    } = drawPrint(printed, {
      view: plan.view,
      frame: sightOf(trace, plan),
      filament: FILAMENT_COLOURS[colour] ?? FILAMENT_COLOURS.moss,
    });
    progress(0.95);
    const canvas = new OffscreenCanvas(width, tall);
    canvas.getContext('2d')!.putImageData(new ImageData(rgba, width, tall), 0, 0);
    const png = await canvas.convertToBlob({ type: 'image/png' });
    return { failed: null, png, measured, seconds: printed.seconds };
  },
};
export type UnderstudyWorker = typeof api;

Comlink.expose(api);
