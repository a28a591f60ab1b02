/** A sliced file of 50 MB: finding its sections, putting a ladder in, taking it out, and the memory of it. */

import { joinBench } from '../src/core/bench/bench';
import { FILAMENTS, MACHINES } from '../src/core/bench/presets';
import { readBytes } from '../src/core/gcode/read';
import { graft } from '../src/core/graft/graft';
import { Wish } from '../src/core/graft/recipe';
import { sectionsIn } from '../src/core/graft/sections';
import { sourceOf } from '../src/core/graft/source';
import { strataOf } from '../src/core/graft/strata';
import { circle, slice, towerOf } from '../src/core/graft/testing/slicer';
import { ungraft } from '../src/core/graft/ungraft';
import { heightsOf } from '../src/core/graft/wishes';
import { best, row } from './measure';

const MB = 1024 * 1024;
const SIZE = 50 * MB;
const TOWER = { base: 1.4, section: 9.98, count: 7, cap: 0 };

/** A tower of many short strokes, sliced until it has the size. */
function tower(): Uint8Array {
  const corners = (count: number) =>
    towerOf(
      TOWER,
      (within) => [circle(0, 0, 30 - 1.2 * Math.min(within, 6), count)],
      [circle(0, 0, 34, count)],
      () => [],
    );
  const probe = slice(corners(200), { infill: 0 }).length;
  return new TextEncoder().encode(
    slice(corners(Math.ceil((200 * SIZE) / probe)), { infill: 0, accelerations: true }),
  );
}

const bench = joinBench(MACHINES.heron, { diameter: 0.4 }, FILAMENTS.moss);
const bytes = tower();

const reading = best(() => readBytes(bytes, bench.machine));
const trace = readBytes(bytes, bench.machine);
const finding = best(() => sectionsIn(strataOf(trace)));
const [found] = sectionsIn(strataOf(trace)).candidates;
row(
  `sections of ${Math.round(bytes.length / MB)} MB`,
  `${finding.toFixed(0)} ms, ${(finding / reading).toFixed(2)} × reading (budget 1.5); ${found?.count ?? 0} of ${found?.section ?? 0} mm`,
  finding <= 1.5 * reading,
);

/** The file line by line into another one: what any change of it costs at least. */
const copying = best(() => {
  const text = new TextDecoder().decode(bytes);
  const out: string[] = [];
  for (const line of text.split('\n')) out.push(line);
  return new TextEncoder().encode(out.join('\n'));
});
const heights = heightsOf(TOWER);
const wishFor = (way: 'command' | 'moves') =>
  Wish.parse({
    rows: heights.map((from, i) => ({
      from,
      set: way === 'command' ? { nozzle: 225 - 5 * i } : { flow: 0.9 + 0.02 * i },
    })),
    ways: { flow: way },
    mends: { temperature: 'lift', fan: 'lift', acceleration: 'lift' },
  });
const source = sourceOf('tower.gcode', bytes, trace);
for (const way of ['command', 'moves'] as const) {
  const wish = wishFor(way);
  const grafting = best(() => graft(source, wish, bench), 2);
  row(
    `grafting it by ${way === 'command' ? 'commands' : 'rewriting the moves'}`,
    `${grafting.toFixed(0)} ms, ${(grafting / copying).toFixed(2)} × copying it line by line (budget 1.5)`,
    grafting <= 1.5 * copying,
  );
}

(globalThis as { gc?: () => void }).gc?.();
const before = process.memoryUsage();
const made = graft(source, wishFor('command'), bench);
const after = process.memoryUsage();
const used =
  after.heapUsed + after.arrayBuffers - before.heapUsed - before.arrayBuffers + bytes.length;
row(
  '  memory of it, the file included',
  `${(used / bytes.length).toFixed(1)} × the file (budget 4)`,
  used <= 4 * bytes.length,
);
if (made.ok) {
  const taking = best(() => ungraft(made.value.bytes), 2);
  row('taking it out again', `${taking.toFixed(0)} ms`);
}
