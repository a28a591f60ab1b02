/** `npm run bench`: measured speed and memory, as ratios to the plainest work on the same data. */

import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { joinBench } from '../src/core/bench/bench';
import { FILAMENTS, MACHINES } from '../src/core/bench/presets';
import { writeLayout } from '../src/core/gcode/write';
import { kindOf } from '../src/core/ladders/registry';
import { makeLadder } from '../src/core/ladders/make';
import { findBest } from '../src/core/reading/find';
import { frameOf } from '../src/core/view/ladder-picture';
import { drawPrint } from '../src/understudy/picture';
import { printTrace } from '../src/understudy/print';
import { drawTruths } from '../src/understudy/truths';
import { coverage } from './coverage';
import { load } from './load';
import { loupe } from './loupe';
import { row, timed } from './measure';
import { pageWeights } from './pages';
import { phone } from './phone';
import { planes } from './planes';
import { redraws } from './redraw';
import { shakes } from './shakes';

const bench = joinBench(MACHINES.heron, { diameter: 0.4 }, FILAMENTS.moss);
const kind = kindOf('temperature');
if (!kind.ok) throw new Error('no temperature kind');
const spec = kind.value.defaults(bench) as Record<string, number>;

// Writing: a plan as text, against joining the lines that come out.
const plan = kind.value.lay(spec, bench);
const writing = timed(() => writeLayout(plan, bench, 'bench'), 40);
const written = writeLayout(plan, bench, 'bench');
if (!written.ok) throw new Error('not written');
// The lines are copied first, since a joined string could otherwise share their bytes.
const joining = timed(() => written.value.lines.map((line) => `${line}\n`).join(''), 40);
row('writing a ladder', `${writing.toFixed(2)} ms for ${written.value.lines.length} lines`);
row(
  '  against joining its lines',
  `${(writing / joining).toFixed(1)} × (budget 4)`,
  writing / joining <= 4,
);

// The whole of it, as `ash make` does: plan, write, read back, audit, time.
const making = timed(() => makeLadder('temperature', spec, bench), 12);
row('making a ladder whole', `${making.toFixed(0)} ms`);

redraws();
planes();
shakes();
await loupe();

const made = makeLadder('temperature', spec, bench);
if (!made.ok) throw new Error('not made');
const scores = { stringing: [0, 1, 2, 3, 4, 3, 2, 1] as const };
const finding = timed(
  () =>
    findBest({
      kind: kind.value,
      plan: made.value.plan,
      bench,
      readings: [{ stringing: [...scores.stringing] }],
    }),
  10,
);
row('finding a value', `${finding.toFixed(0)} ms`);

// Printing on the understudy: the ladder as the loop does, and with its picture.
const truths = drawTruths(bench, 1);
let printedOnce = printTrace(made.value.trace, bench, truths);
const printing = timed(() => (printedOnce = printTrace(made.value.trace, bench, truths)), 5);
row(
  'printing on the understudy',
  `${(printing / 1000).toFixed(2)} s for ${printedOnce.samples.count} samples (budget 3 s)`,
  printing <= 3000,
);
const frame = frameOf(made.value.trace, made.value.plan);
const drawing = timed(
  () =>
    drawPrint(printedOnce, {
      view: 'front',
      frame: { left: frame.minX, right: frame.maxX, bottom: 0, top: frame.height },
    }),
  3,
);
row(
  '  and its picture',
  `${((printing + drawing) / 1000).toFixed(2)} s together (budget 15 s), ${(process.memoryUsage().rss / 1e6).toFixed(0)} MB in use (budget 1000)`,
  printing + drawing <= 15_000 && process.memoryUsage().rss <= 1e9,
);

coverage();

// Memory is only told apart in a process of its own.
for (const name of ['reading.ts', 'grafting.ts', 'wire.ts']) {
  const child = spawnSync(
    process.execPath,
    ['--expose-gc', '--import', 'tsx', join(import.meta.dirname, name)],
    { stdio: 'inherit' },
  );
  if (child.status !== 0) process.exitCode = 1;
}

if (existsSync('.next/BUILD_ID')) {
  await pageWeights();
  await phone();
  await load();
}
