/**
 * `npm run fuzz -- --minutes 20`: feeds the reader, the planner and the audit with files that are wrong in every
 * way that chance finds. Nothing may throw, hang, or leave a place that is not finite. Prints its count.
 */

import { benchFor, makeTemperature } from '../src/core/testing';
import { audit } from '../src/core/gcode/audit';
import { Reader } from '../src/core/gcode/read';
import { planMotion } from '../src/core/motion/plan-motion';
import { seeded, type Random } from '../src/core/random';

const [, minutesText = '1'] = /--minutes[= ]([\d.]+)/.exec(process.argv.slice(2).join(' ')) ?? [];
const [, firstSeed = '1'] = /--seed[= ](\d+)/.exec(process.argv.slice(2).join(' ')) ?? [];
const until = performance.now() + Number(minutesText) * 60_000;
/** One file that takes longer than this, ms, counts as hanging. */
const HANGS = 5000;

const bench = benchFor();
const sound = new TextEncoder()
  .encode(makeTemperature({ from: 205, to: 205 }).text)
  .subarray(0, 40_000);
const WORDS =
  'G0 G1 G2 G3 G4 G10 G11 G20 G21 G28 G90 G91 G92 M82 M83 M104 M106 M109 M140 M190 M201 M203 M204 M205 M207 M220 M221 M290 M500 M566 M572 M593 M900 T0 T1 T999 N5 ; ( * SET_PRESSURE_ADVANCE SET_VELOCITY_LIMIT ;@plan TURN_OFF_HEATERS'.split(
    ' ',
  );
const PARTS = [
  'X',
  'Y',
  'Z',
  'E',
  'F',
  'I',
  'J',
  'R',
  'S',
  'P',
  'K',
  'D',
  'T',
  '=',
  '"',
  '*',
  '-',
  '.',
  '1e400',
  'NaN',
  'Infinity',
  '\t',
  '\r',
  '\u0000',
];

function line(random: Random): string {
  const parts = [WORDS[Math.floor(random() * WORDS.length)]!];
  const count = Math.floor(random() * 7);
  for (let i = 0; i < count; i++) {
    const part = PARTS[Math.floor(random() * PARTS.length)]!;
    const size = 10 ** (random() * 12 - 4);
    const number = random() < 0.8 ? (random() < 0.3 ? -1 : 1) * size : 0;
    parts.push(
      random() < 0.7 ? part + (random() < 0.5 ? number.toFixed(3) : String(number)) : part,
    );
  }
  return parts.join(random() < 0.7 ? ' ' : '');
}

/** A file made of odd lines, or a sound one with bytes struck out, doubled or turned. */
function file(random: Random): Uint8Array {
  if (random() < 0.5) {
    const lines = Array.from({ length: Math.floor(random() * 60) }, () => line(random));
    return new TextEncoder().encode(lines.join(random() < 0.8 ? '\n' : '\r\n'));
  }
  const from = Math.floor(random() * (sound.length - 2000));
  const bytes = sound.slice(from, from + 200 + Math.floor(random() * 1800));
  const hits = Math.floor(random() * 40);
  for (let i = 0; i < hits; i++)
    bytes[Math.floor(random() * bytes.length)] = Math.floor(random() * 256);
  return bytes;
}

let count = 0;
let moves = 0;
for (let seed = Number(firstSeed); performance.now() < until; seed++) {
  const random = seeded(seed);
  const bytes = file(random);
  const start = performance.now();
  try {
    const reader = new Reader(bench.machine);
    const size = 1 + Math.floor(random() * bytes.length);
    for (let i = 0; i < bytes.length; i += size) reader.push(bytes.subarray(i, i + size));
    const trace = reader.end();
    const motion = planMotion(trace, bench.machine);
    audit(trace, bench);
    moves += trace.moves.count;
    const { x, y, z } = trace.moves;
    for (let i = 0; i < trace.moves.count; i++)
      if (!Number.isFinite(x[i]! + y[i]! + z[i]!)) throw new Error(`place ${i} is not finite`);
    if (!Number.isFinite(motion.total)) throw new Error('the time is not finite');
  } catch (error) {
    process.stderr.write(`seed ${seed}: ${(error as Error).stack}\n`);
    process.exit(1);
  }
  if (performance.now() - start > HANGS) {
    process.stderr.write(`seed ${seed} took ${Math.round(performance.now() - start)} ms\n`);
    process.exit(1);
  }
  count++;
}
process.stdout.write(`${count} files, ${moves} moves, no throw, no hang, every place finite\n`);
