/**
 * Finds the sections of a sliced print: a form that repeats upward, whatever differs from one section to the next.
 *
 * Each trait of the layers (strata.ts) is compared with itself at every lag. At one lag a trend or taper is the same
 * difference everywhere, so the median difference is taken out; what then agrees is counted, and what figures or a
 * different lean change in some layers is only a few that do not. A period stands out of the lags around it; where a
 * print is the same at every lag, nothing does.
 */

import { jumpsOf, phaseOf, riseAt } from './phase';
import { LEAST, TRAITS, WITHIN, type Strata, type Trait } from './strata';

export type Candidate = {
  /** Height of what stands below the first section, height of a section: mm. */
  base: number;
  section: number;
  count: number;
  /** Share of the layers in the sections, 0..1, that are as those a section above or below. */
  agreement: number;
  /** Heights of layers, mm, that are not. */
  odd: number[];
};
export type Sections = { verdict: 'sections' | 'none'; candidates: Candidate[] };

/** Most points along the height. */
const MOST_POINTS = 3000;
/** Fewest layers of a section, its least height, mm, and fewest sections. */
const FEWEST_LAYERS = 8;
const LOWEST = 1.5;
const FEWEST = 3;
/** How far a trait may be off, as a share of how far it varies over the print, and at least, by trait. */
const VARIES = 0.03;
/** A period stands out by at least this share of what could stand out, and what it must gain over lags nearby. */
const STANDS_OUT = 0.25;
const RISES = 0.04;
/** Among the sections alone, without what is below and above them, it stands out by this. */
const CLEARLY = 0.35;
/** Share that must be able to differ at all: less is what infill does. */
const DIFFERS = 0.03;
/** Of two lags, the shorter is the period if it is nearly as good: all multiples of a period are. */
const AS_GOOD = 0.88;
/** … and the more so where the better one is a multiple of it, to so much. */
const AS_PART = 0.65;
const PART_OFF = 0.03;
const MOST_CANDIDATES = 3;
/** Points from which a median is told. */
const SAMPLE = 256;

export function sectionsIn(strata: Strata): Sections {
  const grid = gridOf(strata);
  if (!grid) return { verdict: 'none', candidates: [] };
  const lags = agreements(grid);
  const peaks = peaksOf(grid, lags);
  const candidates = peaks.flatMap(({ lag }) => placed(grid, lag) ?? []).slice(0, MOST_CANDIDATES);
  const [best] = candidates;
  if (!best) return { verdict: 'none', candidates: [] };
  // Of what agrees as well, the shortest that goes into the best a whole number of times is the section.
  const part = candidates
    .filter(
      (one) => goesInto(one.section, best.section) && one.agreement >= best.agreement - AS_WELL,
    )
    .sort((one, other) => one.section - other.section)[0];
  const first = part ?? best;
  return { verdict: 'sections', candidates: [first, ...candidates.filter((one) => one !== first)] };
}

/** Shares of agreement that differ by less are alike. */
const AS_WELL = 0.02;

/** Whether a length goes into another one twice or more, to a few hundredths. */
function goesInto(part: number, whole: number): boolean {
  const times = whole / part;
  return Math.round(times) > 1 && Math.abs(times - Math.round(times)) < PART_OFF * times;
}

/** Traits at even heights; the layer of each point. */
type Grid = {
  step: number;
  count: number;
  layer: Uint32Array;
  strata: Strata;
  traits: { name: Trait; values: Float64Array; slack: number }[];
  /** Points by which a height may be missed: one layer. */
  miss: number;
};

