import { readFileSync } from 'node:fs';
import { basename } from 'node:path';
import { Option, type Command } from 'commander';
import { settingInfo } from '../core/bench/settings';
import { readBytes } from '../core/gcode/read';
import { makeGraft } from '../core/graft/make';
import { sourceOf, type Source } from '../core/graft/source';
import { OBSTACLES, Wish, type Mend, type Obstacle, type Row } from '../core/graft/recipe';
import { sectionsIn, type Candidate } from '../core/graft/sections';
import { countIn } from '../core/graft/runs';
import { strataOf } from '../core/graft/strata';
import { ungraft } from '../core/graft/ungraft';
import { climbOf, heightsOf, rowsOf, tableOf } from '../core/graft/wishes';
import { short } from '../core/numbers';
import { fail, ok, parseWith, problem, type Result } from '../core/result';
import { FINDINGS, must, print, readBench, readBytesOf, say, writeWhole } from './io';

/** `ash sections F [--json]` */
export function addSections(program: Command): void {
  program
    .command('sections <file>')
    .description('the sections of a sliced file: where they begin, how high they are, how many')
    .option('--json', 'as JSON')
    .action((path: string, { json }: { json?: true }) => {
      const { verdict, candidates } = sectionsIn(strataOf(readBytes(must(readBytesOf(path)))));
      const told = candidates.map(({ base, section, count, agreement }) => ({
        base,
        section,
        count,
        agreement: Number(agreement.toFixed(4)),
      }));
      if (json) return print(JSON.stringify({ verdict, candidates: told }, null, 2));
      if (verdict === 'none') return print('none: no repeating sections were found');
      for (const { base, section, count, agreement } of told)
        print(
          `${count} sections of ${short(section)} mm from ${short(base)} mm on; ${Math.round(100 * agreement)} % of their layers agree`,
        );
    });
}

type Given = {
  bench: string;
  out: string;
  plan?: string;
  setting?: string;
  from?: number;
  to?: number;
  step?: number;
  base?: number;
  section?: number;
  count?: number;
  at?: string;
  table?: string;
  slope?: number | true;
  way?: 'command' | 'moves';
  lift?: true;
  hold?: true;
  ownBlocks?: true;
};

const number = (name: string) => (text: string) => {
  const value = Number(text);
  if (text.trim() !== '' && Number.isFinite(value)) return value;
  return must<number>(fail(problem(name, `"${text}" is not a number.`, 'Write one such as 1.4.')));
};

/** `ash graft F --bench B --setting S --from A --to B --step C --out G` */
export function addGraft(program: Command): void {
  const option = (name: string, what: string) =>
    new Option(`--${name} <number>`, what).argParser(number(`--${name}`));
  program
    .command('graft <file>')
    .description('a ladder made of a sliced file: a setting climbs over its sections')
    .requiredOption('--bench <file>', 'bench as JSON')
    .option('--setting <name>', 'what climbs')
    .addOption(option('from', 'value of the first section'))
    .addOption(option('to', 'value of the last section'))
    .addOption(option('step', 'between one section and the next'))
    .addOption(option('base', 'height of what stands below the first section, mm'))
    .addOption(option('section', 'height of a section, mm'))
    .addOption(option('count', 'number of sections'))
    .option('--at <heights>', 'heights at which sections begin, mm: z1,z2,…')
    .option('--table <file>', 'several settings at once, as CSV: height,setting,…')
    .addOption(
      new Option(
        '--slope [number]',
        'a value that climbs with every layer, by so much a mm from --from on; without a number, up to --to',
      ).argParser(number('--slope')),
    )
    .addOption(new Option('--way <way>', 'how flow or speed is set').choices(['command', 'moves']))
    .option('--lift', 'lift out every command of the file that is in the way')
    .option('--hold', 'hold one value throughout where the file changes it')
    .option('--own-blocks', 'start and end of the bench instead of those of the file')
    .requiredOption('--out <file>', 'where the G-code goes')
    .option('--plan <file>', 'where the plan goes, as JSON')
    .action((path: string, given: Given) => {
      const bench = must(readBench(given.bench));
      const bytes = must(readBytesOf(path));
      const trace = readBytes(bytes, bench.machine);
      const source = sourceOf(basename(path), bytes, trace);
      const wish = must(wishOf(source, given, bench));
      const made = must(makeGraft(source, wish, bench), FINDINGS);
      const { plan, recipe, obstacles, notes } = made;
      must(writeWhole(given.out, made.bytes));
      if (given.plan) must(writeWhole(given.plan, `${JSON.stringify(plan, null, 2)}\n`));
      for (const { kind, what, climbs } of obstacles)
        say(
          `${climbs || wish.mends[kind] !== undefined ? 'note' : 'warning'}: ${what} (${kind}: ${wish.mends[kind] ?? 'left'})`,
        );
      for (const note of notes) say(`note: ${note}`);
      for (const { index, set, z, line } of plan.rungs)
        say(
          `section ${index + 1} from ${short(z.from)} mm: ${Object.entries(set)
            .map(([name, value]) => `${name} ${short(value, 5)}`)
            .join(', ')} (line ${line})`,
        );
      const { lines } = recipe.original;
      const [changed, moved] = [countIn(recipe.lifted), countIn(recipe.rewritten)];
      say(
        `${plan.rungs.length} sections; ${changed} lines lifted out, ${moved} rewritten, ${lines - changed - moved} of ${lines} stay byte for byte; suggested name ${plan.file}`,
      );
    });
}

