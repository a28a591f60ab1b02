import { readFileSync } from 'node:fs';
import { Bench } from './bench/bench';
import { SCHEMAS, schemaText } from './formats';
import { Plan } from './plan/plan';
import { parseWith } from './result';
import { benchFor, makeTemperature } from './testing';
import { VERSION } from './version';

test.each(Object.keys(SCHEMAS) as (keyof typeof SCHEMAS)[])(
  'docs/schema/%s.schema.json is what the program checks',
  (name) => {
    expect(readFileSync(`docs/schema/${name}.schema.json`, 'utf8')).toBe(schemaText(name));
  },
);

test('what is written is read back the same', () => {
  const bench = benchFor('newt');
  expect(Bench.parse(JSON.parse(JSON.stringify(bench)))).toEqual(bench);
  const { plan } = makeTemperature({ from: 205, to: 200 });
  expect(Plan.parse(JSON.parse(JSON.stringify(plan)))).toEqual(plan);
});

test('every fault of a file is told at once, each at its place', () => {
  const bench = structuredClone(benchFor()) as unknown as Record<string, Record<string, unknown>>;
  bench.nozzle!.diameter = 40;
  bench.filament!.bed = 'warm';
  const parsed = parseWith(Bench, bench);
  expect(parsed.ok).toBe(false);
  if (!parsed.ok)
    expect(parsed.problems.map(({ where }) => where)).toEqual(['nozzle.diameter', 'filament.bed']);
});

test('files name the version of the package', () => {
  expect(JSON.parse(readFileSync('package.json', 'utf8'))).toMatchObject({ version: VERSION });
});