function gridOf(strata: Strata): Grid | null {
  const { top, thickness } = strata;
  const layers = top.length;
  if (layers < FEWEST * FEWEST_LAYERS) return null;
  const high = top[layers - 1]!;
  const sorted = Float64Array.from(thickness).sort();
  const usual = sorted[layers >> 1]!;
  const step = Math.max(
    Math.max(sorted[Math.floor(layers / 10)]!, usual / 2) / 2,
    high / MOST_POINTS,
  );
  const count = Math.floor(high / step);
  const layer = new Uint32Array(count);
  let at = 0;
  for (let i = 0; i < count; i++) {
    const z = (i + 0.5) * step;
    while (at < layers - 1 && top[at]! < z) at++;
    layer[i] = at;
  }
  const traits = TRAITS.flatMap((name) => {
    const ofLayers = WITHIN.has(name) ? paired(strata.traits[name]) : strata.traits[name];
    const values = Float64Array.from(layer, (one) => ofLayers[one]!);
    const order = Float64Array.from(ofLayers).sort();
    const range = order[Math.floor(0.95 * (layers - 1))]! - order[Math.floor(0.05 * (layers - 1))]!;
    const slack = Math.max(LEAST[name]!, VARIES * range);
    // What hardly varies says nothing, whatever it is compared with.
    return range < 1.5 * LEAST[name]! ? [] : [{ name, values, slack }];
  });
  if (traits.length === 0) return null;
  return { step, count, layer, strata, traits, miss: Math.max(1, Math.round(usual / step)) };
}

/** Infill that turns from layer to layer is taken together, so that odd and even layers are alike. */
function paired(values: Float64Array): Float64Array {
  const last = values.length - 1;
  return values.map(
    (value, i) => (values[Math.max(0, i - 1)]! + 2 * value + values[Math.min(last, i + 1)]!) / 4,
  );
}

type Lags = { from: number; share: Float64Array };

/** For every lag the share of points and traits that are as they are a lag higher. */
function agreements(grid: Grid): Lags {
  const { count, step, traits, miss } = grid;
  const from = Math.max(2, Math.round((0.5 * LOWEST) / step));
  const last = Math.floor(count / 2);
  const share = new Float64Array(Math.max(0, last + 1));
  for (let lag = from; lag <= last; lag++) {
    let [agree, all] = [0, 0];
    for (const { values, slack } of traits) {
      const trend = medianAt(values, lag);
      for (let i = 0; i + lag < count; i++) {
        all++;
        if (isAs(values, i, lag, trend, slack, miss)) agree++;
      }
    }
    share[lag] = all > 0 ? agree / all : 0;
  }
  return { from, share };
}

/** Whether a point is as the one a lag higher, or as one a layer beside that: sections are no whole layers. */
function isAs(
  values: Float64Array,
  i: number,
  lag: number,
  trend: number,
  slack: number,
  miss: number,
): boolean {
  const wanted = values[i]! + trend;
  const at = i + lag;
  if (Math.abs(values[at]! - wanted) <= slack) return true;
  if (at + miss < values.length && Math.abs(values[at + miss]! - wanted) <= slack) return true;
  return at - miss > i && Math.abs(values[at - miss]! - wanted) <= slack;
}

function medianAt(values: Float64Array, lag: number): number {
  const room = values.length - lag;
  const every = Math.max(1, Math.floor(room / SAMPLE));
  const some: number[] = [];
  for (let i = 0; i < room; i += every) some.push(values[i + lag]! - values[i]!);
  some.sort((a, b) => a - b);
  return some[some.length >> 1] ?? 0;
}

type Peak = { lag: number; stands: number };

/** Lags that stand out of those around them, the likeliest period first. */
function peaksOf({ step, count, miss }: Grid, { from, share }: Lags): Peak[] {
  const last = Math.floor(count / 2);
  const least = Math.max(from, Math.ceil(LOWEST / step), FEWEST_LAYERS * miss);
  const usual = Float64Array.from(share.subarray(from, last + 1)).sort();
  if (usual.length < 8) return [];
  const ground = usual[Math.floor(0.4 * usual.length)]!;
  const peaks: Peak[] = [];
  for (let lag = least; lag <= last; lag++) {
    const here = share[lag]!;
    const near = Math.max(2 * miss, Math.round(0.08 * lag));
    let highest = true;
    for (let k = Math.max(from, lag - near); k <= Math.min(last, lag + near); k++)
      if (share[k]! > here || (share[k] === here && k < lag)) highest = false;
    if (!highest) continue;
    const below = lowest(share, Math.max(from, lag >> 1), lag);
    const above = lowest(share, lag, Math.min(last, lag + (lag >> 1)));
    const valley = Math.max(below, above);
    const stands = (here - Math.min(ground, valley)) / Math.max(1e-9, 1 - Math.min(ground, valley));
    if (stands >= STANDS_OUT && here - valley >= RISES) peaks.push({ lag, stands });
  }
  const best = peaks.reduce<Peak | null>(
    (most, one) => (one.stands > (most?.stands ?? 0) ? one : most),
    null,
  );
  const isPart = ({ lag }: Peak): boolean => goesInto(lag, best?.lag ?? 0);
  const period = peaks.find(
    (one) => one.stands >= (isPart(one) ? AS_PART : AS_GOOD) * (best?.stands ?? 0),
  );
  return peaks.sort(
    (a, b) => Number(b === period) - Number(a === period) || b.stands - a.stands || a.lag - b.lag,
  );
}

