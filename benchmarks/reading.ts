/** Reading a generated file of 50 MB: against splitting it into lines, its peak memory, and planning it. */

import { Reader } from '../src/core/gcode/read';
import { planMotion } from '../src/core/motion/plan-motion';
import { joinBench } from '../src/core/bench/bench';
import { FILAMENTS, MACHINES } from '../src/core/bench/presets';
import { OpenedFile } from '../src/core/view/opened';
import { seeded } from '../src/core/random';
import { best, row } from './measure';

const MB = 1024 * 1024;
const SIZE = 50 * MB;

/** Short strokes of a sliced figure, as real files have them. */
function figure(size: number): Uint8Array {
  const random = seeded(5);
  const head = 'G28\nM109 S205\nG90\nM83\n';
  const parts = [head];
  let length = head.length;
  let [x, y, z, layer] = [100, 100, 0.2, 0];
  while (length < size) {
    const lines: string[] = [`;layer ${layer}\nG1 Z${z.toFixed(2)} F600\n`];
    for (let i = 0; i < 800; i++) {
      x = Math.min(200, Math.max(10, x + (random() - 0.5) * 4));
      y = Math.min(200, Math.max(10, y + (random() - 0.5) * 4));
      lines.push(
        i % 40 === 0
          ? `G0 X${x.toFixed(3)} Y${y.toFixed(3)} F9000\n`
          : `G1 X${x.toFixed(3)} Y${y.toFixed(3)} E${(0.02 + random() * 0.05).toFixed(5)}${i % 40 === 1 ? ' F1800' : ''}\n`,
      );
    }
    z += 0.2;
    layer++;
    const text = lines.join('');
    length += text.length;
    parts.push(text);
  }
  return new TextEncoder().encode(parts.join(''));
}

const bench = joinBench(MACHINES.heron, { diameter: 0.4 }, FILAMENTS.moss);
const bytes = figure(SIZE);

const splitting = best(() => new TextDecoder().decode(bytes).split('\n').length, 3);
const read = () => {
  const reader = new Reader();
  for (let i = 0; i < bytes.length; i += MB) reader.push(bytes.subarray(i, i + MB));
  return reader.end();
};
const reading = best(read, 3);
row('reading 50 MB', `${reading.toFixed(0)} ms`);
row(
  '  against splitting into lines',
  `${(reading / splitting).toFixed(1)} × of ${splitting.toFixed(0)} ms (budget 8)`,
  reading / splitting <= 8,
);

(globalThis as { gc?: () => void }).gc?.();
const before = process.memoryUsage();
let peak = 0;
const used = () => {
  const { heapUsed, arrayBuffers } = process.memoryUsage();
  return heapUsed + arrayBuffers - (before.heapUsed + before.arrayBuffers) + bytes.length;
};
const reader = new Reader();
for (let i = 0; i < bytes.length; i += MB) {
  reader.push(bytes.subarray(i, i + MB));
  peak = Math.max(peak, used());
}
const trace = reader.end();
peak = Math.max(peak, used());
row(
  '  peak memory, file and all',
  `${(peak / bytes.length).toFixed(1)} × the file (budget 4), ${trace.moves.count} moves`,
  peak / bytes.length <= 4,
);

const planning = best(() => planMotion(trace, MACHINES.heron), 3);
row(
  'planning its motion',
  `${planning.toFixed(0)} ms, ${(planning / reading).toFixed(2)} × reading (budget 1)`,
  planning <= reading,
);

// Opening is all that stands between a drop and the file check: beside reading and planning it looks at every move again.
const { moves } = trace;
const opening = best(() => new OpenedFile(bytes, trace, bench).overview(), 2) + reading;
row(
  'opening it, in the worker',
  `${opening.toFixed(0)} ms, ${(opening / (reading + planning)).toFixed(2)} × reading and planning (budget 2.5), ${moves.count} moves`,
  opening / (reading + planning) <= 2.5,
);
