/**
 * Records of an accelerometer as people have them: separated by commas, tabs or semicolons, columns in any order, with a
 * header or without, time in seconds, milliseconds or microseconds, and in whatever unit the sensor counts.
 */

import Papa from 'papaparse';
import { short } from '../numbers';
import { nearMiddleOf } from './columns';
import { fail, ok, problem, type Problem, type Result } from '../result';

export const UNITS = ['g', 'm/s²', 'mm/s²', 'mg'] as const;
export type Unit = (typeof UNITS)[number];
/** mm/s² of one of each. */
const IN_MM: Record<Unit, number> = { g: 9806.65, 'm/s²': 1000, 'mm/s²': 1, mg: 9.80665 };
export const GRAVITY = IN_MM.g;

/** Samples of the three axes of a sensor, mm/s², as they came. */
export type ShakeRecord = {
  /** Samples a second. */
  rate: number;
  /** What the file counts in; guessed from gravity where nothing says it. */
  unit: Unit;
  x: Float64Array;
  y: Float64Array;
  z: Float64Array;
  /** When each sample was taken, s from the first; null where only a rate is known. */
  times: Float64Array | null;
  /** What was guessed, in words. */
  notes: string[];
};
export type Given = { rate?: number; unit?: Unit };

/** Longest record, s, and the rates that are taken, Hz. */
export const MOST_SECONDS = 600;
export const RATES: [number, number] = [200, 10_000];
/** Rates that a time may mean, Hz; slower and faster ones are refused later, with their number. */
const MEANT: [number, number] = [20, 40_000];
/** So much of a file, characters, tells what parts its columns. */
const LOOKED_AT = 4000;
/** Fewest rows that are a record at all. */
const FEWEST = 16;
/** How many times more, or less, a sensor may tell of gravity for its unit to be guessed; units lie ten times apart. */
const GRAVITY_OFF = 3;

