/** What an audit finds. */

/** `stop`: do not send. `warning`: look before you send. `note`: worth knowing. */
export type Remark = {
  grade: 'stop' | 'warning' | 'note';
  code: string;
  /** Line of the file where it is seen first; null when it speaks of the whole. */
  line: number | null;
  /** How often. */
  count: number;
  what: string;
  mend: string;
};
