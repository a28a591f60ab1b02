/** What each input of a ladder costs in time, and the one change that saves most when a ladder is long. */

import type { Bench } from '../bench/bench';
import { LayingMemory } from '../deposit/deposit';
import { printingMinutes, timesOf } from '../motion/times';
import { short, snap, tidy } from '../numbers';
import { climb, isWhole, type Range } from './climb';
import { makeOf, type Made } from './make';
import { LONG_MINUTES } from '../plan/limits';
import { kindOf } from './registry';
import type { Field, LadderKind, Offer } from './types';

/** What prints are made with stays as it is: at another speed, or with other walls, another thing would be tested. */
const TESTED_WITH = new Set(['layerHeight', 'speed', 'slow', 'acceleration', 'walls']);
/** A change that saves less than this share of the time is not worth a press. */
const LEAST_SAVED = 0.1;
/** Rungs that a coarser ladder still has. */
const FEWEST = 5;
/** Where it stands and what is around it costs next to nothing a rung. */
const ASIDE = new Set(['from', 'to', 'step', 'skirtLoops', 'brim', 'shiftX', 'shiftY']);

/** An input, by how much it is changed, and what that costs a rung, min; below 0 it saves. */
export type Cost = { key: string; by: number; minutes: number };

export type Costs = {
  rungs: number;
  /** Minutes a rung. */
  perRung: number;
  /** The dearest first. */
  each: Cost[];
  /** For a long ladder: what saves most, and how many minutes. */
  offer: (Offer & { saves: number }) | null;
};

type Spec = Record<string, number>;

/** Works by making the ladder anew with each input changed: some seconds, in a worker of its own. */
export function costsOf(kindId: string, spec: Spec, bench: Bench): Costs | null {
  const found = kindOf(kindId);
  if (!found.ok) return null;
  const kind = found.value;
  const memory = new LayingMemory();
  const make = (patch: Spec): Made | null => {
    const made = makeOf(kind, { ...spec, ...patch }, bench, memory);
    return made.ok ? made.value : null;
  };
  const now = make({});
  if (!now || now.plan.axes.length === 0) return null;
  const minutes = minutesOf(now);
  const { length: rungs } = now.plan.rungs;
  const each = Object.entries(kind.fields).flatMap(([key, field]): Cost[] => {
    if (ASIDE.has(key) || field.choices) return [];
    const by = spec[key]! + field.step <= field.max ? field.step : -field.step;
    const other = make({ [key]: tidy(spec[key]! + by) });
    return other ? [{ key, by, minutes: (minutesOf(other) - minutes) / rungs }] : [];
  });
  each.sort((a, b) => Math.abs(b.minutes) - Math.abs(a.minutes));
  return {
    rungs,
    perRung: minutes / rungs,
    each: each.filter((one) => Math.abs(one.minutes) >= SHOWN),
    offer:
      minutes > LONG_MINUTES
        ? offerOf(kind, spec, kind.defaults(bench) as Spec, each, minutes, make)
        : null,
  };
}

/** A change that makes less of a difference, minutes a rung, is not worth a line. */
const SHOWN = 0.02;

const minutesOf = ({ trace, motion }: Made): number => printingMinutes(timesOf(trace, motion));

/** Coarser steps, or an input as it usually is or one step on its cheaper side: whichever saves most. */
function offerOf(
  { fields }: LadderKind,
  spec: Spec,
  usual: Spec,
  each: readonly Cost[],
  minutes: number,
  make: (patch: Spec) => Made | null,
): Costs['offer'] {
  const changes: Spec[] = [
    ...coarser(spec as unknown as Range, fields.step!.step),
    ...each
      .filter(({ key }) => !TESTED_WITH.has(key))
      .flatMap(({ key, by, minutes: more }) => [
        { [key]: usual[key]! },
        { [key]: tidy(spec[key]! - Math.sign(by * more) * fields[key]!.step) },
      ]),
  ];
  const offers = changes.flatMap((patch) => {
    const made = make(patch);
    // What makes a ladder worse is no saving.
    if (!made || made.warnings.some(({ grade }) => grade === 'warning')) return [];
    return [{ label: said(fields, patch), patch, saves: minutes - minutesOf(made) }];
  });
  const [best] = offers.sort((a, b) => b.saves - a.saves);
  return best && best.saves >= LEAST_SAVED * minutes ? best : null;
}

/** The next coarser step that fits the range and that the machine can take; none where too few rungs would be left. */
function coarser(range: Range, resolution: number): Spec[] {
  const now = climb(range).length - 1;
  const far = Math.abs(range.to - range.from);
  for (let steps = Math.floor(now / COARSER); steps >= FEWEST - 1; steps--) {
    const step = snap(far / steps, resolution);
    if (isWhole({ ...range, step })) return [{ step }];
  }
  return [];
}
const COARSER = 1.3;

function said(fields: Record<string, Field>, patch: Spec): string {
  const [[key, value]] = Object.entries(patch) as [[string, number]];
  const { label, unit } = fields[key]!;
  return `${label} ${short(value)} ${unit}`.trim();
}
