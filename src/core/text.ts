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

/** A piece of a file name: lower case, words joined by `-`. */
export function slug(text: string): string {
  return plainLine(text)
    .toLowerCase()
    .replace(/[^a-z0-9.]+/g, '-')
    .replace(/^[-.]+|[-.]+$/g, '');
}
