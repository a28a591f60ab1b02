/** From what somebody types to a wish: a range over sections, a table, a slope. */

import type { Bench } from '../bench/bench';
import { settingInfo, type Setting } from '../bench/settings';
import { climb } from '../ladders/climb';
import { short, snap, STEP_SLACK, tidy } from '../numbers';
import { MOST_STEPS } from '../plan/limits';
import { fail, ok, problem, type Result } from '../result';
import { CLIMBS, type Climbs, type Row, type Wish } from './recipe';
import type { Candidate } from './sections';

/** Other words for what can climb. */
const WORDS: Record<string, Climbs> = {
  temperature: 'nozzle',
  speed: 'pace',
  'print-speed': 'pace',
  'retraction-distance': 'retraction',
  'retraction-speed': 'retractSpeed',
  'retract-speed': 'retractSpeed',
  'extra-restart': 'restartExtra',
  'restart-extra': 'restartExtra',
  'restart-speed': 'restartSpeed',
  'pressure-advance': 'advance',
  'junction-deviation': 'deviation',
  'square-corner': 'square',
};

/** The setting of a word; `cornering` is what the machine of a bench has. */
export function climbOf(word: string, bench: Bench): Result<Climbs> {
  const plain = word.trim();
  const known = CLIMBS.find((one) => one.toLowerCase() === plain.toLowerCase());
  const found = known ?? WORDS[plain.toLowerCase().replace(/[ _]+/g, '-')];
  if (found) return ok(found);
  if (plain.toLowerCase() === 'cornering')
    return ok(
      ({ jerk: 'jerk', 'junction-deviation': 'deviation', 'square-corner': 'square' } as const)[
        bench.machine.limits.cornering.model
      ],
    );
  const names = [...CLIMBS.filter((one) => one !== 'pace'), 'speed', 'cornering'];
  return fail(
    problem(
      'setting',
      `"${plain}" cannot climb in a sliced file.`,
      `Choose one of: ${names.join(', ')}.`,
    ),
  );
}

/** Heights at which the sections of a candidate begin, mm. */
export const heightsOf = ({
  base,
  section,
  count,
}: Pick<Candidate, 'base' | 'section' | 'count'>) =>
  Array.from({ length: count }, (_, i) => tidy(base + i * section));

/** Values from `from` to `to`, one a section; as many as there are of the fewer. */
export function rowsOf(
  setting: Setting,
  range: { from: number; to: number; step: number },
  heights: readonly number[],
): Result<{ rows: Row[]; note: string | null }> {
  const { unit } = settingInfo(setting);
  if (!(range.step > 0))
    return fail(
      problem('step', `A step of ${short(range.step)} does not climb.`, 'Give a step above 0.'),
    );
  if (Math.abs(range.to - range.from) / range.step > 2 * MOST_STEPS)
    return fail(
      problem(
        'step',
        `From ${short(range.from)} to ${short(range.to)} by ${short(range.step)} would be over ${MOST_STEPS} values.`,
        'Choose a larger step.',
      ),
    );
  const values = climb(range);
  if (values.length < heights.length)
    return fail(
      problem(
        'values',
        `${values.length} values (${short(values[0]!)} to ${short(values.at(-1)!)} ${unit}) for ${heights.length} sections.`,
        `Choose a smaller step, a wider range, or fewer sections: ${short(Math.abs(range.to - range.from) / Math.max(1, heights.length - 1), 4)} would fit.`,
      ),
    );
  const rows = heights.map((from, i) => ({ from, set: { [setting]: values[i]! } }));
  const left = values.length - heights.length;
  return ok({
    rows,
    note:
      left > 0
        ? `There are ${heights.length} sections for ${values.length} values: the last ${left === 1 ? 'one is' : `${left} are`} left out.`
        : null,
  });
}

/** Values from one end to the other, as even as the machine takes them; a tenth of its step is as fine as it is shown. */
export function evenValues(setting: Setting, from: number, to: number, count: number): number[] {
  const fine = settingInfo(setting).resolution / 10;
  return Array.from({ length: count }, (_, i) =>
    snap(from + ((to - from) * i) / Math.max(1, count - 1), fine),
  );
}

