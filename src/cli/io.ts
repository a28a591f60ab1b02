/** Files, streams and exit codes of the command line. */

import { mkdirSync, readFileSync, renameSync, statSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { Bench } from '../core/bench/bench';
import {
  fail,
  ok,
  parseWith,
  problem,
  problemLine,
  type Problem,
  type Result,
} from '../core/result';

export const FINDINGS = 1;
export const WRONG_USE = 2;
/** It was given up, and the machine may be hot. */
export const MAY_BE_HOT = 3;

/** Largest file that is read, bytes. */
export const LARGEST_FILE = 512 * 1024 * 1024;

/** Ends the command with a code, after everything has been said. */
export class Exit extends Error {
  constructor(readonly code: number) {
    super(`exit ${code}`);
  }
}

export const say = (text: string): void => void process.stderr.write(`${text}\n`);
export const print = (text: string): void => void process.stdout.write(`${text}\n`);

/** Says every problem and ends. */
export function giveUp(problems: readonly Problem[], code = WRONG_USE): never {
  for (const one of problems) say(problemLine(one));
  throw new Exit(code);
}

/** The value, or the end of the command with every problem said. */
export function must<T>(result: Result<T>, code = WRONG_USE): T {
  return result.ok ? result.value : giveUp(result.problems, code);
}

export function readBytesOf(path: string): Result<Uint8Array> {
  try {
    const { size } = statSync(path);
    if (size > LARGEST_FILE) {
      return fail(
        problem(
          path,
          `The file has ${size} bytes; at most ${LARGEST_FILE} are read.`,
          'Take a smaller one.',
        ),
      );
    }
    return { ok: true, value: readFileSync(path) };
  } catch (error) {
    return fail(
      problem(
        path,
        `It cannot be read (${(error as NodeJS.ErrnoException).code}).`,
        'Check the path.',
      ),
    );
  }
}

export function readJson(path: string): Result<unknown> {
  const bytes = readBytesOf(path);
  if (!bytes.ok) return bytes;
  try {
    return { ok: true, value: JSON.parse(new TextDecoder().decode(bytes.value)) };
  } catch {
    return fail(problem(path, 'This is not complete JSON.', 'Generate the file again.'));
  }
}

export function readBench(path: string): Result<Bench> {
  const data = readJson(path);
  return data.ok ? parseWith(Bench, data.value, path) : data;
}

/** Writes whole or not at all. */
export function writeWhole(path: string, text: string | Uint8Array): Result<null> {
  try {
    mkdirSync(dirname(path), { recursive: true });
    const part = `${path}.part`;
    writeFileSync(part, text);
    renameSync(part, path);
    return { ok: true, value: null };
  } catch (error) {
    return fail(
      problem(
        path,
        `It cannot be written (${(error as NodeJS.ErrnoException).code}).`,
        'Check the folder.',
      ),
    );
  }
}

/** The entry that is named, or a problem that names them all. */
export function pick<T>(where: string, from: Record<string, T>, name: string): Result<T> {
  const names = Object.keys(from);
  return names.includes(name)
    ? ok(from[name]!)
    : fail(problem(where, `There is no "${name}".`, `Choose one of: ${names.join(', ')}.`));
}
