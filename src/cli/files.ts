import { tunedMachine } from '../core/bench/in-force';
import type { Command } from 'commander';
import type { Bench } from '../core/bench/bench';
import { audit } from '../core/gcode/audit';
import { Lines } from '../core/gcode/lines';
import { readBytes } from '../core/gcode/read';
import { strangeIn } from '../core/gcode/stranger';
import { timesOf } from '../core/motion/times';
import { askedFor } from '../core/gcode/asked';
import { parsePlan } from '../core/plan/plan';
import { planMotion } from '../core/motion/plan-motion';
import { proveGraft } from '../core/graft/prove';
import { short } from '../core/numbers';
import { fail, ok, problem } from '../core/result';
import { Exit, FINDINGS, must, print, readBench, readBytesOf, say } from './io';

type Options = { bench: string; json?: true };
type AuditOptions = { bench?: string; json?: true };

const open = (path: string, bench: Bench) => readBytes(must(readBytesOf(path)), bench.machine);

const noBench = fail(
  problem('--bench', 'The file carries no bench.', 'Give one as JSON: ash bench --preset heron.'),
);

/** `ash audit t.gcode --bench b.json` */
export function addAudit(program: Command): void {
  program
    .command('audit <file>')
    .description('what a file would do to a machine; exit 1 when something needs looking at')
    .option('--bench <file>', 'bench as JSON; a ladder of ours carries its own')
    .option('--json', 'as JSON')
    .action((path: string, { bench: benchPath, json }: AuditOptions) => {
      const bytes = must(readBytesOf(path));
      const given = benchPath === undefined ? null : must(readBench(benchPath));
      const first = readBytes(bytes, given?.machine);
      const plan = first.planText === null ? null : parsePlan(first.planText);
      if (plan && !plan.ok) say(`The carried plan cannot be read: ${plan.problems[0]!.what}`);
      const bench = given ?? must(plan?.ok ? ok(plan.value.bench) : noBench);
      const trace = given ? first : readBytes(bytes, bench.machine);
      const checked = audit(trace, bench, plan?.ok ? askedFor(plan.value) : undefined);
      const proven = proveGraft(bytes, plan?.ok ? plan.value : null);
      // Of a file from elsewhere also what to know before it is trusted.
      const strange = plan ? [] : strangeIn(trace, new Lines(bytes), bench, checked);
      const result = { ...checked, findings: [...proven, ...checked.findings, ...strange] };
      if (json) print(JSON.stringify(result, null, 2));
      else {
        for (const { grade, line, what, mend } of result.findings)
          print(`${grade}${line ? ` line ${line}` : ''}: ${what} ${mend}`);
        for (const { index, setting, seen, ok, line } of result.rungs)
          print(
            `rung ${index + 1}: ${setting} ${seen.map((v) => short(v)).join(', ')} ${ok ? 'as asked' : 'WRONG'} (line ${line})`,
          );
        print(`${short(result.filament, 0)} mm of filament, ${short(result.grams, 1)} g`);
      }
      if (result.findings.some(({ grade }) => grade !== 'note')) throw new Exit(FINDINGS);
    });
}

/** `ash time t.gcode --bench b.json` */
export function addTime(program: Command): void {
  program
    .command('time <file>')
    .description('how long a file prints, with heating, homing and waits apart')
    .requiredOption('--bench <file>', 'bench as JSON')
    .option('--json', 'as JSON')
    .action((path: string, { bench: benchPath, json }: Options) => {
      const bench = must(readBench(benchPath));
      const trace = open(path, bench);
      const times = timesOf(trace, planMotion(trace, tunedMachine(bench)));
      if (json) return print(JSON.stringify(times, null, 2));
      for (const [name, seconds] of Object.entries(times))
        print(`${name.padEnd(10)} ${short(seconds, 1)} s`);
    });
}
