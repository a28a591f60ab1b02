/** Text of the user's on its way into files. */

/** Longest name that is written into a file; the rest is cut. */
export const LONGEST_NAME = 60;

/**
 * One printable ASCII line: accents are dropped, everything else that is not plain becomes `_`.
 *
 * Line ends, control characters, and the marks that begin a comment, a checksum or a placeholder are not
 * plain, so no name can add a command to a file.
 */
export function plainLine(text: string, longest = LONGEST_NAME): string {
  return text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[·–—]/g, '-')
    .replace(/[^A-Za-z0-9 .,+\-_/#%=:]/g, '_')
    .replace(/ {2,}/g, ' ')
    .trim()
    .slice(0, longest);
}

/** Signs that turn the direction of text or do nothing that is seen; a name with one would turn what follows it. */
const UNSEEN = /[\u0000-\u001f\u007f-\u009f\u00ad\u200b-\u200f\u202a-\u202e\u2060-\u206f\ufeff]/g;

/** A name without signs that are not seen. */
export const plainName = (name: string): string => name.replace(UNSEEN, '').trim();

/** A piece of a file name: lower case, words joined by `-`. */
export function slug(text: string): string {
  return plainLine(text)
    .toLowerCase()
    .replace(/[^a-z0-9.]+/g, '-')
    .replace(/^[-.]+|[-.]+$/g, '');
}

/** With its first letter large. */
export const capital = (text: string): string => text.slice(0, 1).toUpperCase() + text.slice(1);

/** Several names as people say them: `a`, `a and b`, `a, b and c`; empty for none. */
export const listed = (names: readonly string[]): string =>
  names.length < 2
    ? (names[0] ?? '')
    : `${names.slice(0, -1).join(', ')} and ${names[names.length - 1]!}`;
