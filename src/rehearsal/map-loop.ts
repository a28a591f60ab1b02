/** The whole loop of a map: all its prints on an understudy, the best figure of each cell tapped, the map told. */

import type { Bench } from '../core/bench/bench';
import { settingInfo } from '../core/bench/settings';
import { climb, type Range } from '../core/ladders/climb';
import { makeOf, type Made } from '../core/ladders/make';
import type { MapSpec } from '../core/ladders/map/cells';
import { partsOf } from '../core/ladders/map/kind';
import type { LadderKind } from '../core/ladders/types';
import { mean, snap, tidy } from '../core/numbers';
import { findValue } from '../core/reading/find-value';
import type { Finding } from '../core/reading/finding';
import { defaultWeights, type Earlier } from '../core/reading/gather';
import { fail, ok, problem, type Result } from '../core/result';
import { trueQuality } from '../understudy/eye';
import { printTrace } from '../understudy/print';
import { drawTruths, type Truths } from '../understudy/truths';
import { withFound } from './found-before';
import { measure } from './instruments';
import { peakOf } from './loop';
import { placesOf } from './places';

export type CellTrial = {
  flow: number;
  acceleration: number;
  truth: number;
  /** By the fit, and by the cell alone; null where it was not read. */
  found: number;
  read: number | null;
  range: [number, number];
};
export type MapTrial = {
  seed: number;
  verdict: Finding['verdict'];
  single: number | null;
  cells: CellTrial[];
  prints: number;
  minutes: number;
  grams: number;
};

/** Maps that are moved because most cells are best at an end; then a hobbyist gives up. */
const MOST_MOVES = 2;
/** Steps of truth beside those of the map, and steps that it looks beyond its ends. */
const [FINE, BEYOND] = [0.5, 1];

export class MapLoop {
  private constructor(
    private readonly kind: LadderKind<MapSpec>,
    private readonly bench: Bench,
  ) {}

  /** @returns problems for a bench that cannot print it */
  static on(kind: LadderKind, bench: Bench): Result<MapLoop> {
    const made = makeOf(kind, {}, bench);
    if (!made.ok) return made;
    return ok(new MapLoop(kind as unknown as LadderKind<MapSpec>, bench));
  }

  trial(seed: number): Result<MapTrial> {
    const truths = drawTruths(this.bench, seed);
    const bench = withFound(this.bench, ['advance', ...this.kind.standsOn], truths);
    let spec = this.kind.defaults(bench);
    let [prints, minutes, grams] = [0, 0, 0];
    for (let moves = 0; ; moves++) {
      const printed = this.printed(spec, bench, truths);
      if (!printed.ok) return printed;
      const all = printed.value;
      prints += all.length;
      minutes += all.reduce((sum, one) => sum + one.minutes, 0);
      grams += all.reduce((sum, one) => sum + one.made.audit.grams, 0);
      const looks = all.map(({ made, print }, i): Earlier => ({
        plan: made.plan,
        readings: [],
        measured: [measure(['best'], print, made.plan, Math.imul(seed, 31) + i)],
      }));
      const last = looks.at(-1)!;
      const found = findValue(this.kind, last.plan, bench, {
        readings: [],
        measured: last.measured!,
        earlier: looks.slice(0, -1),
      });
      if (!found.ok) return found;
      const { verdict, next, values, map } = found.value;
      const ahead = next?.ranges.advance;
      if (verdict === 'edge' && ahead && moves < MOST_MOVES) {
        spec = this.kind.moved(spec, { advance: ahead });
        continue;
      }
      if (!map) return fail(problem('kind', 'No map was found.', 'Rehearse a map.'));
      const truth = this.truth(spec, bench, truths);
      if (!truth.ok) return truth;
      const cells = map.rows.map((row): CellTrial => ({
        flow: row.flow,
        acceleration: row.acceleration,
        truth: truth.value.get(`${row.speed} ${row.acceleration}`)!,
        found: row.advance,
        read: row.read,
        range: row.range,
      }));
      const { value } = values[0];
      return ok({ seed, verdict, single: value, cells, prints, minutes, grams });
    }
  }

  /** The best value of each cell without any error: by figures in finer steps, and no eye. */
  private truth(spec: MapSpec, bench: Bench, drawn: Truths): Result<Map<string, number>> {
    const truths = { ...drawn, bed: { ...drawn.bed, tiltX: 0, tiltY: 0 } };
    const printed = this.printed({ ...spec, ...fineRange(spec) }, bench, truths);
    if (!printed.ok) return printed;
    const weights = defaultWeights(this.kind);
    const found = new Map<string, number>();
    for (const { made, print } of printed.value) {
      const { axes, rungs } = made.plan;
      const quality = trueQuality(print, placesOf(made.plan), weights);
      axes[1]!.steps.forEach(({ set }, cell) => {
        const of = rungs.filter(({ at }) => at[1] === cell);
        const best = peakOf(
          of.map((rung) => rung.set.advance!),
          of.map(({ index }) => quality[index]!),
        );
        found.set(`${set.wallSpeed} ${set.acceleration}`, best);
      });
    }
    return ok(found);
  }

  /** Every print that a map takes. */
  private printed(spec: MapSpec, bench: Bench, truths: Truths) {
    const all: { made: Made; print: ReturnType<typeof printTrace>; minutes: number }[] = [];
    const { length } = partsOf(spec, bench);
    for (let part = 1; part <= length; part++) {
      const made = makeOf(this.kind, { ...spec, part }, bench);
      if (!made.ok) return made;
      const print = printTrace(made.value.trace, bench, truths);
      all.push({ made: made.value, print, minutes: print.seconds / 60 });
    }
    return ok(all);
  }
}

function fineRange({ from, to, step }: Range): Range {
  const fine = Math.max(settingInfo('advance').resolution, tidy(snap(FINE * step, 0.001)));
  const low = Math.max(0, tidy(from - Math.floor((BEYOND * step) / fine) * fine));
  const count = climb({ from: low, to: to + BEYOND * step, step: fine }).length;
  return { from: low, to: tidy(low + (count - 1) * fine), step: fine };
}

/** How far values are from the truth, as shares of it. */
export const offOf = (cells: readonly CellTrial[], of: (cell: CellTrial) => number | null) =>
  cells.flatMap((cell) => {
    const value = of(cell);
    return value === null ? [] : [Math.abs(value - cell.truth) / cell.truth];
  });

/** What the prints of several machines took, a machine. */
export const costOf = (trials: readonly MapTrial[]) => ({
  prints: mean(trials.map(({ prints }) => prints)),
  minutes: mean(trials.map(({ minutes }) => minutes)),
  grams: mean(trials.map(({ grams }) => grams)),
});
