import type { Command } from 'commander';
import { inWords } from '../core/loupe/headline';
import { keptLook, SIDES, type KeptLook } from '../core/loupe/kept';
import { lookAt } from '../core/loupe/loupe';
import { MEASURE_NAMES, MEASURES, type MeasureName } from '../core/loupe/measures';
import type { Corners } from '../core/loupe/pixels';
import { short } from '../core/numbers';
import { parsePlan } from '../core/plan/plan';
import { fail, ok, problem, problemLine, type Result } from '../core/result';
import { pixelsOf } from '../photo/decode';
import { FINDINGS, giveUp, must, print, readBytesOf } from './io';

type Given = {
  plan: string;
  corners?: string;
  view?: string;
  measure?: string;
  json?: true;
};

/** `ash loupe photo.jpg --plan plan.json --corners … --json` */
export function addLoupe(program: Command): void {
  program
    .command('loupe')
    .description('numbers out of a photo of a print, rung by rung, each with its spread')
    .argument('<photo>', 'JPEG, PNG, WebP or HEIC')
    .requiredOption('--plan <file>', 'plan of the ladder that was printed')
    .option(
      '--corners <x1,y1,…>',
      'pixels of the print’s box: lower left, lower right, upper right, upper left; found without',
    )
    .option('--view <side>', 'from where it was taken: front, back or top')
    .option('--measure <name>', `only this one: ${MEASURE_NAMES.join(', ')}`)
    .option('--json', 'as JSON')
    .action(async (path: string, given: Given) => {
      const plan = must(parsePlan(new TextDecoder().decode(must(readBytesOf(given.plan)))));
      const corners = given.corners === undefined ? undefined : must(cornersOf(given.corners));
      const side = given.view === undefined ? undefined : oneOf('--view', SIDES, given.view);
      const only =
        given.measure === undefined
          ? undefined
          : [oneOf<MeasureName>('--measure', MEASURE_NAMES, given.measure)];
      const photo = must(await pixelsOf(must(readBytesOf(path)), path));
      const found = lookAt(photo, plan, {
        ...(corners ? { corners } : {}),
        ...(side ? { side } : {}),
        ...(only ? { measures: only } : {}),
      });
      const looked = keptLook(found);
      const told = looked.measures.some((one) => one.told);
      if (given.json) print(JSON.stringify(asJson(looked), null, 2));
      else tell(looked);
      if (!told) process.exitCode = FINDINGS;
    });
}

function cornersOf(text: string): Result<Corners> {
  const numbers = text.split(',').map((part) => (part.trim() === '' ? NaN : Number(part)));
  if (numbers.length !== 8 || !numbers.every(Number.isFinite))
    return fail(
      problem(
        '--corners',
        `"${text}" is not eight numbers.`,
        'Give x1,y1,x2,y2,x3,y3,x4,y4: lower left, lower right, upper right, upper left.',
      ),
    );
  const [a, b, c, d] = [0, 2, 4, 6].map((i) => ({ x: numbers[i]!, y: numbers[i + 1]! }));
  return ok([a!, b!, c!, d!]);
}

function oneOf<T extends string>(name: string, all: readonly T[], text: string): T {
  const found = all.find((one) => one === text);
  return found ?? giveUp([problem(name, `"${text}" is unknown.`, `Give ${all.join(', ')}.`)]);
}

function asJson({ side, corners, measures, flat: _, ...rest }: KeptLook) {
  const flatly = (all: readonly { x: number; y: number }[]) => all.flatMap(({ x, y }) => [x, y]);
  return {
    ok: measures.some((one) => one.told),
    ...rest,
    view: side,
    corners: corners && flatly(corners),
    measures: measures.map((one) => ({ ...one, at: flatly(one.at) })),
  };
}

function tell({ problems, pxPerMm, measures }: KeptLook): void {
  for (const one of problems) print(problemLine(one));
  if (pxPerMm !== null) print(`${short(pxPerMm, 1)} pixels a millimetre`);
  for (const one of measures)
    print(
      `${MEASURES[one.name].title}${one.axis ? ` in ${one.axis}` : ''}, rung ${one.rung + 1}: ${inWords(one)}${
        one.told ? '' : `. ${one.why ?? ''}`
      }`,
    );
}