const AXES = ['x', 'y', 'z'] as const;
const TIME_NAMES = /^(t|time|timestamp|elapsed|sec|seconds?|ms|us|µs)\b|time/i;
const INDEX_NAMES = /^(#|n|i|index|sample|count|row|no)\.?$/i;

type Table = { header: string[] | null; columns: Float64Array[] };

/**
 * Reads a record.
 *
 * @param given what somebody says of it; it goes before what is guessed
 * @returns problems with the line, or with what is missing: a time, a unit, an axis
 */
export function readRecord(text: string, given: Given = {}): Result<ShakeRecord> {
  const table = tableOf(text);
  if (!table.ok) return table;
  const { header, columns } = table.value;
  const notes: string[] = [];
  const time = timeOf(header, columns, given.rate !== undefined);
  const axes = axesOf(header, columns, time);
  if (!axes.ok) return axes;
  const paced = paceOf(time === null ? null : columns[time]!, header?.[time ?? -1], given, notes);
  if (!paced.ok) return paced;
  const { rate, times } = paced.value;
  const count = columns[0]!.length;
  if (count / rate > MOST_SECONDS + 1)
    return fail(
      problem(
        'record',
        `It lasts ${Math.round(count / rate)} s; at most ${MOST_SECONDS} s are taken.`,
        'Cut it, or check the sample rate.',
      ),
    );
  const unit = unitOf(header, axes.value, given, notes);
  if (!unit.ok) return unit;
  const [x, y, z] = axes.value.map((column) =>
    Float64Array.from(column, (one) => one * IN_MM[unit.value]),
  ) as [Float64Array, Float64Array, Float64Array];
  return ok({ rate, unit: unit.value, x, y, z, times, notes });
}

/** Rows of a table as they come, kept as columns: a record of ten minutes has millions. */
class Rows {
  header: string[] | null = null;
  columns: Float64Array[] = [];
  count = 0;
  /** What is wrong with the last row that was seen; a record may be cut off in the middle of that. */
  private odd: Problem | null = null;
  private seen = 0;

  /** @returns what is wrong with an earlier row, now that another one follows it */
  take(cells: readonly string[]): Problem | null {
    if (this.odd) return this.odd;
    this.seen++;
    const named = cells.map((cell) => cell.trim());
    if (named[0] === '') named.shift();
    while (named.at(-1) === '') named.pop();
    const numbers = named.map((cell) => (cell === '' ? NaN : Number(cell.replace(',', '.'))));
    if (named.length > 0 && numbers.every(Number.isFinite)) this.row(numbers);
    else this.talk(named);
    return null;
  }

  private row(numbers: readonly number[]): void {
    if (this.count === 0) this.columns = numbers.map(() => new Float64Array(1024));
    if (numbers.length !== this.columns.length) {
      this.odd = problem(
        `row ${this.seen}`,
        `It has ${numbers.length} numbers; rows before it have ${this.columns.length}.`,
        'Keep one sample a row, with the same columns in all.',
      );
      return;
    }
    if (this.count === this.columns[0]!.length)
      this.columns = this.columns.map((column) => {
        const larger = new Float64Array(2 * column.length);
        larger.set(column);
        return larger;
      });
    numbers.forEach((one, i) => (this.columns[i]![this.count] = one));
    this.count++;
  }

  private talk(named: readonly string[]): void {
    if (this.count === 0) {
      // Of several lines of talk before the numbers the last one names the columns.
      const names = named.map((cell) => cell.replace(/^#\s*/, '').trim()).filter(Boolean);
      if (names.length > 1) this.header = names;
      return;
    }
    if (named.length === 0 || named[0]!.startsWith('#')) return;
    this.odd = problem(
      `row ${this.seen}`,
      `“${named.join(', ').slice(0, 60)}” is no row of numbers.`,
      'Take it out, or record again.',
    );
  }
}

function tableOf(text: string): Result<Table> {
  const clean = text.replace(/^\uFEFF/, '');
  const rows = new Rows();
  let wrong: Problem | null = null;
  // Columns that are lined up with spaces have more than one between them.
  const spaced = !/[,;\t]/.test(clean.slice(0, LOOKED_AT));
  Papa.parse<string[]>(spaced ? clean.replace(/ +/g, ' ') : clean, {
    skipEmptyLines: 'greedy',
    delimitersToGuess: spaced ? [' '] : [',', '\t', ';'],
    step({ data }, parser) {
      wrong = rows.take(data);
      if (!wrong && rows.count > MOST_SECONDS * RATES[1] * 1.02)
        wrong = problem(
          'record',
          `It has more than ${MOST_SECONDS * RATES[1]} samples.`,
          `Cut it to ${MOST_SECONDS / 60} minutes.`,
        );
      if (wrong) parser.abort();
    },
  });
  if (wrong) return fail(wrong);
  if (rows.count < FEWEST)
    return fail(
      problem(
        'record',
        `${rows.count} rows of numbers were found; a record has many hundreds.`,
        'Give a file with a row for each sample: time, x, y, z.',
      ),
    );
  const columns = rows.columns.map((column) => column.slice(0, rows.count));
  const { header } = rows;
  return ok({ header: header?.length === columns.length ? header : null, columns });
}

/** Never falls, and rises from end to end. */
const rises = (column: Float64Array): boolean => {
  for (let i = 1; i < column.length; i++) if (column[i]! < column[i - 1]!) return false;
  return column.at(-1)! > column[0]!;
};
/** Counts samples: rises by exactly one. */
const counts = (column: Float64Array): boolean =>
  column.every((one, i) => i === 0 || one === column[i - 1]! + 1);

/** Number of the column of times; null where none is one. */
function timeOf(
  header: string[] | null,
  columns: readonly Float64Array[],
  rateGiven: boolean,
): number | null {
  const named = header?.findIndex((name) => TIME_NAMES.test(name) && !INDEX_NAMES.test(name));
  if (named !== undefined && named >= 0) return named;
  const rising = columns.flatMap((column, i) =>
    rises(column) && !INDEX_NAMES.test(header?.[i] ?? '') ? [i] : [],
  );
  const real = rising.filter((i) => !counts(columns[i]!));
  if (real.length > 0) return real[0]!;
  // What counts by one may be milliseconds, unless a rate is told: then it counts samples.
  return rateGiven || columns.length < 4 ? null : (rising[0] ?? null);
}

function axesOf(
  header: string[] | null,
  columns: readonly Float64Array[],
  time: number | null,
): Result<Float64Array[]> {
  const others = columns.map((_, i) => i).filter((i) => i !== time);
  const named = AXES.map((axis) =>
    others.find((i) =>
      new RegExp(`(^|[^a-z])a?(cc?(el(eration)?)?)?[ _-]?${axis}([^a-z]|$)`, 'i').test(
        header?.[i] ?? '',
      ),
    ),
  );
  if (named.every((one) => one !== undefined)) return ok(named.map((i) => columns[i]!));
  const plain = others.filter(
    (i) => !INDEX_NAMES.test(header?.[i] ?? '') && !(others.length > 3 && counts(columns[i]!)),
  );
  if (plain.length === 3) return ok(plain.map((i) => columns[i]!));
  return fail(
    problem(
      'record',
      `${plain.length} columns of samples were found${header ? ` (${header.join(', ')})` : ''}; a record has three: x, y and z.`,
      'Keep time, x, y and z, and name them in a first row.',
    ),
  );
}

/** How fast samples came, and when. */
function paceOf(
  column: Float64Array | null,
  name: string | undefined,
  given: Given,
  notes: string[],
): Result<{ rate: number; times: Float64Array | null }> {
  if (column === null)
    return given.rate !== undefined
      ? ok({ rate: given.rate, times: null })
      : fail(
          problem(
            'rate',
            'No column of the record is a time.',
            'Say how many samples the sensor takes a second.',
          ),
        );
  const mean = (column.at(-1)! - column[0]!) / (column.length - 1);
  if (!(mean > 0))
    return fail(
      problem(
        'time',
        'The times of the record do not rise.',
        'Record again, or leave the times out and say the sample rate.',
      ),
    );
  const said = /(^|[^a-z])(µs|us|micro)/i.test(name ?? '')
    ? 1e6
    : /(^|[^a-z])(ms|milli)/i.test(name ?? '')
      ? 1e3
      : /(^|[^a-z])(s|sec|seconds?)($|[^a-z])/i.test(name ?? '')
        ? 1
        : null;
  const scales = said === null ? [1, 1e3, 1e6, 1e9] : [said];
  const scale = scales.find((one) => one / mean >= MEANT[0] && one / mean <= MEANT[1]);
  if (scale === undefined && said === null)
    return fail(
      problem(
        'time',
        `From sample to sample the time rises by ${short(mean, 6)}: neither seconds nor milliseconds make sense of that.`,
        'Name the column “time (s)” or “time (ms)”, or say the sample rate.',
      ),
    );
  const unit = scale ?? said!;
  if (said === null)
    notes.push(
      `Times are taken as ${{ 1: 'seconds', 1e3: 'milliseconds', 1e6: 'microseconds', 1e9: 'nanoseconds' }[unit]}.`,
    );
  const times = Float64Array.from(column, (one) => (one - column[0]!) / unit);
  return ok({ rate: given.rate ?? (column.length - 1) / times.at(-1)!, times });
}

/** The unit, from what is said, the header, or gravity: a sensor at rest feels 1 g, and shaking to and fro adds nothing. */
function unitOf(
  header: string[] | null,
  axes: readonly Float64Array[],
  given: Given,
  notes: string[],
): Result<Unit> {
  if (given.unit) return ok(given.unit);
  const names = header?.join(' ') ?? '';
  const named = /mm\s*\/\s*s/i.test(names)
    ? 'mm/s²'
    : /m\s*\/\s*s/i.test(names)
      ? 'm/s²'
      : /[([ _]mg[)\] ]?/i.test(names)
        ? 'mg'
        : /[([ _]g[)\]]?(\s|$)/i.test(names)
          ? 'g'
          : null;
  if (named) return ok(named);
  const weight = Math.hypot(...axes.map(nearMiddleOf));
  // One that is far from what it should feel is told by what is wrong with it, as long as only one unit can be meant.
  const off = (unit: Unit) => Math.abs(Math.log((weight * IN_MM[unit]) / GRAVITY));
  const nearest = UNITS.reduce((best, unit) => (off(unit) < off(best) ? unit : best));
  if (off(nearest) < Math.log(GRAVITY_OFF)) {
    const guess = nearest;
    notes.push(`Samples are taken as ${guess}: at rest the sensor tells ${short(weight)}.`);
    return ok(guess);
  }
  // Nothing at all is a sensor without power, which is told as that.
  if (axes.every((axis) => axis.every((one) => one === axis[0]))) return ok('g');
  return fail(
    problem(
      'unit',
      `At rest the sensor tells ${short(weight)}; with gravity it would tell 1 g, 9.81 m/s² or 9807 mm/s².`,
      'Say the unit. If the sensor takes gravity out by itself, switch that off: gravity tells how it is mounted.',
    ),
  );
}
