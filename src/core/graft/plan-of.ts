/** The plan of a ladder made of a sliced file. */

import type { Bench } from '../bench/bench';
import type { Setting, Values } from '../bench/settings';
import { beadWidthOf } from '../deposit/conditions';
import { MOVE, type Trace } from '../gcode/trace';
import { short, tidy } from '../numbers';
import { axisOf } from '../plan/axes';
import type { Axis, Plan, Rung } from '../plan/plan';
import { plainLine, slug } from '../text';
import { VERSION } from '../version';
import type { Making } from './changes';
import { sectionFinder, type Crossings } from './crossings';
import { CLIMBS } from './recipe';

/** What is left of the original's own changes in a move, as factors: of what it feeds and how fast; asked in file order. */
export type Remains = {
  fed: (move: number) => number;
  pace: (move: number) => number;
  faster: (move: number) => number;
};

export function planFor(making: Making, remains: Remains): Plan {
  const { source, wish, from, crossings, climbing, ways, held, bench } = making;
  const { strata } = source;
  const { moves } = source.trace;
  const top = strata.top.at(-1) ?? 1;
  const lead = climbing[0]!;
  const usual = [...strata.thickness].sort((a, b) => a - b)[strata.thickness.length >> 1] ?? 0.2;
  const box = { minX: Infinity, maxX: -Infinity };
  for (let i = 1; i < moves.count; i++)
    if (moves.kind[i] === MOVE.extrude && moves.z[i]! > (from[0] ?? 0)) {
      box.minX = Math.min(box.minX, moves.x[i]!, moves.x[i - 1]!);
      box.maxX = Math.max(box.maxX, moves.x[i]!, moves.x[i - 1]!);
    }
  const byMoves = climbing.some((one) => ways[one] === 'moves');
  const starts = startsOf(source.trace, from, crossings);
  const was = byMoves ? originals(source.trace, starts, top, remains) : null;
  const rows = wish.rows.map((row, i) => {
    const [low, high] = [starts[i]!, starts[i + 1] ?? top];
    const slope = wish.slope;
    const middle = slope
      ? {
          [slope.setting]: tidy(
            (row.set[slope.setting] ?? 0) + slope.perMm * ((low + high) / 2 - from[i]!),
          ),
        }
      : {};
    return { low, high, set: { ...row.set, ...middle } };
  });
  const axis = axisFor(
    lead,
    rows.map(({ set }) => set),
  );
  const rungs = rows.map(({ low, high, set }, index): Rung => {
    const layers = [...strata.top.keys()].filter(
      (k) => strata.top[k]! > low + 1e-6 && strata.top[k]! <= high + 1e-6,
    );
    return {
      index,
      at: [index],
      set,
      z: { from: low, to: high },
      layers: { first: layers[0] ?? 0, last: layers.at(-1) ?? 0 },
      ...(wish.slope ? { slope: { [wish.slope.setting]: wish.slope.perMm } } : {}),
      ...(was ? { was: was[index]! } : {}),
      line: 1,
    };
  });
  const values = rows.map(({ set }) => set[lead] ?? 0);
  const spec = {
    setting: CLIMBS.indexOf(lead),
    from: wish.slope ? (wish.rows[0]!.set[lead] ?? 0) : values[0]!,
    to: wish.slope ? climbedTo(wish.slope, wish.rows.at(-1)!, starts.at(-1)!, top) : values.at(-1)!,
    step: values.length > 1 ? tidy(Math.abs(values[1]! - values[0]!)) : 0,
    count: values.length,
    slope: wish.slope?.perMm ?? 0,
  };
  return {
    format: 'ash-ladder/plan',
    version: 2,
    program: VERSION,
    kind: 'graft',
    spec,
    bench,
    file: graftName(source.name, lead, spec, bench),
    layerHeight: Math.max(0.01, usual),
    height: Math.max(0.1, top),
    width: Math.max(0.1, box.maxX - box.minX + beadWidthOf(bench.nozzle.diameter)),
    view: 'front',
    held,
    ways,
    axes: [axis],
    rungs,
  };
}

/** What a value that climbs with every layer comes to at the top. */
const climbedTo = (
  { setting, perMm }: { setting: Setting; perMm: number },
  { set }: { set: Values },
  start: number,
  top: number,
): number => tidy(Number(((set[setting] ?? 0) + perMm * (top - start)).toFixed(5)));

/** Where sections really begin: with the height of the last stroke before. */
function startsOf({ moves }: Trace, from: readonly number[], { crossings }: Crossings): number[] {
  return from.map((height, i) => {
    const crossing = crossings.find(({ section, last }) => section === i && last !== -1);
    if (!crossing) return height;
    const below = moves.z[crossing.last]!;
    const above = moves.z[crossing.stroke]!;
    // Of several objects the first that climbs through tells it.
    return below < above && above - below < 5 && below >= height - 1e-6
      ? Math.max(height, below)
      : height;
  });
}

/** What moves of each section would do if nothing climbed. */
function originals(
  { moves }: Trace,
  starts: readonly number[],
  top: number,
  { fed, pace, faster }: Remains,
) {
  const sectionOf = sectionFinder([...starts]);
  const sums = starts.map(() => ({ fed: 0, seconds: 0 }));
  for (let i = 1; i < moves.count; i++) {
    if (moves.kind[i] !== MOVE.extrude || moves.z[i]! > top + 1e-3) continue;
    const sum = sums[sectionOf(moves.z[i]!)];
    if (!sum) continue;
    sum.fed += moves.e[i]! * fed(i);
    const length = Math.hypot(
      moves.x[i]! - moves.x[i - 1]!,
      moves.y[i]! - moves.y[i - 1]!,
      moves.z[i]! - moves.z[i - 1]!,
    );
    const speed = moves.speed[i]! * pace(i) * faster(i);
    if (speed > 0) sum.seconds += length / speed;
  }
  return sums.map(({ fed, seconds }) => ({ fed: tidy(fed), seconds: tidy(seconds) }));
}

/** One setting that climbs, or named sets where several change and none tells the sections apart. */
function axisFor(lead: Setting, sets: readonly Values[]): Axis {
  const values = sets.map((set) => set[lead]);
  const apart = new Set(values).size === values.length && !values.includes(undefined);
  if (apart) {
    const all = new Map(sets.map((set) => [set[lead]!, set]));
    return axisOf(lead, values as number[], 'z', (value) => all.get(value)!);
  }
  return {
    setting: null,
    title: 'section',
    unit: '',
    along: 'z',
    steps: sets.map((set, i) => ({ label: `${i + 1}`, set })),
  };
}

function graftName(
  name: string,
  lead: Setting,
  { from, to, step }: { from: number; to: number; step: number },
  { machine, filament }: Bench,
): string {
  const own = slug(name.replace(/\.[a-z]+$/i, '')).slice(0, 50);
  const parts = [machine.name, filament.name].map(slug).filter(Boolean).join('-');
  return plainLine(
    `${parts}_${own || 'file'}_${lead.toLowerCase()}_${short(from)}-${short(to)}-by-${short(step)}.gcode`,
    180,
  );
}
