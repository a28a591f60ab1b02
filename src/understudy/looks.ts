/** What can be seen of a place on a print: the size of each fault, as a person with a lens would measure it. */

import { growBox, type Box } from '../core/bench/bed';
import type { Criterion } from '../core/criteria';
import { CELL } from './surface';
import type { Printed } from './print';
import { SAMPLE, type Samples } from './samples';

/** A part of the print: a band of heights, and a box on the bed when it is only part of that. mm */
export type Place = {
  z: { from: number; to: number };
  box?: Box;
  /** Where single criteria are looked at instead. */
  own?: Partial<Record<Criterion, Box>>;
};

/** Size of each fault; what cannot be judged there is left out. Lengths mm, shares 0..1. */
export type Seen = Partial<Record<Criterion, number>>;

/** Ways from a corner within which its bulge stands, mm, past which echoes are judged, and over how far: they die away. */
const CORNER_REACH = 1.2;
const RINGS_FROM = 1.5;
const RINGS_OVER = 6;
/** Way after a restart that is judged as seam, mm. */
const SEAM_REACH = 1;
/** Fewest samples from which something is said. */
const FEW = 8;

export function look(printed: Printed, { z, box, own = {} }: Place): Seen {
  const seen = lookIn(printed, z, box);
  for (const [name, part] of Object.entries(own) as [Criterion, Box][]) {
    const there = lookIn(printed, z, part)[name];
    if (there === undefined) delete seen[name];
    else seen[name] = there;
  }
  return seen;
}

function lookIn({ samples, threads, bore }: Printed, z: Place['z'], box: Box | undefined): Seen {
  const at: number[] = [];
  const inside = (x: number, y: number) =>
    !box || (x >= box.minX && x <= box.maxX && y >= box.minY && y <= box.maxY);
  for (const { height, from, to } of levelsOf(samples)) {
    if (height <= z.from + EDGE || height > z.to + EDGE) continue;
    for (let n = from; n < to; n++) if (inside(samples.x[n]!, samples.y[n]!)) at.push(n);
  }
  const seen: Seen = {};
  const put = (name: Criterion, size: number | null) => {
    if (size !== null && Number.isFinite(size)) seen[name] = size;
  };
  const where = (test: (n: number) => boolean) => at.filter(test);
  const { support, drop, bond, shine, rough, ratio, asked, since, until, begun, swing } = samples;

  const drawn = threads.filter(
    (one) => one.z > z.from + EDGE && one.z <= z.to + EDGE && inside(one.from.x, one.from.y),
  );
  put('stringing', drawn.length < 3 ? null : mean(drawn.map(({ thick }) => thick)));
  const leaning = where((n) => support[n]! > 0.02 && support[n]! < 0.75);
  // Where a part is pointed at, all of it is judged: a stray bead at a corner is no overhang.
  const judged = box ? at : leaning;
  put('overhang', leaning.length < FEW && !box ? null : high(judged.map((n) => drop[n]!)));
  const hanging = where((n) => support[n] === 0);
  put('bridging', hanging.length < FEW ? null : high(hanging.map((n) => drop[n]!)));
  const resting = where((n) => support[n]! >= 0.75);
  if (resting.length >= FEW) {
    // What is missing from a bead is felt as well as what ripples it.
    put(
      'surface',
      rms(resting.map((n) => Math.hypot(rough[n]!, 0.1 * Math.max(0, 0.93 - ratio[n]!)))),
    );
    put('gloss', 1 - mean(resting.map((n) => shine[n]!)));
    put('layer adhesion', 1 - low(resting.map((n) => bond[n]!)));
    const fault = (n: number) => (ratio[n]! - 1) * asked[n]!;
    const bulges = where(
      (n) => support[n]! >= 0.75 && (until[n]! < CORNER_REACH || since[n]! < CORNER_REACH),
    );
    put('corners', bulges.length < FEW ? null : rms(bulges.map(fault)));
    const runs = where((n) => support[n]! >= 0.75 && begun[n]! > SEAM_REACH);
    put(
      'evenness',
      runs.length < FEW
        ? null
        : ((box ? besideOf(samples, runs, fault) : null) ?? spread(runs.map(fault))),
    );
    const seams = where((n) => support[n]! >= 0.75 && begun[n]! <= SEAM_REACH);
    put('seam', seams.length < 4 ? null : rms(seams.map(fault)));
    const rings = where((n) => since[n]! >= RINGS_FROM && since[n]! < RINGS_FROM + RINGS_OVER);
    put('ringing', rings.length < FEW ? null : high(rings.map((n) => Math.abs(swing[n]!))));
    // Here and there a cell below is empty though its neighbours are not: a patch is judged with all its beads.
    const fill = fillOf(
      samples,
      where((n) => support[n]! > 0.15),
      box,
    );
    if (fill !== null) {
      put('gaps', Math.max(0, -fill));
      put('ridges', Math.max(0, fill));
    }
  }
  // Strands over air are laid a bore apart: thinner ones leave light between them.
  if (hanging.length >= FEW && seen.gaps === undefined) {
    const thick = hanging.map((n) => {
      const area = samples.gap[n]! * (samples.width[n]! - samples.gap[n]! * (1 - Math.PI / 4));
      return Math.sqrt((4 * Math.max(0, area)) / Math.PI) / bore;
    });
    put('gaps', Math.max(0, 1 - mean(thick)));
  }
  // A wall has no inside to be filled: what is missing from its beads parts its layers.
  if (resting.length >= FEW && seen.gaps === undefined)
    put('gaps', Math.max(0, 1 - mean(resting.map((n) => ratio[n]!))));
  put('line-up', apart(samples, at));
  return seen;
}