function wishOf(source: Source, given: Given, bench: Parameters<typeof climbOf>[1]): Result<Wish> {
  const mends: Partial<Record<Obstacle, Mend>> = {};
  for (const kind of OBSTACLES) {
    if (given.lift && kind !== 'slowed') mends[kind] = 'lift';
    if (given.hold) mends[kind] = 'hold';
  }
  const rest = { mends, ownBlocks: given.ownBlocks === true };
  if (given.table !== undefined) {
    let text: string;
    try {
      text = readFileSync(given.table, 'utf8');
    } catch (error) {
      return fail(
        problem(
          given.table,
          `It cannot be read (${(error as NodeJS.ErrnoException).code}).`,
          'Check the path.',
        ),
      );
    }
    const rows = tableOf(text, bench);
    if (!rows.ok) return rows;
    const ways = given.way ? { flow: given.way, pace: given.way } : {};
    return parseWith(Wish, { rows: rows.value, ways, ...rest }, 'graft');
  }
  if (given.setting === undefined)
    return fail(problem('--setting', 'Nothing is to climb.', 'Name a setting, or give a --table.'));
  const setting = climbOf(given.setting, bench);
  if (!setting.ok) return setting;
  if (given.way && !settingInfo(setting.value).override)
    return fail(
      problem(
        '--way',
        `${settingInfo(setting.value).title} can be set in one way only.`,
        'Leave --way out; it is for flow and speed.',
      ),
    );
  const ways = given.way ? { [setting.value]: given.way } : {};
  if (given.slope !== undefined) {
    const base =
      given.base ?? given.at?.split(',').map(Number)[0] ?? candidateOf(source)?.base ?? 0;
    const start = given.from ?? 0;
    const high = source.strata.top.at(-1) ?? 0;
    if (given.slope === true && (given.to === undefined || high <= base))
      return fail(
        problem(
          '--slope',
          'How much it climbs is not said.',
          'Give --slope a number, or --from and --to.',
        ),
      );
    const perMm = given.slope === true ? (given.to! - start) / (high - base) : given.slope;
    const rows: Row[] = [{ from: base, set: { [setting.value]: start } }];
    return parseWith(
      Wish,
      { rows, slope: { setting: setting.value, perMm }, ways, ...rest },
      'graft',
    );
  }
  const { from, to, step } = given;
  if (from === undefined || to === undefined || step === undefined)
    return fail(problem('--from', 'The range is not complete.', 'Give --from, --to and --step.'));
  const heights = heightsFor(source, given);
  if (!heights.ok) return heights;
  const rows = rowsOf(setting.value, { from, to, step }, heights.value);
  if (!rows.ok) return rows;
  if (rows.value.note) say(`note: ${rows.value.note}`);
  return parseWith(Wish, { rows: rows.value.rows, ways, ...rest }, 'graft');
}

const candidateOf = ({ strata }: Source): Candidate | null =>
  sectionsIn(strata).candidates[0] ?? null;

function heightsFor(
  source: Source,
  { at, base, section, count, from, to, step }: Given,
): Result<number[]> {
  if (at !== undefined) {
    const heights = at.split(',').map((text) => Number(text.trim() === '' ? NaN : text));
    return heights.every((one) => Number.isFinite(one) && one >= 0)
      ? ok(heights)
      : fail(
          problem('--at', `"${at}" is not a list of heights.`, 'Write for example 1.4,11.4,21.4.'),
        );
  }
  const values = Math.floor(Math.abs(to! - from!) / step! + 1e-6) + 1;
  if (base !== undefined && section !== undefined && section > 0)
    return ok(heightsOf({ base, section, count: count ?? values }));
  if (base !== undefined || section !== undefined || count !== undefined)
    return fail(
      problem(
        '--base',
        'The sections are not complete.',
        'Give --base and --section, and --count.',
      ),
    );
  const found = candidateOf(source);
  if (!found)
    return fail(
      problem(
        'file',
        'No repeating sections were found.',
        'Give them yourself: --base, --section and --count, or --at.',
      ),
    );
  say(
    `sections as found: ${found.count} of ${short(found.section)} mm from ${short(found.base)} mm on; ${Math.round(100 * found.agreement)} % of their layers agree`,
  );
  if (values < found.count)
    say(`note: ${values} values for ${found.count} sections: those above print as the last one.`);
  return ok(heightsOf({ ...found, count: Math.min(found.count, values) }));
}

/** `ash ungraft G --out F` */
export function addUngraft(program: Command): void {
  program
    .command('ungraft <file>')
    .description('takes a ladder out of a sliced file again: the original, byte for byte')
    .requiredOption('--out <file>', 'where the original goes')
    .action((path: string, { out }: { out: string }) => {
      const { bytes, recipe } = must(ungraft(must(readBytesOf(path))), FINDINGS);
      must(writeWhole(out, bytes));
      say(`${recipe.original.name}: ${bytes.length} bytes, as it was`);
    });
}
