/** Rows of a table that was found, as people paste them elsewhere: which columns, in which order, between what. */

import { z } from 'zod';
import { tidy } from '../numbers';

/** Every column that a table may have: its head, its unit, and the decimals that are written. */
export const COLUMNS = {
  advance: { title: 'Pressure advance', unit: 's', decimals: 3 },
  flow: { title: 'Melt flow', unit: 'mm³/s', decimals: 1 },
  acceleration: { title: 'Acceleration', unit: 'mm/s²', decimals: 0 },
  speed: { title: 'Speed', unit: 'mm/s', decimals: 0 },
  lean: { title: 'Lean', unit: '°', decimals: 0 },
  fan: { title: 'Fan', unit: '%', decimals: 0 },
  shaper: { title: 'Shaper', unit: 'Hz', decimals: 1 },
} as const;
export type Column = keyof typeof COLUMNS;
export const COLUMN_NAMES = Object.keys(COLUMNS) as [Column, ...Column[]];

/** Most rows of a kept table: eight speeds at six accelerations of a map. */
const MOST_ROWS = 48;

/** Numbers by their column; all rows of a table have the same ones. */
export const Row = z.partialRecord(z.enum(COLUMN_NAMES), z.number());
export type Row = z.infer<typeof Row>;
export const Rows = z.array(Row).max(MOST_ROWS);

/** What may stand between two numbers, by what it is called. */
export const SEPARATORS = {
  'comma and space': ', ',
  comma: ',',
  semicolon: ';',
  space: ' ',
  tab: '\t',
} as const;
export type Separator = keyof typeof SEPARATORS;
const SEPARATOR_NAMES = Object.keys(SEPARATORS) as [Separator, ...Separator[]];

/** How rows are written where they are pasted; chosen once. */
export const RowStyle = z
  .object({
    columns: z.array(z.enum(COLUMN_NAMES)).min(1).max(COLUMN_NAMES.length),
    separator: z.enum(SEPARATOR_NAMES),
  })
  .refine(({ columns }) => new Set(columns).size === columns.length);
export type RowStyle = z.infer<typeof RowStyle>;

export const USUAL_STYLE: RowStyle = {
  columns: ['advance', 'flow', 'acceleration'],
  separator: 'comma and space',
};

const numberOf = (row: Row, column: Column): string =>
  String(tidy(Number((row[column] ?? 0).toFixed(COLUMNS[column].decimals))));

/** Columns that a table has, in the order in which they were found. */
export const columnsOf = ([first = {}]: readonly Row[]): Column[] => Object.keys(first) as Column[];

/** Columns that are written: those that were chosen and are there, or all where none of them is. */
export function writtenColumns(rows: readonly Row[], { columns }: RowStyle): Column[] {
  const there = columnsOf(rows);
  const chosen = columns.filter((column) => there.includes(column));
  return chosen.length > 0 ? chosen : there;
}

/** One line a row, no heads: what is pasted. */
export function rowsText(rows: readonly Row[], style: RowStyle): string {
  const columns = writtenColumns(rows, style);
  const between = SEPARATORS[style.separator];
  return rows.map((row) => columns.map((column) => numberOf(row, column)).join(between)).join('\n');
}

/** All columns with their heads, as spreadsheets read them (RFC 4180). */
export function rowsCsv(rows: readonly Row[]): string {
  const columns = columnsOf(rows);
  return [
    columns.map((column) => `${COLUMNS[column].title} (${COLUMNS[column].unit})`).join(','),
    ...rows.map((row) => columns.map((column) => numberOf(row, column)).join(',')),
    '',
  ].join('\r\n');
}
