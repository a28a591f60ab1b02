/**
 * Lines with placeholders, `M900 K{advance}`: filled on the way out, and read back by the same text. A choice names the
 * words that a machine takes for it, in order, `{type:zv|zvd||ei}`: value 0 is the first; nothing between two bars is
 * what it does not take.
 */

import { problem, type Problem } from '../result';
import { short } from '../numbers';
import { parseCommand, type Command } from './command';

/** Values by variable name. */
export type Values = Record<string, number>;

/** `{x_mm_min}` is variable `x`, written in mm/min. */
const UNITS: Record<string, number> = { _mm_min: 60 };
const PLACEHOLDER = /\{([a-z][a-z0-9_]*(?::[\w|-]+)?)\}/g;
const PRINTABLE_LINE = /^[\x20-\x7e]*$/;

/** Longest template, characters. */
export const LONGEST_TEMPLATE = 300;

/** `words` are those of a choice, in the order of its values. */
type Slot = { variable: string; factor: number; words: readonly string[] | null };

function slot(placeholder: string): Slot {
  const [name, words] = placeholder.split(':') as [string, string | undefined];
  if (words !== undefined) return { variable: name, factor: 1, words: words.split('|') };
  for (const [suffix, factor] of Object.entries(UNITS)) {
    if (placeholder.endsWith(suffix))
      return { variable: placeholder.slice(0, -suffix.length), factor, words: null };
  }
  return { variable: placeholder, factor: 1, words: null };
}

const slotsOf = (template: string): Slot[] =>
  [...template.matchAll(PLACEHOLDER)].map(([, name]) => slot(name!));

/** What stands for a value in a line; null where the machine has no word for it. */
function written({ factor, words }: Slot, value: number | undefined): string | null {
  if (value === undefined || !Number.isFinite(value)) return null;
  return words ? words[value] || null : short(value * factor, 5);
}

/** The value that a text of a line stands for; null where it is none. Of a word that stands twice, the last. */
function readSlot({ factor, words }: Slot, text: string): number | null {
  if (words) {
    const at = words.map((word) => word.toUpperCase()).lastIndexOf(text.toUpperCase());
    return text !== '' && at >= 0 ? at : null;
  }
  const value = text === '' ? NaN : Number(text);
  return Number.isFinite(value) ? value / factor : null;
}

/** Values of a choice that a template has a word for, in order; null where it asks for no such choice. */
export function choicesIn(template: string, variable: string): number[] | null {
  const words = slotsOf(template).find((one) => one.variable === variable)?.words;
  return words ? words.flatMap((word, value) => (word === '' ? [] : [value])) : null;
}

/** Variables that a template asks for, in order, each once. */
export function variablesOf(template: string): string[] {
  return [...new Set(slotsOf(template).map(({ variable }) => variable))];
}

/**
 * Fills a template. Numbers get at most 5 decimals.
 *
 * @returns null when a variable has no finite value, or no word: such a line must not be written at all
 */
export function fillTemplate(template: string, values: Values): string | null {
  const texts = slotsOf(template).map((one) => written(one, values[one.variable]));
  if (texts.includes(null)) return null;
  let next = 0;
  return template.replace(PLACEHOLDER, () => texts[next++]!);
}

/** Lines of a settings file that a row of it stands for: entries are separated by commas. */
export const entriesOf = (row: string): string[] => (row === '' ? [] : row.split(/,\s*/));

/** The one that has a variable, of several; a row of one is that. */
export const entryOf = (row: string, variable: string): string =>
  entriesOf(row).find((entry) => variablesOf(entry).includes(variable)) ?? row;

const ENTRY = /^([a-z_][a-z0-9_]*): \{([^}]+)\}$/;

/** What an entry of a settings file says of a row's variables; null where it says nothing of them. */
export function matchEntry(row: string, key: string, text: string): Values | null {
  for (const entry of entriesOf(row)) {
    const [, name, placeholder] = ENTRY.exec(entry) ?? [];
    if (name !== key) continue;
    const one = slot(placeholder!);
    const value = readSlot(one, text);
    if (value !== null) return { [one.variable]: value };
  }
  return null;
}

/** A template made ready to be looked for in commands. */
export type Matcher = {
  word: string;
  fixed: [key: string, text: string][];
  slots: [key: string, slot: Slot][];
};

/** @returns null for a template that holds no command with a placeholder in a parameter */
export function matcherOf(template: string): Matcher | null {
  // A word may stand between quotes of its own.
  const command = parseCommand(
    template.replace(
      new RegExp(`"?${PLACEHOLDER.source}"?`, 'g'),
      (_, name: string) => `"slot:${name}"`,
    ),
  );
  if (!command) return null;
  const matcher: Matcher = { word: command.word, fixed: [], slots: [] };
  for (const [key, text] of command.params) {
    if (text.startsWith('slot:')) matcher.slots.push([key, slot(text.slice(5))]);
    else matcher.fixed.push([key, text]);
  }
  return matcher.slots.length > 0 ? matcher : null;
}

/**
 * Reads the values that a command sets, the inverse of {@link fillTemplate}. A command that gives only some of
 * the parameters gives only those values; extra parameters do no harm, since settings reports carry them.
 *
 * @returns null when the command is another one
 */
export function matchCommand(matcher: Matcher, command: Command): Values | null {
  if (command.word !== matcher.word) return null;
  // A fixed parameter that is left out stands at the machine's own default: `M572 S0.04` without its D.
  const agrees = matcher.fixed.every(
    ([key, text]) => !command.params.has(key) || sameText(command.params.get(key)!, text),
  );
  if (!agrees) return null;
  const values: Values = {};
  for (const [key, one] of matcher.slots) {
    const value = readSlot(one, command.params.get(key) ?? '');
    if (value !== null) values[one.variable] = value;
  }
  return Object.keys(values).length > 0 ? values : null;
}

const sameText = (came: string, wanted: string): boolean =>
  came.toUpperCase() === wanted.toUpperCase() ||
  // A list of tools, `D0:1`, names each of them.
  (came.includes(':') && came.split(':').includes(wanted)) ||
  (wanted !== '' && came !== '' && Number(came) === Number(wanted));

/** What is wrong with a template of the user's; `known` are the variables that can be filled in. */
export function templateProblems(
  where: string,
  template: string,
  known: readonly string[],
): Problem[] {
  if (template === '') return [];
  if (template.length > LONGEST_TEMPLATE || !PRINTABLE_LINE.test(template)) {
    return [
      problem(
        where,
        `One printable line of at most ${LONGEST_TEMPLATE} characters was expected.`,
        'Keep it to a single line of plain letters, digits and signs.',
      ),
    ];
  }
  const strange = variablesOf(template).filter((name) => !known.includes(name));
  const offered = known.map((name) => `{${name}}`).join(', ') || 'none';
  return strange.map((name) =>
    problem(where, `{${name}} is not known here.`, `Placeholders that can be used: ${offered}.`),
  );
}
