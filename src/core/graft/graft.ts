/**
 * From a sliced file and a wish to a ladder: changes are put in between sections, what fights them is lifted out,
 * and everything else stays byte for byte.
 */

import type { Bench } from '../bench/bench';
import { benchTitle } from '../bench/bench';
import { knownBefore } from '../bench/in-force';
import { settingInfo, type Setting } from '../bench/settings';
import { firmwareOf } from '../dialect/dialect';
import { climbEnds } from '../ladders/graft/kind';
import { short } from '../numbers';
import { planLines, PLAN_MARK } from '../gcode/plan-lines';
import type { Plan, Way } from '../plan/plan';
import { fail, ok, problem, type Result } from '../result';
import { plainLine } from '../text';
import { VERSION } from '../version';
import { heldBy, only, putChanges, type Making } from './changes';
import { atLayers, crossingsIn, sectionFinder, type Crossings } from './crossings';
import { placeFaults, wishFaults } from './faults';
import { IN_WAY, obstaclesIn, slowedLayers, type Found } from './obstacles';
import { overrideLeft } from './overrides';
import { blockEdits } from './own-blocks';
import { planFor, type Remains } from './plan-of';
import {
  CLIMBS,
  RECIPE_MARK,
  WAS_MARK,
  type Climbs,
  type Obstacle,
  type Recipe,
  type Wish,
} from './recipe';
import { rewriteMoves, type Rewritten } from './rewrite';
import { crc32, toRuns } from './runs';
import type { Source } from './source';
import { Edits, pieces, written } from './text';
import { waysOf } from './ways';

export type Grafted = {
  bytes: Uint8Array<ArrayBuffer>;
  plan: Plan;
  recipe: Recipe;
  obstacles: Found[];
  /** What is worth knowing, in words. */
  notes: string[];
};

/** Speed at which the head is lifted where the file does not, mm/s, where the machine is quicker. */
const LIFT_SPEED = 10;

/** What stands in the way of a wish, before anything is made. */
export function obstaclesFor(source: Source, wish: Wish): Found[] {
  const { trace, lines, layers } = source;
  const { crossings } = placesOf(source, wish);
  return obstaclesIn(trace, lines, partOf(crossings), climbingIn(wish), layers);
}

const climbingIn = ({ rows, slope }: Wish): Climbs[] => {
  const set = new Set(rows.flatMap((row) => Object.keys(row.set) as Setting[]));
  if (slope) set.add(slope.setting);
  return CLIMBS.filter((one) => set.has(one));
};

function placesOf({ trace, strata }: Source, { rows }: Wish) {
  const heights = rows.map(({ from }) => from);
  const from = atLayers(trace, strata, heights);
  return { from, crossings: crossingsIn(trace, from) };
}

const partOf = ({ crossings, end }: Crossings) => {
  const first = crossings.find(({ section }) => section >= 0);
  return { from: first?.line ?? end, to: end };
};

