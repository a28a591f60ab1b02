/** Makes a ladder of a sliced file and proves it: from here on only the text counts. */

import type { Bench } from '../bench/bench';
import { settingInfo } from '../bench/settings';
import { askedFor } from '../gcode/asked';
import { audit, type Audit } from '../gcode/audit';
import { readBytes } from '../gcode/read';
import type { Trace } from '../gcode/trace';
import { short } from '../numbers';
import { fail, ok, problem, type Result } from '../result';
import { graft, type Grafted } from './graft';
import type { Wish } from './recipe';
import type { Source } from './source';

export type Made = Grafted & { trace: Trace; audit: Audit };

/** Sections that are told when many are wrong. */
const MOST_TOLD = 6;

/** @returns problems for a wish that cannot be made, and for a section where something else is in force */
export function makeGraft(source: Source, wish: Wish, bench: Bench): Result<Made> {
  const made = graft(source, wish, bench);
  if (!made.ok) return made;
  const trace = readBytes(made.value.bytes, bench.machine);
  const audited = audit(trace, bench, askedFor(made.value.plan));
  const wrong = audited.rungs.filter((one) => !one.ok).slice(0, MOST_TOLD);
  if (wrong.length === 0) return ok({ ...made.value, trace, audit: audited });
  return fail(
    ...wrong.map(({ index, setting, wanted, seen }) => {
      const { title } = settingInfo(setting);
      const inForce = seen.slice(0, 4).map((value) => short(value, 5));
      return problem(
        `section ${index + 1}`,
        `${title} ${short(wanted, 5)} is asked for; in force is ${inForce.join(', ') || 'nothing'}.`,
        'Lift out what the file sets itself, or shift the sections.',
      );
    }),
  );
}