type Level = { height: number; from: number; to: number };
const known = new WeakMap<Samples, Level[]>();

/** Runs of samples at one height. A place is a few of thousands, and a print is looked at in many places. */
function levelsOf(samples: Samples): Level[] {
  const found = known.get(samples);
  if (found) return found;
  const levels: Level[] = [];
  for (let n = 0; n < samples.count; n++) {
    const height = samples.z[n]!;
    const last = levels.at(-1);
    if (last?.height === height) last.to = n + 1;
    else levels.push({ height, from: n, to: n + 1 });
  }
  known.set(samples, levels);
  return levels;
}

/** Heights carry three decimals, mm. */
const EDGE = 1e-3;

/**
 * How much more plastic lies in a flat patch than there is room for, as a share of that room: 0 is just closed, below
 * it there are gaps. Judged inside the patch, where plastic lies all around; walls have no inside and are left out.
 */
function fillOf(
  { x, y, z, width, gap }: Printed['samples'],
  at: readonly number[],
  box: Box | undefined,
): number | null {
  const volumeOf = (n: number) => gap[n]! * (width[n]! - gap[n]! * (1 - Math.PI / 4)) * SAMPLE;
  const key = (column: number, row: number, height: number) => `${column} ${row} ${height}`;
  const cells = new Map<string, { column: number; row: number; height: number; volume: number }>();
  let gaps = 0;
  for (const n of at) {
    const [column, row] = [Math.round(x[n]! / FILL_CELL), Math.round(y[n]! / FILL_CELL)];
    const height = z[n]!;
    const volume = volumeOf(n);
    const cell = cells.get(key(column, row, height));
    if (cell) cell.volume += volume;
    else cells.set(key(column, row, height), { column, row, height, volume });
    gaps += gap[n]!;
  }
  const inner = [...cells.values()].filter(({ column, row, height }) =>
    AROUND.every(([dx, dy]) => cells.has(key(column + dx, row + dy, height))),
  );
  if (inner.length < Math.max(FEWEST_INNER, LEAST_INNER * cells.size)) return null;
  const tall = gaps / at.length;
  const volume = inner.reduce((sum, cell) => sum + cell.volume, 0);
  const fill = volume / (inner.length * FILL_CELL ** 2 * tall);
  if (fill <= LEAST_FILL) return null;
  if (!box) return fill - 1;
  // The squares fall otherwise on every pad; the middle of the pad as a whole does not.
  const { minX, maxX, minY, maxY } = growBox(box, -RIM);
  const room = (maxX - minX) * (maxY - minY) * tall;
  const layers = new Map<number, number>();
  for (const n of at)
    if (x[n]! > minX && x[n]! < maxX && y[n]! > minY && y[n]! < maxY)
      layers.set(z[n]!, (layers.get(z[n]!) ?? 0) + volumeOf(n));
  // What has no room in a layer stands up between its lines and takes room from the next one; a gap takes nothing from
  // the layer over it, which is drawn across.
  return [...layers]
    .sort(([a], [b]) => a - b)
    .reduce((below, [, laid]) => Math.max(0, below) + laid / room - 1, 0);
}
/** Rim of a pad, mm, where lines turn: it is fuller than the rest. */
const RIM = 1.5;
/** Side of the squares by which a patch is looked at, mm: wider than any gap between its lines. */
const FILL_CELL = CELL * 8;
const FEWEST_INNER = 12;
/** Share of the squares that must lie inside: a few lines side by side are no patch. */
const LEAST_INNER = 0.4;
/** Less plastic than this share of the room is a hollow form and no patch with gaps. */
const LEAST_FILL = 0.55;
const AROUND = [
  [1, 0],
  [-1, 0],
  [0, 1],
  [0, -1],
] as const;

