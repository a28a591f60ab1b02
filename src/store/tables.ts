/** What an export holds, table by table. */

import type { Db } from './open';

/** All tables, those that others point to first; photos before prints, whose count of changes is not to run on. */
export const TABLES = [
  'machine',
  'filament',
  'bench',
  'ladder',
  'bytes',
  'file',
  'file_text',
  'photo',
  'print',
  'print_picture',
  'look',
  'reading',
  'score_act',
  'measured',
  'ledger',
  'kept',
  'graft',
  'job',
  'heat',
  'shake_file',
  'shake',
  'nudge',
  'put',
  'place',
] as const;
export type Table = (typeof TABLES)[number];

export const columnsOf = (db: Db, table: Table): string[] =>
  (db.pragma(`table_info(${table})`) as { name: string }[]).map(({ name }) => name);
