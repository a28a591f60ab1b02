/** Where the sections of a print begin, once it is known how high they are: by what changes from layer to layer. */

import { clamp } from '../numbers';
import { LEAST, TRAITS, WITHIN, type Strata } from './strata';

/**
 * Where the first section begins. Where there is more alike than whole sections, the plane is taken at which most
 * changes from one layer to the next, folded over all sections.
 */
export function phaseOf(
  { strata, step }: { strata: Strata; step: number },
  low: number,
  top: number,
  section: number,
): { base: number; many: number } {
  const usual = strata.thickness[strata.thickness.length >> 1]!;
  const slack = Math.max(2.5 * usual, ALMOST * section);
  const jumps = jumpsOf(strata);
  const plate = plateOf(jumps, strata, low, section, usual);
  const whole = (from: number) => Math.floor((top - from + slack) / section);
  const fills = (from: number) =>
    Math.abs(top - from - Math.round((top - from) / section) * section);
  if (plate !== null && plate >= low - section) return { base: plate, many: whole(plate) };
  // Nothing but sections below: they begin at the bed.
  if (plate === null && low < section && fills(0) <= slack) return { base: 0, many: whole(0) };
  const many = whole(low);
  const rest = Math.max(0, top - low - many * section);
  const high = strata.top.at(-1)!;
  const changes = (at: number): number => {
    let sum = 0;
    for (let k = 0; k <= many; k++) {
      const z = at + k * section;
      const ends = z < usual || z > high - usual;
      sum += ends ? STRONG : jumpNear(jumps, strata, z, usual / 2);
    }
    return sum;
  };
  if (many < 1) return { base: low, many };
  const from = rest > slack ? low : low - Math.min(low, slack);
  const to = rest > slack ? low + rest : low + 1.2 * usual;
  // A little more at the far end of what is allowed says nothing: what stands nearest to where likeness begins is taken.
  let [base, most] = [low, changes(low) + 0.5];
  for (let at = from; at <= to + step / 2; at += step / 2) {
    const sum = changes(at);
    const nearer = Math.abs(at - low) < Math.abs(base - low);
    if (sum > most + 1e-9 || (sum > most - 1e-9 && nearer)) [base, most] = [at, sum];
  }
  return { base: footNear(jumps, strata, base, usual, Math.min(low, base)), many };
}

/** A jump of this many traits is where something ends. */
const STRONG = 3;
/** A rise comes again when it is as large a section higher, but for this share or so many slacks. */
const AGAIN = { share: 0.25, slacks: 4 };
/** A change is spread over so many layers. */
const SPREAD = 2;

/** Top of a plate or brim under the first section: the last strong change below that does not come again; null for none. */
function plateOf(
  jumps: Float64Array,
  strata: Strata,
  low: number,
  section: number,
  usual: number,
): number | null {
  const { top } = strata;
  for (let i = jumps.length - 1; i >= 1; i--) {
    if (top[i - 1]! > low + 1.2 * usual || jumps[i]! < STRONG) continue;
    let most = i;
    for (let k = i - 1; k >= Math.max(1, i - SPREAD); k--) if (jumps[k]! > jumps[most]!) most = k;
    if (sidesAt(strata, most) >= SIDES && !comesAgain(strata, most, section, usual))
      return top[most - 1]!;
  }
  return null;
}

/** A plate is wider on so many sides at least. */
const SIDES = 2;
const OUTLINE = TRAITS.filter((name) => !WITHIN.has(name));

/** How many sides of the outline jump at the foot of a layer. */
const sidesAt = ({ traits }: Strata, i: number): number =>
  OUTLINE.filter((name) => Math.abs(riseAt(traits[name], i, false)) >= AGAIN.slacks * LEAST[name]!)
    .length;

/** Whether what changes at the foot of a layer changes in the same way a section higher. */
function comesAgain(strata: Strata, i: number, section: number, usual: number): boolean {
  const { top, traits } = strata;
  const higher = top[i - 1]! + section;
  const there = [...top.keys()].filter(
    (k) => k > i && Math.abs(top[k - 1]! - higher) <= 1.2 * usual,
  );
  let [changes, again] = [0, 0];
  for (const name of TRAITS) {
    const rise = riseAt(traits[name], i, WITHIN.has(name));
    const slack = AGAIN.slacks * LEAST[name]!;
    if (Math.abs(rise) < slack) continue;
    changes++;
    const near = Math.max(slack, AGAIN.share * Math.abs(rise));
    if (there.some((k) => Math.abs(riseAt(traits[name], k, WITHIN.has(name)) - rise) <= near))
      again++;
  }
  return 2 * again >= changes;
}

/** Sections whose last is missing by less than this share are whole. */
const ALMOST = 0.06;

/** The foot of a layer at which most changes near a height; the bed where hardly anything is below. */
function footNear(
  jumps: Float64Array,
  { top }: Strata,
  z: number,
  usual: number,
  low: number,
): number {
  if (Math.max(z, low) < 1.2 * usual) return 0;
  let [foot, most] = [z, 0.3];
  for (let i = 1; i < jumps.length; i++) {
    const at = top[i - 1]!;
    if (at < z - 1.2 * usual) continue;
    if (at > z + 1.2 * usual) break;
    if (jumps[i]! > most) [foot, most] = [at, jumps[i]!];
  }
  return foot;
}

/** How much a trait rises at the foot of a layer; `pairs`: two layers below against two above, so that infill that turns is the same in both. */
export function riseAt(values: Float64Array, i: number, pairs: boolean): number {
  const at = (k: number) => values[clamp(k, 0, values.length - 1)]!;
  return pairs ? (at(i) + at(i + 1) - at(i - 1) - at(i - 2)) / 2 : at(i) - at(i - 1);
}

/** How much changes at the foot of each layer beyond what changes at all of them, in slacks of its traits, each at most 1. */
export function jumpsOf({ traits, top }: Strata): Float64Array {
  const jumps = new Float64Array(top.length);
  for (const name of TRAITS) {
    const values = traits[name];
    const rises = values.map((_, i) => riseAt(values, i, WITHIN.has(name)));
    const sizes = rises.map(Math.abs).sort();
    const usual = sizes[sizes.length >> 1]!;
    for (let i = 1; i < jumps.length; i++)
      jumps[i]! += clamp((Math.abs(rises[i]!) - 2 * usual) / (4 * LEAST[name]!), 0, 1);
  }
  return jumps;
}

function jumpNear(jumps: Float64Array, { top }: Strata, z: number, reach: number): number {
  let most = 0;
  for (let i = 1; i < jumps.length; i++) {
    const foot = top[i - 1]!;
    if (foot < z - reach) continue;
    if (foot > z + reach) break;
    most = Math.max(most, jumps[i]!);
  }
  return most;
}
