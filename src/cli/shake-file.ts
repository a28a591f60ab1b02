import type { Command } from 'commander';
import { problem, type Result, ok, fail } from '../core/result';
import { SHAKE_AXES, type ShakeAxis } from '../core/shake/marks';
import { BEFOREHAND, type ShakeAsked } from '../core/shake/asked';
import { makeShakeFile } from '../core/shake/shake-file';
import { FINDINGS, giveUp, must, print, readBench, say, writeWhole } from './io';

type Given = {
  bench: string;
  axis: string;
  out: string;
  json?: true;
} & Partial<Record<'from' | 'to' | 'accel' | 'seconds' | 'at' | 'z' | 'fan', string>>;

/** `ash shake-file --bench b.json --axis x --out shake.gcode` */
export function addShakeFile(program: Command): void {
  program
    .command('shake-file')
    .description('make a file that shakes a machine through a band of frequencies, for a record')
    .requiredOption('--bench <file>', 'bench as JSON')
    .requiredOption('--axis <axis>', SHAKE_AXES.join(', '))
    .requiredOption('--out <file>', 'where the G-code goes')
    .option('--from <hz>', 'where the band begins')
    .option('--to <hz>', 'where it ends')
    .option('--accel <mm/s²>', 'peak acceleration of every stroke')
    .option('--seconds <s>', 'how long one run through the band takes')
    .option('--at <x,y>', 'middle of the strokes on the bed, mm')
    .option('--z <mm>', 'height of the nozzle')
    .option('--fan <share>', 'fan, 0 to 1')
    .option('--json', 'as JSON')
    .action((given: Given) => {
      const axis = must(axisOf(given.axis));
      const asked = { ...must(numbersOf(given)), ...must(placeOf(given.at)), axis };
      const bench = must(readBench(given.bench));
      const made = makeShakeFile(bench, asked);
      if (!made.ok) {
        if (given.json) print(JSON.stringify({ ok: false, problems: made.problems }, null, 2));
        giveUp(made.problems, FINDINGS);
      }
      const { text, name, marks, seconds, lines, notes, audit } = made.value;
      must(writeWhole(given.out, text));
      if (given.json)
        return print(
          JSON.stringify(
            {
              ok: true,
              name,
              seconds,
              lines,
              notes,
              beforehand: BEFOREHAND,
              findings: audit.findings,
              marks,
            },
            null,
            2,
          ),
        );
      for (const line of [...BEFOREHAND, ...notes]) say(line);
      for (const { grade, what, mend } of audit.findings) say(`${grade}: ${what} ${mend}`);
      say(`${lines} lines, ${Math.round(seconds)} s; suggested name ${name}`);
    });
}

const axisOf = (text: string): Result<ShakeAxis> =>
  (SHAKE_AXES as readonly string[]).includes(text)
    ? ok(text as ShakeAxis)
    : fail(problem('--axis', `"${text}" cannot be shaken.`, `Give ${SHAKE_AXES.join(', ')}.`));

const NUMBERS = {
  from: 'from',
  to: 'to',
  accel: 'acceleration',
  seconds: 'seconds',
  z: 'z',
  fan: 'fan',
} as const;

function numbersOf(given: Given): Result<Partial<ShakeAsked>> {
  const asked: Partial<ShakeAsked> = {};
  for (const [option, key] of Object.entries(NUMBERS) as [keyof typeof NUMBERS, 'z'][]) {
    const text = given[option];
    if (text === undefined) continue;
    const value = text.trim() === '' ? NaN : Number(text);
    if (!Number.isFinite(value))
      return fail(problem(`--${option}`, `"${text}" is not a number.`, 'Give one.'));
    asked[key] = value;
  }
  return ok(asked);
}

function placeOf(text: string | undefined): Result<Partial<ShakeAsked>> {
  if (text === undefined) return ok({});
  const [x, y, more] = text.split(',').map((part) => (part.trim() === '' ? NaN : Number(part)));
  return Number.isFinite(x) && Number.isFinite(y) && more === undefined
    ? ok({ at: { x: x!, y: y! } })
    : fail(problem('--at', `"${text}" is not a place.`, 'Write for example 110,110.'));
}
