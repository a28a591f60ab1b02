/** `ash loop`: design, print on the understudy, read, find, for many hidden machines, and how well it went. */

import type { Command } from 'commander';
import type { Bench } from '../core/bench/bench';
import { CRITERION_NAMES, type Criterion } from '../core/criteria';
import { MACHINES, type MachinePreset } from '../core/bench/presets';
import { kindOf } from '../core/ladders/registry';
import type { LadderKind } from '../core/ladders/types';
import { mean, quantile, short, STEP_SLACK } from '../core/numbers';
import { fail, ok, problem, type Result } from '../core/result';
import { settingInfo } from '../core/bench/settings';
import { Loop, type Trial } from '../rehearsal/loop';
import { NOTICEABLE, type Regret } from '../rehearsal/regret';
import { SHARES } from '../understudy/eye';
import { demoBench } from '../understudy/understudies';
import { must, pick, print, readBench } from './io';
import { rehearseLimits } from './limits-loop';
import { rehearseMap } from './map-loop';
import { rehearseGrid } from './plane-loop';
import { rehearseProof } from './proof-loop';

type Given = {
  machine: MachinePreset;
  bench?: string;
  seeds: string;
  once?: true;
  json?: true;
};

export function addLoop(program: Command): void {
  program
    .command('loop <kind>')
    .description(
      'the whole loop on simulated machines with hidden values, and how often it finds them',
    )
    .option('--machine <name>', `one of ${Object.keys(MACHINES).join(', ')}`, 'heron')
    .option('--bench <file>', 'a bench of your own instead, as JSON')
    .option('--seeds <range>', 'seeds of the hidden machines', '1..20')
    .option('--once', 'the first ladder only, not refined')
    .option('--json', 'as JSON')
    .action((id: string, given: Given) => {
      const kind = must(kindOf(id));
      const bench = given.bench ? must(readBench(given.bench)) : must(benchNamed(given.machine));
      const seeds = must(seedsOf(given.seeds));
      if (kind.rule.kind === 'plane') return rehearseGrid(kind, bench, seeds, given.json === true);
      if (kind.rule.kind === 'limits')
        return rehearseLimits(kind, bench, seeds, given.json === true);
      if (kind.rule.kind === 'map') return rehearseMap(kind, bench, seeds, given.json === true);
      if (kind.rule.kind === 'proof') return rehearseProof(kind, bench, seeds, given.json === true);
      const loop = must(Loop.on(kind, bench));
      const trials = seeds.map((seed) => {
        const trial = must(loop.trial(seed, !given.once));
        if (!given.json) print(trialLine(trial, kind));
        return trial;
      });
      if (given.json) print(JSON.stringify({ kind: id, trials, ...sums(trials) }));
      else for (const line of summary(trials, kind, given.once === true)) print(line);
    });
}

/** The bench of a demo machine. */
export function benchNamed(name: string): Result<Bench> {
  const known = pick('--machine', MACHINES, name);
  return known.ok ? ok(demoBench(name as MachinePreset)) : known;
}

const MOST_SEEDS = 10_000;

export function seedsOf(text: string): Result<number[]> {
  const [, first, last] = /^(\d+)(?:\.\.(\d+))?$/.exec(text) ?? [];
  const [from, to] = [Number(first), Number(last ?? first)];
  if (!first || to < from || to - from >= MOST_SEEDS)
    return fail(
      problem(
        '--seeds',
        `"${text}" is no range of at most ${MOST_SEEDS} seeds.`,
        'Write for example 1..100.',
      ),
    );
  return ok(Array.from({ length: to - from + 1 }, (_, i) => from + i));
}

export const within = (value: number | null, truth: number, far: number): boolean =>
  value !== null && Math.abs(value - truth) <= far * (1 + STEP_SLACK);
export const holds = (range: [number, number] | null, truth: number): boolean =>
  range !== null && truth >= range[0] && truth <= range[1];