export function graft(source: Source, wish: Wish, bench: Bench): Result<Grafted> {
  const { trace, lines, layers } = source;
  const faults = wishFaults(source, wish, bench);
  if (faults) return faults;
  const { from, crossings } = placesOf(source, wish);
  const misplaced = placeFaults(from, source);
  if (misplaced) return misplaced;
  const climbing = climbingIn(wish);
  const ways = waysFor(wish, climbing, source, bench);
  const mute = climbing.find((one) => ways[one] === undefined);
  if (mute)
    return fail(
      problem(
        'setting',
        `${bench.machine.name} cannot be told ${settingInfo(mute).title} in this file.`,
        'Fill in its command on the machine’s page, or test another setting.',
      ),
    );
  const part = partOf(crossings);
  const obstacles = obstaclesIn(trace, lines, part, climbing, layers);
  const stuck = obstacles.filter(
    ({ climbs, kind }) => climbs && (wish.mends[kind] ?? 'leave') === 'leave',
  );
  const commanded = climbing.filter((one) => ways[one] !== 'moves');
  const fights = stuck.filter(({ kind }) => commanded.some((one) => IN_WAY[one] === kind));
  if (fights.length > 0)
    return fail(
      ...fights.map(({ lines: at, what }) =>
        problem(`line ${at[0]}`, what, 'Lift them out, or test another setting.'),
      ),
    );

  const edits = new Edits();
  const gone = (kind: Obstacle) => kind !== 'slowed' && (wish.mends[kind] ?? 'leave') !== 'leave';
  for (const { kind, lines: at } of obstacles)
    if (gone(kind)) for (const line of at) edits.lifted.add(line);
  // A plan or recipe that the file carries already would be read as this one's.
  lines.comments((text, line) => {
    if ([PLAN_MARK, RECIPE_MARK, WAS_MARK].some((mark) => text.startsWith(mark)))
      edits.lifted.add(line);
  });

  const slow = slowedLayers(trace, layers, part);
  const held = heldBy(wish, obstacles, trace, part, bench);
  for (const setting of Object.keys(held) as Setting[])
    if (settingInfo(setting).override) ways[setting] = 'command';
  const holdsSlow = wish.mends.slowed === 'hold' ? slow.moves : [];
  const remains: Remains = {
    fed: gone('flow') ? overrideLeft(trace, part.from, 'flow') : asItWas,
    pace: gone('pace') ? overrideLeft(trace, part.from, 'pace') : asItWas,
    faster: paceOf(holdsSlow),
  };
  const rungLines = putChanges({
    edits,
    source,
    wish,
    from,
    crossings,
    climbing,
    ways,
    held,
    bench,
  });
  const moved = rewritten({ source, wish, from, climbing, ways, slow: holdsSlow, bench });
  if (!moved.ok) return moved;
  for (const [line, texts] of moved.value?.before ?? []) edits.put(line, ...texts);
  if (wish.ownBlocks) {
    const own = blockEdits(source, crossings, bench);
    if (!own.ok) return own;
    for (const line of own.value.lifted) edits.lifted.add(line);
    for (const [line, texts] of own.value.before) edits.put(line, ...texts);
  }
  const made = written(source, edits, moved.value);
  const plan = planFor({ source, wish, from, crossings, climbing, ways, held, bench }, remains);
  plan.rungs.forEach((rung, i) => (rung.line = made.lineOf(rungLines[i] ?? part.from)));
  const recipe: Recipe = {
    format: 'ash-ladder/recipe',
    version: 1,
    program: VERSION,
    wish,
    original: {
      name: plainLine(source.name, 180),
      bytes: source.bytes.length,
      lines: lines.count,
      crc32: crc32(source.bytes),
      ended: source.bytes.length === 0 || source.bytes.at(-1) === 10,
    },
    inserted: toRuns(made.inserted),
    lifted: toRuns(made.lifted),
    rewritten: toRuns(made.rewritten),
    tail: made.tail,
  };
  const tail = [
    ...pieces(WAS_MARK, made.was.join(' ')),
    ...planLines(recipe, RECIPE_MARK),
    ...planLines(plan),
  ];
  const bytes = made.finish(tail);
  return ok({ bytes, plan, recipe, obstacles, notes: notesOf(wish, climbing, bench) });
}

function waysFor(wish: Wish, climbing: readonly Climbs[], source: Source, bench: Bench) {
  const ways: Partial<Record<Setting, Way>> = {};
  for (const setting of climbing) {
    const offered = waysOf(setting, source, bench);
    const asked = wish.ways[setting];
    const way = asked && offered.includes(asked) ? asked : offered[0];
    if (way) ways[setting] = way;
  }
  return ways;
}

const asItWas = () => 1;

type Slow = ReturnType<typeof slowedLayers>['moves'];
type Moving = Omit<Making, 'crossings' | 'held'> & { slow: Slow };

/** By how much a move is made faster, where slowed layers are held at the usual speed. Asked in file order. */
function paceOf(slow: Slow): (move: number) => number {
  let at = 0;
  return (move) => {
    while (at < slow.length && slow[at]!.to < move) at++;
    const layer = slow[at];
    return layer && move >= layer.from ? layer.share : 1;
  };
}

/** Rewrites moves where that is the way; null where nothing is rewritten. */
function rewritten({
  source,
  wish,
  from,
  climbing,
  ways,
  slow,
  bench,
}: Moving): Result<Rewritten | null> {
  const byMoves = climbing.filter((one) => ways[one] === 'moves');
  if (byMoves.length === 0 && slow.length === 0) return ok(null);
  return rewriteMoves(source.trace, source.lines, {
    sectionOf: sectionFinder(from),
    values: wish.rows.map(({ set }) => only(set, byMoves)),
    paceOf: paceOf(slow),
    liftSpeed: Math.min(LIFT_SPEED, bench.machine.limits.speed.z),
    firmware: firmwareOf(bench.machine.dialect),
  });
}

function notesOf({ slope, rows }: Wish, climbing: readonly Climbs[], bench: Bench): string[] {
  const notes: string[] = [];
  if (climbing.includes('advance') && !knownBefore('advance', bench))
    notes.push(
      `What ${benchTitle(bench)} had of pressure advance before is not known: it is off after the sections, unless the file says one. Enter it on the machine’s page, and it is put back.`,
    );
  const { max } = climbEnds(bench).acceleration;
  if (rows.some(({ set }) => (set.acceleration ?? 0) > max))
    notes.push(
      `${bench.machine.name} holds accelerations to ${short(max)} mm/s² by itself: sections above that print alike.`,
    );
  if (slope) notes.push('Find the best height, and measure it from the bed with a caliper.');
  return notes;
}
