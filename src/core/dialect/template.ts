/** Lines with placeholders, `M900 K{advance}`: filled on the way out, and read back by the same text. */

import { problem, type Problem } from '../result';
import { short } from '../numbers';
import { parseCommand, type Command } from './command';

/** Values by variable name. */
export type Values = Record<string, number>;

/** `{x_mm_min}` is variable `x`, written in mm/min. */
const UNITS: Record<string, number> = { _mm_min: 60 };
const PLACEHOLDER = /\{([a-z][a-z0-9_]*)\}/g;
const PRINTABLE_LINE = /^[\x20-\x7e]*$/;

/** Longest template, characters. */
export const LONGEST_TEMPLATE = 200;

type Slot = { variable: string; factor: number };

function slot(placeholder: string): Slot {
  for (const [suffix, factor] of Object.entries(UNITS)) {
    if (placeholder.endsWith(suffix))
      return { variable: placeholder.slice(0, -suffix.length), factor };
  }
  return { variable: placeholder, factor: 1 };
}

/** Variables that a template asks for, in order, each once. */
export function variablesOf(template: string): string[] {
  return [...new Set([...template.matchAll(PLACEHOLDER)].map(([, name]) => slot(name!).variable))];
}

/**
 * Fills a template. Numbers get at most 5 decimals.
 *
 * @returns null when a variable has no finite value: such a line must not be written at all
 */
export function fillTemplate(template: string, values: Values): string | null {
  if (!variablesOf(template).every((name) => Number.isFinite(values[name]))) return null;
  return template.replace(PLACEHOLDER, (_, name: string) => {
    const { variable, factor } = slot(name);
    return short(values[variable]! * factor, 5);
  });
}

/** A template made ready to be looked for in commands. */
export type Matcher = {
  word: string;
  fixed: [key: string, text: string][];
  slots: [key: string, slot: Slot][];
};

/** @returns null for a template that holds no command with a placeholder in a parameter */
export function matcherOf(template: string): Matcher | null {
  const command = parseCommand(
    template.replace(PLACEHOLDER, (_, name: string) => `"slot:${name}"`),
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
  for (const [key, { variable, factor }] of matcher.slots) {
    const text = command.params.get(key);
    if (text === undefined || text === '') continue;
    const value = Number(text);
    if (Number.isFinite(value)) values[variable] = value / factor;
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
