/** The machine's own tuning of its nozzle heater: run, read, put in force, each told as the machine says it. */

import {
  gainsIn,
  gainsLine,
  sameGains,
  tunedGains,
  tuneLine,
  type Gains,
} from '../core/bench/gains';
import { firmwareOf, type Dialect } from '../core/dialect/dialect';
import { fail, ok, problem, type Result } from '../core/result';
import type { Machine } from './machine';
import { USUAL_REPORT } from './settings';

/** What the machine has now; null where its report does not speak of it. */
export async function presentGains(
  machine: Machine,
  dialect: Dialect,
): Promise<Result<Gains | null>> {
  const report = await machine.ask(dialect.report || USUAL_REPORT);
  return report.ok ? ok(gainsIn(report.value)) : report;
}

/** Runs the tuning to its end; the heater is off afterwards. */
export async function tuneHeater(
  machine: Machine,
  celsius: number,
  dialect: Dialect,
): Promise<Result<Gains>> {
  const said = await machine.ask(tuneLine(celsius, firmwareOf(dialect)));
  if (!said.ok) return said;
  await machine.cool();
  const gains = tunedGains(said.value);
  if (gains) return ok(gains);
  const last = said.value.at(-1);
  return fail(
    problem(
      'machine',
      `The machine has not told what it found${last ? `; it said “${last.slice(0, 80)}”` : ''}.`,
      'Let it cool, then tune once more; or see whether it knows this command.',
    ),
  );
}

/** Puts constants in force and reads them back. */
export async function applyGains(
  machine: Machine,
  gains: Gains,
  dialect: Dialect,
): Promise<Result<Gains>> {
  const line = gainsLine(gains, firmwareOf(dialect));
  if (line === null)
    return fail(
      problem(
        'machine',
        'This machine keeps them in its settings file.',
        'Write them there, or let the machine save them itself.',
      ),
    );
  const sent = await machine.ask(line);
  if (!sent.ok) return sent;
  const now = await presentGains(machine, dialect);
  if (!now.ok) return now;
  return now.value && sameGains(now.value, gains)
    ? ok(now.value)
    : fail(
        problem(
          'machine',
          `${line} was sent, but the machine does not say that it has it.`,
          'Look at its own screen.',
        ),
      );
}
