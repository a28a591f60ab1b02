import fc from 'fast-check';
import {
  Dialect,
  DIALECTS,
  NEED_NAMES,
  NEEDS,
  settingLine,
  settingReader,
  type Column,
} from './dialect';
import { parseCommand } from './command';
import { readReport, reportLines, sightings, type ReportValues } from './report';
import { choicesIn, fillTemplate, variablesOf } from './template';

const columns = Object.keys(DIALECTS) as Column[];
const value = fc.integer({ min: 1, max: 400_000 }).map((n) => n / 1000);

/** A value that a row can say: of a choice, one that it has a word for. */
function anyOf(template: string, variable: string, number: number): number {
  const choices = choicesIn(template, variable);
  return choices ? choices[Math.floor(1000 * number) % choices.length]! : number;
}

test.each(columns)(
  'every line of column %s reads back as the values it was written from',
  (column) => {
    const dialect = DIALECTS[column];
    const read = settingReader(dialect);
    fc.assert(
      fc.property(fc.array(value, { minLength: 4, maxLength: 4 }), (numbers) => {
        for (const need of NEED_NAMES) {
          const wanted = variablesOf(dialect[need]);
          const values = Object.fromEntries(
            wanted.map((name, i) => [name, anyOf(dialect[need], name, numbers[i % 4]!)]),
          );
          const line = settingLine(dialect, need, values);
          if (line === null) {
            expect(wanted).toEqual([]);
            continue;
          }
          const seen = read(parseCommand(line)!).find((one) => one.need === need)!.values;
          for (const name of wanted) expect(seen[name]).toBeCloseTo(values[name]!, 4);
        }
      }),
      { seed: 41, numRuns: 60 },
    );
  },
);

test.each(columns)('a settings report of column %s gives back its values', (column) => {
  const dialect: Dialect = DIALECTS[column];
  fc.assert(
    fc.property(value, (number) => {
      const values: ReportValues = {};
      for (const need of NEED_NAMES) {
        const template = dialect.file[need] || dialect[need];
        if (template)
          values[need] = Object.fromEntries(
            variablesOf(template).map((name) => [name, anyOf(template, name, number)]),
          );
      }
      const report = reportLines(dialect, values).map((line) => `echo:  ${line}`);
      const read = readReport(dialect, ['echo:; settings', ...report].join('\r\n'));
      for (const need of NEED_NAMES)
        for (const [name, wanted] of Object.entries(values[need] ?? {}))
          expect(read[need]?.[name]).toBeCloseTo(wanted, 4);
    }),
    { seed: 42, numRuns: 60 },
  );
});

test('a report says on which line a value was seen, and the last one wins', () => {
  const report = 'M900 K0.1\nM92 X80 Y80 E93\nM900 K0.2';
  expect(sightings(DIALECTS.A, report).map(({ need, line }) => [need, line])).toEqual([
    ['advance', 1],
    ['steps', 2],
    ['advance', 3],
  ]);
  expect(readReport(DIALECTS.A, report)).toEqual({
    advance: { advance: 0.2 },
    steps: { steps: 93 },
  });
});

test('jerk in mm/min is mm/s inside', () => {
  expect(settingLine(DIALECTS.C, 'cornering', { x: 8, y: 10 })).toBe('M566 X480 Y600');
});

test('a value that is missing writes no line', () => {
  expect(fillTemplate('M900 K{advance}', {})).toBeNull();
  expect(fillTemplate('M900 K{advance}', { advance: Infinity })).toBeNull();
});

test.each([
  ['M900 K{nonsense}', 'unknown placeholder'],
  ['M900 K{advance}\nM104 S300', 'two lines'],
])('a template with %j is refused (%s)', (line) => {
  expect(Dialect.safeParse({ ...DIALECTS.A, advance: line }).success).toBe(false);
});

test('a template of the user’s is read back like any other', () => {
  const own: Dialect = { ...DIALECTS.A, advance: 'LIN_K VALUE={advance} AXIS=E' };
  const line = settingLine(own, 'advance', { advance: 0.125 })!;
  expect(settingReader(own)(parseCommand(line)!)).toEqual([
    { need: 'advance', values: { advance: 0.125 } },
  ]);
  expect(NEEDS.advance.variables).toEqual(['advance']);
});

test('a choice stands as the word of its machine, and what it has no word for is not written', () => {
  const row = 'M593 P"{type:|zvd|mzv||ei2|ei3}" F{frequency}';
  expect(choicesIn(row, 'type')).toEqual([1, 2, 4, 5]);
  expect(choicesIn(row, 'frequency')).toBeNull();
  expect(fillTemplate(row, { type: 1, frequency: 40 })).toBe('M593 P"zvd" F40');
  expect(fillTemplate(row, { type: 0, frequency: 40 })).toBeNull();
  expect(fillTemplate(row, { type: 9, frequency: 40 })).toBeNull();
  const dialect: Dialect = { ...DIALECTS.C, shaper: row };
  const read = (line: string) => settingReader(dialect)(parseCommand(line)!);
  expect(read('M593 P"EI2" F38')).toEqual([{ need: 'shaper', values: { type: 4, frequency: 38 } }]);
  // A word that it has not heard of says nothing of the kind.
  expect(read('M593 P"none" F38')).toEqual([{ need: 'shaper', values: { frequency: 38 } }]);
});

test('a row of a settings file may be several lines, each read by itself', () => {
  const values = { type_x: 3, frequency_x: 46, damping_x: 0.06 };
  const lines = reportLines(DIALECTS.D, { shaperX: values });
  expect(lines).toEqual(['shaper_type_x: ei', 'shaper_freq_x: 46', 'damping_ratio_x: 0.06']);
  expect(readReport(DIALECTS.D, lines.join('\n')).shaperX).toEqual(values);
});

test('machines that were described before shapers had axes have no rows for them', () => {
  const { shaperX: _x, shaperY: _y, ...older } = DIALECTS.A;
  expect(Dialect.parse(older)).toMatchObject({ shaperX: '', shaperY: '' });
});