/** How often, of all trials: counts, and the median distance. */
function sums(trials: readonly Trial[]) {
  const off = trials.flatMap(({ value, truth }) =>
    value === null ? [] : [Math.abs(value - truth)],
  );
  const found = trials.filter(({ value }) => value !== null);
  // Steps may grow with the value: each truth is judged by the steps about it.
  const steps = trials.map(({ step }) => step);
  return {
    count: trials.length,
    withValue: found.length,
    withinStep: trials.filter(({ value, truth, step }) => within(value, truth, step)).length,
    rangeHolds: found.filter(({ range, truth }) => holds(range, truth)).length,
    refinedWithin: trials.filter(({ refined, truth, step }) => within(refined, truth, 0.6 * step))
      .length,
    refinedHolds: found.filter(({ refinedRange, truth }) => holds(refinedRange, truth)).length,
    minutes: mean(trials.map(({ minutes, ladders }) => minutes / ladders)),
    grams: mean(trials.map(({ grams, ladders }) => grams / ladders)),
    step: quantile(steps, 0.5),
    medianOff: off.length > 0 ? quantile(off, 0.5) : null,
    regret: regretSums(trials.map(({ regret }) => regret)),
    refinedRegret: regretSums(trials.map(({ refinedRegret }) => refinedRegret)),
  };
}

/** How much is lost at the values that were found, and how often an eye would not notice. */
function regretSums(all: readonly (Regret | null)[]) {
  const known = all.filter((one) => one !== null);
  const spread = (values: readonly number[]) =>
    values.length === 0 ? null : { median: quantile(values, 0.5), p90: quantile(values, 0.9) };
  const names = CRITERION_NAMES.filter((name) => known.some(({ excess }) => name in excess));
  return {
    unnoticed: known.filter(({ loss }) => loss < NOTICEABLE).length,
    loss: spread(known.map(({ loss }) => loss)),
    excess: Object.fromEntries(
      names.map((name) => [
        name,
        spread(known.flatMap(({ excess }) => (excess[name] === undefined ? [] : [excess[name]]))),
      ]),
    ),
  };
}

function trialLine(trial: Trial, kind: LadderKind): string {
  const { unit } = settingInfo(kind.finds[0]);
  const { seed, truth, verdict, value, range, refined, minutes, grams, ladders } = trial;
  const parts = [
    `seed ${seed}`,
    `truth ${short(truth, 3)} ${unit}`,
    value === null ? verdict : `found ${short(value, 3)}`,
    range
      ? `range ${short(range[0], 3)} to ${short(range[1], 3)}${holds(range, truth) ? '' : ' MISSES'}`
      : '',
    refined !== null && refined !== value ? `refined ${short(refined, 3)}` : '',
    `${ladders} ladders, ${Math.round(minutes)} min, ${short(grams, 1)} g`,
  ];
  return parts.filter(Boolean).join(' · ');
}

function summary(trials: readonly Trial[], kind: LadderKind, once: boolean): string[] {
  const { unit } = settingInfo(kind.finds[0]);
  const s = sums(trials);
  const { step } = s;
  return [
    `${s.withValue} of ${s.count} with a value`,
    `${s.withinStep} of ${s.count} within one step (${short(step)} ${unit}) of the truth`,
    `${s.rangeHolds} of ${s.withValue} first ranges hold the truth (80 % is what they say)`,
    ...(once
      ? []
      : [
          `${s.refinedWithin} of ${s.count} within ${short(0.6 * step)} ${unit} after one refined ladder, whose range holds ${s.refinedHolds}`,
        ]),
    `median ${s.medianOff === null ? 'none' : `${short(s.medianOff, 3)} ${unit}, ${short(s.medianOff / step, 2)} steps`} off at first`,
    ...regretLines('regret', s.regret, s.count),
    ...(once ? [] : regretLines('regret once refined', s.refinedRegret, s.count)),
    `${short(s.minutes, 0)} min and ${short(s.grams, 1)} g a ladder`,
  ];
}

function regretLines(
  name: string,
  { loss, unnoticed, excess }: ReturnType<typeof regretSums>,
  count: number,
): string[] {
  if (loss === null) return [`${name}: unknown`];
  return [
    `${name}: ${short(loss.median, 2)} of 4 lost at the median, ${short(loss.p90, 2)} at 90 %; ${unnoticed} of ${count} under ${NOTICEABLE}, which an eye does not notice`,
    ...Object.entries(excess).flatMap(([criterion, sizes]) =>
      sizes
        ? [
            `  ${criterion}: ${sizeWords(criterion as Criterion, sizes.median)} more at the median, ${sizeWords(criterion as Criterion, sizes.p90)} at 90 %`,
          ]
        : [],
    ),
  ];
}

const sizeWords = (name: Criterion, size: number): string =>
  SHARES.has(name) ? `${short(100 * size, 1)} %` : `${short(size, 4)} mm`;