/**
 * The same wish over another range, for the next ladder. Its sections stay and span the whole range; where the range
 * has fewer steps than there are sections, those at the top are left out. What is no range changes nothing.
 */
export function overRange(wish: Wish, range: { from: number; to: number; step: number }): Wish {
  const [setting] = Object.keys(wish.rows[0]!.set) as Setting[];
  const { from, to, step } = range;
  const steps = Math.abs(to - from) / step;
  if (!setting || !(step > 0) || !Number.isFinite(steps)) return wish;
  const rows = wish.rows.slice(0, Math.floor(steps + STEP_SLACK) + 1);
  const values = evenValues(setting, from, to, rows.length);
  return {
    ...wish,
    rows: rows.map((row, i) => ({ ...row, set: { ...row.set, [setting]: values[i]! } })),
  };
}

/** Columns of a table may be parted by any of these. */
const COLUMNS = /[,;\t]/;

/**
 * A table: the first column is the height from which a row holds, the others are settings, named in the first line.
 *
 *     height,nozzle,fan
 *     1.4,220,0.3
 *     11.4,215,0.5
 */
export function tableOf(text: string, bench: Bench): Result<Row[]> {
  const lines = text
    .split(/\r\n|\n|\r/)
    .map((line) => line.trim())
    .filter((line) => line !== '' && !line.startsWith('#'));
  const [head, ...body] = lines.map((line) => line.split(COLUMNS).map((cell) => cell.trim()));
  if (!head || body.length === 0)
    return fail(
      problem(
        'table',
        'The table has no rows.',
        'Write a first line such as "height,nozzle,fan", and a line for each section under it.',
      ),
    );
  const settings: Climbs[] = [];
  for (const name of head.slice(1)) {
    const setting = climbOf(name, bench);
    if (!setting.ok) return setting;
    settings.push(setting.value);
  }
  if (settings.length === 0)
    return fail(
      problem('table', 'The table has no setting.', 'Name one in its first line, after "height".'),
    );
  if (new Set(settings).size < settings.length)
    return fail(problem('table', 'A setting has two columns.', 'Keep one of them.'));
  if (body.length > MOST_STEPS)
    return fail(
      problem(
        'table',
        `The table has ${body.length} rows; up to ${MOST_STEPS} can be made.`,
        'Leave some out.',
      ),
    );
  const rows: Row[] = [];
  for (const [i, cells] of body.entries()) {
    const numbers = cells.map((cell) =>
      /^[-+]?(\d+\.?\d*|\.\d+)$/.test(cell) ? Number(cell) : NaN,
    );
    const off = cells.findIndex(
      (cell, k) => k < head.length && cell !== '' && Number.isNaN(numbers[k]),
    );
    if (off !== -1 || cells.length > head.length || Number.isNaN(numbers[0]))
      return fail(
        problem(
          `table, row ${i + 2}`,
          off === -1
            ? `This row has ${cells.length} cells for ${head.length} columns, or no height.`
            : `"${cells[off]!.slice(0, 20)}" is not a number.`,
          'Write plain numbers with a decimal point; an empty cell keeps what was before.',
        ),
      );
    const before = rows.at(-1)?.set ?? {};
    const set = Object.fromEntries(
      settings.flatMap((setting, k) => {
        const value = numbers[k + 1];
        const kept = value === undefined || Number.isNaN(value) ? before[setting] : value;
        return kept === undefined ? [] : [[setting, kept]];
      }),
    );
    rows.push({ from: numbers[0]!, set });
  }
  const falling = rows.findIndex(({ from }, i) => i > 0 && from <= rows[i - 1]!.from);
  return falling === -1
    ? ok(rows)
    : fail(
        problem(
          `table, row ${falling + 2}`,
          `${short(rows[falling]!.from)} mm does not stand above the row before.`,
          'Give the heights from below.',
        ),
      );
}

/** The same as text again. */
export function tableText(rows: readonly Row[]): string {
  const settings = CLIMBS.filter((one) => rows.some(({ set }) => set[one] !== undefined));
  return [
    ['height', ...settings].join(','),
    ...rows.map(({ from, set }) =>
      [
        short(from),
        ...settings.map((one) => (set[one] === undefined ? '' : short(set[one], 5))),
      ].join(','),
    ),
    '',
  ].join('\n');
}