/** Lines that lie this far apart, beads, are seen side by side; what lies nearer touches. */
const SIDE_BY_SIDE = [2, 8] as const;
/** Length along two lines that is compared at once, mm, and share of it on which both must be there. */
const COMPARED = 0.5;
const BOTH = 0.8;

/**
 * How much two lines along x differ in width that lie side by side, mm: an eye that has a line to compare with sees
 * where one is thick and the other thin at the same place, and does not mind what both have in common.
 *
 * @returns null where there are not just two such lines
 */
function besideOf(
  { x, y, asked }: Samples,
  at: readonly number[],
  fault: (n: number) => number,
): number | null {
  const places = new Map<number, Map<number, number[]>>();
  for (const n of at) {
    const place = Math.round(x[n]! / COMPARED);
    const lines = places.get(place) ?? new Map<number, number[]>();
    places.set(place, lines);
    // Lines are told apart by where they lie: a speed that changes begins another move of the same line.
    const line = Math.round(y[n]! / asked[n]!);
    const known = [...lines.keys()].find((one) => Math.abs(one - line) <= 1) ?? line;
    lines.set(known, [...(lines.get(known) ?? []), n]);
  }
  const [nearest, furthest] = SIDE_BY_SIDE;
  const differences = [...places.values()].flatMap((lines) => {
    const two = [...lines.values()];
    if (two.length !== 2) return [];
    const [a, b] = two as [number[], number[]];
    const apart = Math.abs(mean(a.map((n) => y[n]!)) - mean(b.map((n) => y[n]!)));
    const beads = apart / asked[a[0]!]!;
    if (beads < nearest || beads > furthest) return [];
    return [mean(a.map(fault)) - mean(b.map(fault))];
  });
  return differences.length >= Math.max(FEW, BOTH * places.size) ? rms(differences) : null;
}

/** Distance between the lines of two nozzles along x, mm; null where only one printed. */
function apart({ x, tool }: Printed['samples'], at: readonly number[]): number | null {
  const of = (which: number) => at.filter((n) => tool[n] === which).map((n) => x[n]!);
  const [a, b] = [of(0), of(1)];
  return a.length > 3 && b.length > 3 ? Math.abs(mean(a) - mean(b)) : null;
}

const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;
const rms = (values: readonly number[]): number =>
  Math.sqrt(mean(values.map((value) => value * value)));
const spread = (values: readonly number[]): number => {
  const middle = mean(values);
  return rms(values.map((value) => value - middle));
};
const ranked = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[
    Math.min(values.length - 1, Math.floor(share * values.length))
  ]!;
/** Nearly the largest, and nearly the smallest: one odd sample is not what catches the eye. */
const high = (values: readonly number[]): number => ranked(values, 0.92);
const low = (values: readonly number[]): number => ranked(values, 0.08);
