/** One line of G-code as a word with its parameters: the plain reading, used for everything but moves. */

/** `M204 P500 T800` → word `M204`, params P → `500`, T → `800`. Words and keys are upper case. */
export type Command = {
  word: string;
  params: ReadonlyMap<string, string>;
  /** What follows the word, as it stands, for commands that take text. */
  rest: string;
};

const LETTER_WORD = /^([A-Z])\s*(\d+(?:\.\d+)?)/;
const NAMED_WORD = /^([A-Z_][A-Z0-9_]+)(?=\s|$)/;
const TAKES_TEXT = new Set(['M117', 'M118', 'M23', 'M28', 'M30', 'M32']);

/** Cuts `;` comments, `(…)` comments, a checksum and a leading line number. */
export function stripLine(line: string): string {
  let text = line.replace(/;.*$/s, '').replace(/\([^)]*\)?/g, ' ');
  text = text.replace(/\*\s*\d+\s*$/, '').trim();
  return text.replace(/^[Nn]\s*\d+\s*/, '');
}

/**
 * Reads one line. @returns null for a blank line or pure comment; a line that fits no form comes back with
 * its first word as it stands, so that it can be counted and reported.
 */
export function parseCommand(line: string): Command | null {
  const text = stripLine(line);
  if (text === '') return null;
  const upper = text.toUpperCase();
  const lettered = LETTER_WORD.exec(upper);
  if (lettered) {
    const word = lettered[1]! + String(Number(lettered[2]));
    const rest = text.slice(lettered[0].length).trim();
    return { word, params: TAKES_TEXT.has(word) ? new Map() : letterParams(rest), rest };
  }
  const named = NAMED_WORD.exec(upper);
  if (named) {
    const rest = text.slice(named[0].length).trim();
    return { word: named[1]!, params: namedParams(rest), rest };
  }
  return { word: upper.split(/\s/)[0]!.slice(0, 40), params: new Map(), rest: '' };
}

/** A parameter as a finite number, or null when it is absent or no number. */
export function param(command: Command, key: string): number | null {
  const text = command.params.get(key);
  if (text === undefined || text === '') return null;
  const value = Number(text);
  return Number.isFinite(value) ? value : null;
}

/** `X1E5` is X 1 and E 5: machines know no exponents. */
function letterParams(rest: string): Map<string, string> {
  const params = new Map<string, string>();
  for (const [, key, quoted, plain] of rest.matchAll(
    /([A-Za-z])\s*(?:"([^"]*)"|([-+]?[\d.:]*))/g,
  )) {
    params.set(key!.toUpperCase(), quoted ?? plain ?? '');
  }
  return params;
}

function namedParams(rest: string): Map<string, string> {
  const params = new Map<string, string>();
  for (const [, key, quoted, plain] of rest.matchAll(
    /([A-Za-z_][A-Za-z0-9_]*)\s*=\s*(?:"([^"]*)"|'[^']*'|(\S+))/g,
  )) {
    params.set(key!.toUpperCase(), quoted ?? plain ?? '');
  }
  return params;
}
