/** A plan carried in comment lines, so that a file found on a card years later can be opened and read. */

/** How each carried line begins. */
export const PLAN_MARK = ';@plan ';

/** Characters of plan text in one line; some machines take lines of at most 96 characters. */
const PIECE = 80;

/** JSON as comment lines that begin with a mark: plain ASCII, so that no sign in it can end a line. */
export function planLines(plan: object, mark = PLAN_MARK): string[] {
  const json = JSON.stringify(plan).replace(
    /[^\x20-\x7e]/g,
    (sign) => `\\u${sign.charCodeAt(0).toString(16).padStart(4, '0')}`,
  );
  const lines: string[] = [];
  for (let i = 0; i < json.length; i += PIECE) lines.push(mark + json.slice(i, i + PIECE));
  return lines;
}
