import type { Command } from 'commander';
import { makeLadder } from '../core/ladders/make';
import { kindOf } from '../core/ladders/registry';
import { fail, ok, problem, problemLine, type Result } from '../core/result';
import { FINDINGS, must, readBench, say, writeWhole } from './io';

/** `ash make temperature --bench b.json --set from=220 to=200 --out t.gcode --plan t.json` */
export function addMake(program: Command): void {
  program
    .command('make <kind>')
    .description('make a ladder as G-code; refuses a file that fails its own audit')
    .requiredOption('--bench <file>', 'bench as JSON')
    .option('--set <key=value...>', 'inputs of the ladder')
    .requiredOption('--out <file>', 'where the G-code goes')
    .option('--plan <file>', 'where the plan goes, as JSON')
    .action((id: string, given: { bench: string; set?: string[]; out: string; plan?: string }) => {
      must(kindOf(id));
      const bench = must(readBench(given.bench));
      const spec = must(settingsOf(given.set ?? []));
      const made = must(makeLadder(id, spec, bench), FINDINGS);
      must(writeWhole(given.out, made.text));
      if (given.plan) must(writeWhole(given.plan, `${JSON.stringify(made.plan, null, 2)}\n`));
      for (const one of made.warnings) say(`${one.grade}: ${problemLine(one)}`);
      for (const { grade, what, mend } of made.audit.findings) say(`${grade}: ${what} ${mend}`);
      const { rungs, file } = made.plan;
      say(
        `${rungs.length} rungs, ${made.trace.lines} lines, ${Math.round(made.motion.total / 60)} min, ` +
          `${made.audit.grams.toFixed(1)} g; suggested name ${file}`,
      );
    });
}

function settingsOf(pairs: readonly string[]): Result<Record<string, number>> {
  const spec: Record<string, number> = {};
  for (const pair of pairs) {
    const [, key, text] = /^([A-Za-z]+)=(.+)$/.exec(pair) ?? [];
    const value = Number(text);
    if (!key || !Number.isFinite(value)) {
      return fail(problem('--set', `"${pair}" is not key=number.`, 'Write for example from=220.'));
    }
    spec[key] = value;
  }
  return ok(spec);
}
