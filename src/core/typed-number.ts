/** Numbers as people type them: the one place that reads them. */

export type Typed = { ok: true; value: number } | { ok: false; why: string };

const PLAIN = /^[+-]?\d+(?:[.,]\d+)?$/;
/** Thousands in groups of three, with a decimal part after the other sign. */
const GROUPED = /^[+-]?\d{1,3}(?:,\d{3})+\.\d+$|^[+-]?\d{1,3}(?:\.\d{3})+,\d+$/;
/** Thousands in groups of three, with spaces between them. */
const SPACED = /^[+-]?\d{1,3}(?: \d{3})+(?:[.,]\d+)?$/;
/** A comma before three digits: a decimal comma, or a thousand. A leading zero says which. */
const EITHER = /^[+-]?[1-9]\d{0,2},\d{3}$/;
/** More digits than any length, speed or temperature has. */
const MOST_CHARACTERS = 20;

/**
 * Reads a number as it was typed: point or comma for decimals, spaces or the other sign for thousands. What could be
 * two numbers is refused, never guessed.
 */
export function readTyped(text: string): Typed {
  const typed = text
    .trim()
    .replace(/[\u00a0\u2009\u202f]/g, ' ')
    .replace(/^\u2212/, '-');
  if (typed === '') return { ok: false, why: 'Nothing is entered; a number is needed.' };
  if (typed.length > MOST_CHARACTERS) return { ok: false, why: 'That is too long for a number.' };
  if (EITHER.test(typed)) {
    const [whole, rest] = typed.split(',') as [string, string];
    return {
      ok: false,
      why: `${typed} could be ${whole}.${rest} or ${whole}${rest}: write one of them.`,
    };
  }
  if (PLAIN.test(typed)) return { ok: true, value: Number(typed.replace(',', '.')) };
  if (GROUPED.test(typed) || SPACED.test(typed)) {
    const last = Math.max(typed.lastIndexOf('.'), typed.lastIndexOf(','));
    const [whole, rest] = last === -1 ? [typed, ''] : [typed.slice(0, last), typed.slice(last + 1)];
    return {
      ok: true,
      value: Number(`${whole.replace(/[.,\s]/g, '')}${rest === '' ? '' : `.${rest}`}`),
    };
  }
  if (/^[+-]?[\d.,]+e[+-]?\d+$/i.test(typed))
    return { ok: false, why: `${typed}: write the number out.` };
  return { ok: false, why: `“${typed.slice(0, MOST_CHARACTERS)}” is not a number.` };
}