function lowest(share: Float64Array, from: number, to: number): number {
  let least = Infinity;
  for (let k = from; k <= to; k++) least = Math.min(least, share[k]!);
  return least;
}

/** Where sections of a height begin and how many there are; null where there are too few. */
function placed(grid: Grid, lag: number): Candidate | null {
  const { step, count, strata } = grid;
  const section = periodNear(grid, lag);
  const points = section / step;
  const alike = alikeness(grid, Math.round(points));
  const run = bestRun(alike);
  if (!run) return null;
  const top = Math.min(count * step, (run.to + 1) * step + section);
  const found = run.from * step;
  const high = strata.top.at(-1)!;
  const { base, many } = phaseOf(grid, found, endOf(grid, found, top, high, section), section);
  if (many < FEWEST || standsAmong(grid, base, base + many * section, section) < CLEARLY)
    return null;
  const odd: number[] = [];
  let inside = 0;
  let lastLayer = -1;
  const [first, end] = [
    Math.round(base / step),
    Math.min(count, Math.round((base + many * section) / step)),
  ];
  for (let i = first; i < end; i++) {
    const layer = grid.layer[i]!;
    if (layer === lastLayer) continue;
    lastLayer = layer;
    inside++;
    const up = i < alike.length ? alike[i]! : 0;
    const down = i - Math.round(points) >= first ? alike[i - Math.round(points)]! : 0;
    if (Math.max(up, down) < MOSTLY) odd.push(strata.top[layer]!);
  }
  return {
    base: rounded(base),
    section: rounded(section),
    count: many,
    agreement: inside === 0 ? 0 : (inside - odd.length) / inside,
    odd,
  };
}

/**
 * Where the last section ends: where likeness does, or at the top of the print, where that is near, or as many whole
 * sections up. What differs from section to section, such as a lean, makes the last one look unlike.
 */
function endOf({ strata }: Grid, low: number, top: number, high: number, section: number): number {
  if (top >= high - section * 0.1) return high;
  const usual = strata.thickness[strata.thickness.length >> 1]!;
  const whole = [low, ...(low < section ? [0] : [])].some((from) => {
    const rooms = (high - from) / section;
    return Math.abs(rooms - Math.round(rooms)) * section <= 2.5 * usual;
  });
  return whole && top >= high - section * 0.6 ? high : top;
}

/** Share of traits that must agree for a layer to count as alike. */
const MOSTLY = 0.6;
const rounded = (mm: number): number => Math.round(mm * 1000) / 1000;

/** For each point the share of traits that are as they are a lag higher. */
function alikeness({ traits, count, miss }: Grid, lag: number): Float64Array {
  const alike = new Float64Array(Math.max(0, count - lag));
  for (const { values, slack } of traits) {
    const trend = medianAt(values, lag);
    for (let i = 0; i < alike.length; i++)
      if (isAs(values, i, lag, trend, slack, miss)) alike[i]! += 1 / traits.length;
  }
  return alike;
}

/** How far a period may be off before it is told more finely: layers, and a share of it. */
const OFF = { layers: 3, share: 0.05 };
/** Steps in which it is, mm, and parts of a layer into which heights are folded. */
const FINE = 0.01;
const PARTS = 4;

/**
 * The period, mm, told more finely: that at which changes from layer to layer meet best when all sections are laid
 * over each other. Lags alone are drawn off it by what shifts within a section, such as a lean that grows.
 */
