import type { Command } from 'commander';
import sharp from 'sharp';
import { lookAt, type Looked } from '../core/loupe/loupe';
import { MEASURE_NAMES, MEASURES, type MeasureName } from '../core/loupe/measures';
import type { Corners, Pixels } from '../core/loupe/pixels';
import type { Side } from '../core/loupe/sight';
import { short } from '../core/numbers';
import { parsePlan } from '../core/plan/plan';
import { fail, ok, problem, problemLine, type Result } from '../core/result';
import { FINDINGS, giveUp, must, print, readBytesOf } from './io';

type Given = {
  plan: string;
  corners?: string;
  view?: string;
  measure?: string;
  json?: true;
};

const SIDES: readonly Side[] = ['front', 'back', 'top'];

/** `ash loupe photo.jpg --plan plan.json --corners … --json` */
export function addLoupe(program: Command): void {
  program
    .command('loupe')
    .description('numbers out of a photo of a print, rung by rung, each with its spread')
    .argument('<photo>', 'JPEG, PNG or WebP')
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
      const photo = must(await pixelsOf(path));
      const looked = lookAt(photo, plan, {
        ...(corners ? { corners } : {}),
        ...(side ? { side } : {}),
        ...(only ? { measures: only } : {}),
      });
      const told = looked.measures.some((one) => one.told);
      if (given.json) print(JSON.stringify(asJson(looked), null, 2));
      else tell(looked);
      if (!told) process.exitCode = FINDINGS;
    });
}

const MOST_PIXELS = 120_000_000;

/** Pixels of a picture, upright. */
async function pixelsOf(path: string): Promise<Result<Pixels>> {
  const bytes = must(readBytesOf(path));
  try {
    const { data, info } = await sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'error' })
      .rotate()
      .flatten({ background: '#ffffff' })
      .toColourspace('srgb')
      .raw()
      .toBuffer({ resolveWithObject: true });
    if (info.channels !== 3)
      return fail(problem(path, `It has ${info.channels} colours a pixel.`, 'Save it as JPEG.'));
    return ok({ width: info.width, height: info.height, rgb: data });
  } catch (error) {
    return fail(
      problem(
        path,
        `It is no picture that can be read (${(error as Error).message.split('\n')[0]!}).`,
        'Take a JPEG, PNG or WebP.',
      ),
    );
  }
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

const rounded = (value: number): number | null =>
  Number.isFinite(value) ? Number(value.toPrecision(6)) : null;

function asJson({ problems, pxPerMm, side, corners, found, lens, measures }: Looked) {
  return {
    ok: measures.some((one) => one.told),
    problems,
    pxPerMm: pxPerMm === null ? null : rounded(pxPerMm),
    view: side,
    corners: corners?.flatMap(({ x, y }) => [rounded(x), rounded(y)]) ?? null,
    found,
    bulge: lens?.k ?? null,
    measures: measures.map(({ name, rung, axis, value, spread, unit, told, why, also, seen }) => ({
      name,
      rung,
      ...(axis ? { axis } : {}),
      value: told ? rounded(value) : null,
      spread: told ? rounded(spread) : null,
      unit,
      told,
      ...(why ? { why } : {}),
      ...(also
        ? { also: Object.fromEntries(Object.entries(also).map(([k, v]) => [k, rounded(v)])) }
        : {}),
      at: seen.flatMap(({ x, y }) => [rounded(x), rounded(y)]),
    })),
  };
}

function tell({ problems, pxPerMm, measures }: Looked): void {
  for (const one of problems) print(problemLine(one));
  if (pxPerMm !== null) print(`${short(pxPerMm, 1)} pixels a millimetre`);
  for (const { name, rung, axis, value, spread, unit, told, why } of measures)
    print(
      `${MEASURES[name].title}${axis ? ` in ${axis}` : ''}, rung ${rung + 1}: ${
        told ? `${short(value, 4)} ± ${short(spread, 4)} ${unit}` : `can’t tell. ${why ?? ''}`
      }`,
    );
}
