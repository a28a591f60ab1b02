import type { Command } from 'commander';
import { z } from 'zod';
import { LoupeTold } from '../core/loupe/kept';
import { countsUsually } from '../core/loupe/scoring';
import { findTogether, type Counted } from '../core/loupe/together';
import { disagree, voiceInWords } from '../core/loupe/voices';
import type { LadderKind } from '../core/ladders/types';
import { kindFor, singleFor } from '../core/ladders/registry';
import { StoredPlan, type Plan } from '../core/plan/plan';
import { short } from '../core/numbers';
import { nextInWords, nextRange, type Finding } from '../core/reading/finding';
import { rowsOfFinding } from '../core/reading/found-rows';
import { rowsText, USUAL_STYLE } from '../core/reading/rows';
import { defaultWeights } from '../core/reading/gather';
import { StoredReading, StoredWeights, type Reading } from '../core/reading/types';
import { fail, parseWith, problem } from '../core/result';
import { settingInfo } from '../core/bench/settings';
import { giveUp, must, print, readJson } from './io';

const Readings = z.union([StoredReading.transform((one) => [one]), z.array(StoredReading).min(1)]);

type Given = {
  plan: string;
  scores: string;
  loupe?: string[];
  weights?: string;
  seed: string;
  json?: true;
};

/** What counts of a picture; measures that nobody chose are left out. */
function countedIn(path: string, kind: LadderKind, plan: Plan): Counted {
  const { measures } = must(parseWith(LoupeTold, must(readJson(path)), path));
  const odd = measures.find(({ rung }) => rung >= plan.rungs.length);
  if (odd)
    giveUp([
      problem(
        path,
        `It has a rung ${odd.rung + 1}; the ladder has ${plan.rungs.length}.`,
        'Give what was told of a picture of this print.',
      ),
    ]);
  const criteria = kind.criteria.map(({ name }) => name);
  return measures.filter(({ name }) => countsUsually(name, criteria));
}

/** `ash find --plan t.json --scores s.json --json` */
export function addFind(program: Command): void {
  program
    .command('find')
    .description('the value that the scores of one or more readings point to')
    .requiredOption('--plan <file>', 'plan as JSON')
    .requiredOption('--scores <file>', 'a reading, or a list of readings, as JSON')
    .option('--loupe <file...>', 'what `ash loupe --json` told of pictures of the same print')
    .option('--weights <file>', 'weight of each criterion, as JSON')
    .option('--seed <n>', 'seed of the draws', '1')
    .option('--json', 'as JSON')
    .action((given: Given) => {
      const plan = must(parseWith(StoredPlan, must(readJson(given.plan)), given.plan));
      const readings = must(parseWith(Readings, must(readJson(given.scores)), given.scores));
      const kind = must(kindFor(plan));
      const weights = given.weights
        ? must(parseWith(StoredWeights, must(readJson(given.weights)), given.weights))
        : defaultWeights(kind);
      const seed = Number(given.seed);
      if (!Number.isInteger(seed))
        giveUp([problem('--seed', `"${given.seed}" is not a whole number.`, 'Give one.')]);
      checkLengths(readings, plan);
      const counted = (given.loupe ?? []).map((path) => countedIn(path, kind, plan));
      const finding = must(
        findTogether(kind, plan, plan.bench, {
          readings: readings.map(({ scores }) => scores),
          measured: readings.map(({ measured }) => measured),
          counted,
          weights,
          seed,
        }),
      );
      const [{ value }] = finding.values;
      const table = value === null ? null : (kind.table?.(value, plan.bench) ?? null);
      if (given.json)
        return print(
          JSON.stringify(
            {
              ...asJson(finding),
              ...(table ? { table } : {}),
              ...(finding.map ? { rows: finding.map.rows } : {}),
            },
            null,
            2,
          ),
        );
      for (const line of inWords(finding)) print(line);
      const rows = rowsOfFinding(finding);
      if (rows.length > 0) print(rowsText(rows, USUAL_STYLE));
      if (table)
        for (const row of [[table.title], table.heads, ...table.rows]) print(row.join('  '));
    });
}

/** The first setting stands at the front, as those who ask for one value read it. */
function asJson(finding: Finding) {
  const [{ setting, value, range }, ...also] = finding.values;
  const { unit } = settingInfo(setting);
  const single = finding.next?.single;
  const next = finding.next && {
    ...finding.next,
    range: nextRange(finding),
    // Of a grid on which one setting alone matters, the ladder of that setting.
    ...(single ? { kind: singleFor(single)?.id } : {}),
  };
  return { ...finding, setting, unit, value, range, also, next };
}

function inWords(finding: Finding): string[] {
  const { verdict, values, reason, next, notes, voices } = finding;
  const [{ setting, value, range }, ...others] = values;
  const { unit } = settingInfo(setting);
  return [
    `${verdict}${value === null ? '' : `: ${short(value)} ${unit}`}`,
    ...(range ? [`80 % range ${short(range[0])} to ${short(range[1])} ${unit}`] : []),
    ...others.map((one) => {
      const info = settingInfo(one.setting);
      return `${info.title}: ${one.value === null ? 'no value' : `${short(one.value)} ${info.unit}`}`;
    }),
    reason,
    ...notes,
    ...(voices ? voicesInWords(voices) : []),
    ...(next ? [`next: ${nextInWords(next)}`] : []),
  ];
}

function voicesInWords(voices: NonNullable<Finding['voices']>): string[] {
  const { eye, loupe, of } = voices;
  return [
    `eye: ${eye ? voiceInWords(eye) : 'says too little alone'}`,
    `loupe, for ${of.join(', ')}: ${loupe ? voiceInWords(loupe) : 'says too little alone'}`,
    ...(disagree(voices) ? ['They disagree: look again with the print in hand.'] : []),
  ];
}

/** A list longer or shorter than the ladder would put scores on wrong rungs. */
function checkLengths(readings: Reading[], plan: Plan): void {
  const wrong = readings.flatMap(({ scores }) =>
    Object.entries(scores).filter(([, list]) => list.length !== plan.rungs.length),
  );
  if (wrong.length > 0)
    must(
      fail(
        ...wrong.map(([name, list]) =>
          problem(
            `scores.${name}`,
            `${list.length} scores came; the ladder has ${plan.rungs.length} rungs.`,
            'Give one entry per rung, bottom first, null where nobody could tell.',
          ),
        ),
      ),
    );
}