function periodNear({ strata, step }: Grid, lag: number): number {
  const { top, thickness } = strata;
  const jumps = jumpsOf(strata);
  const layer = thickness[thickness.length >> 1]!;
  const near = lag * step;
  const reach = Math.max(OFF.layers * layer, OFF.share * near);
  const part = layer / PARTS;
  const strong = [...jumps.keys()].filter((i) => jumps[i]! > 0.2);
  const energies: [number, number][] = [];
  for (let period = near - reach; period <= near + reach; period += FINE) {
    const bins = new Float64Array(Math.ceil(period / part));
    for (const i of strong) {
      const at = (((top[i - 1]! % period) + period) % period) / part;
      // What falls half a layer apart still meets: sections are no whole layers.
      for (let k = -PARTS; k <= PARTS; k++) {
        const bin = (((Math.round(at) + k) % bins.length) + bins.length) % bins.length;
        bins[bin]! += jumps[i]! * (1 - Math.abs(k) / (PARTS + 1));
      }
    }
    // In fewer bins more falls together by chance.
    energies.push([period, bins.length * bins.reduce((sum, one) => sum + one * one, 0)]);
  }
  const most = Math.max(...energies.map(([, energy]) => energy));
  const good = energies.filter(([, energy]) => energy >= 0.995 * most);
  return good.length === 0 ? near : good.reduce((sum, [period]) => sum + period, 0) / good.length;
}

/** The longest run of points that mostly agree. */
function bestRun(alike: Float64Array): { from: number; to: number } | null {
  if (alike.length === 0) return null;
  let [sum, from, best] = [0, 0, 0];
  let run: { from: number; to: number } | null = null;
  for (let i = 0; i < alike.length; i++) {
    if (sum <= 0) [sum, from] = [0, i];
    sum += alike[i]! - MOSTLY;
    if (sum > best) [best, run] = [sum, { from, to: i }];
  }
  return run;
}

/** How much a lag stands out among sections: its share of likeness against that of lags between one period and the next. */
function standsAmong(grid: Grid, low: number, high: number, section: number): number {
  const { step, traits, count, miss } = grid;
  const [first, end] = [Math.round(low / step), Math.min(count, Math.round(high / step))];
  const shareAt = (lag: number): number => {
    let [agree, all] = [0, 0];
    for (const { values, slack } of traits) {
      const inside = values.subarray(first, end);
      const trend = medianAt(inside, lag);
      for (let i = 0; i + lag < inside.length; i++) {
        all++;
        if (isAs(inside, i, lag, trend, slack, miss)) agree++;
      }
    }
    return all === 0 ? 0 : agree / all;
  };
  const points = section / step;
  if (leansAlone(grid, first, end)) return 0;
  const between = BETWEEN.map((share) => shareAt(Math.round(share * points))).sort((a, b) => a - b);
  const ground = between[between.length >> 1]!;
  if (1 - ground < DIFFERS) return 0;
  const here = Math.max(
    ...[-1, 0, 1].map((by) => shareAt(Math.round(points) + by * Math.max(1, miss >> 1))),
  );
  return (here - ground) / (1 - ground);
}

/** A print that tapers by more than this, mm, and whose outline says nothing else, changes its infill as it goes. */
const TAPERS = 1.5;
/** Infill gains or loses a short line at a time: a change of plastic by this share is none of its. */
const SUDDEN = 0.12;

function leansAlone({ traits, strata, layer }: Grid, first: number, end: number): boolean {
  const { plastic } = strata.traits;
  let sudden = 0;
  for (let i = layer[first]! + 1; i <= layer[end - 1]!; i++)
    if (Math.abs(riseAt(plastic, i, true)) > SUDDEN * plastic[i - 1]!) sudden++;
  if (sudden >= FEWEST) return false;
  let tapers = false;
  for (const { name, values, slack } of traits) {
    if (WITHIN.has(name)) continue;
    const inside = values.subarray(first, end);
    const slope = (inside.at(-1)! - inside[0]!) / Math.max(1, inside.length - 1);
    const off = inside.filter((value, i) => Math.abs(value - inside[0]! - slope * i) > 3 * slack);
    if (off.length > DIFFERS * inside.length) return false;
    tapers ||= Math.abs(inside.at(-1)! - inside[0]!) > TAPERS;
  }
  return tapers;
}

/** Lags, in periods, at which a print with sections is not like itself. */
const BETWEEN = [0.3, 0.4, 0.5, 0.6, 0.7, 1.3, 1.4, 1.5, 1.6, 1.7];
