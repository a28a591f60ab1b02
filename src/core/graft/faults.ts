/** What is wrong with a wish, before anything is made. */

import type { Bench } from '../bench/bench';
import { settingInfo, type Setting } from '../bench/settings';
import { MOVE } from '../gcode/trace';
import { short, WRITTEN_MM } from '../numbers';
import { fail, problem, type Failed } from '../result';
import { climbEnds } from '../ladders/graft/kind';
import { CLIMBS, climbsIn, type Wish } from './recipe';
import type { Source } from './source';

export function wishFaults(
  { trace, lines }: Source,
  { rows, slope }: Wish,
  bench: Bench,
): Failed | null {
  const climbing = new Set(rows.flatMap(({ set }) => Object.keys(set) as Setting[]));
  if (slope) climbing.add(slope.setting);
  if (climbing.size === 0)
    return fail(
      problem('setting', 'Nothing is set in any section.', 'Give a setting and its values.'),
    );
  const strange = [...climbing].filter((one) => !climbsIn(one));
  if (strange.length > 0)
    return fail(
      problem(
        'setting',
        `${settingInfo(strange[0]!).title} cannot climb in a sliced file.`,
        `Choose one of: ${CLIMBS.join(', ')}.`,
      ),
    );
  const falling = rows.findIndex(({ from }, i) => i > 0 && from <= rows[i - 1]!.from);
  if (falling !== -1)
    return fail(
      problem(
        'heights',
        `${short(rows[falling]!.from)} mm does not stand above ${short(rows[falling - 1]!.from)} mm.`,
        'Give the heights from below, each above the one before.',
      ),
    );
  if (trace.moves.count === 0 || !trace.moves.kind.includes(MOVE.extrude))
    return fail(
      problem('file', 'The file extrudes nothing.', 'Choose the file that your slicer wrote.'),
    );
  // What firmware holds to its own limit it takes nevertheless: that is told, not refused.
  const { acceleration: _, ...ends } = climbEnds(bench);
  for (const [setting, { min, max }] of Object.entries(ends))
    for (const { from, set } of rows) {
      const value = set[setting as Setting];
      if (value !== undefined && !(value >= min && value <= max))
        return fail(
          problem(
            setting,
            `${settingInfo(setting as Setting).title} ${short(value)} ${settingInfo(setting as Setting).unit} from ${short(from)} mm on; this bench takes ${short(min)} to ${short(max)}.`,
            'Choose values within that.',
          ),
        );
    }
  let numbered = 0;
  lines.some(1, 200).forEach((text) => {
    if (/^\s*[Nn]\d+\s/.test(text)) numbered++;
  });
  return numbered > 2
    ? fail(
        problem(
          'file',
          'Its lines are numbered, so none can be put in or taken out.',
          'Have your slicer write it without line numbers.',
        ),
      )
    : null;
}

/** Sections that begin at no layer of their own, or above the print. @param from heights at which they begin, at layers, mm */
export function placeFaults(from: readonly number[], { strata }: Source): Failed | null {
  const top = strata.top.at(-1) ?? 0;
  const above = from.findIndex((one) => one > top - WRITTEN_MM);
  if (above !== -1)
    return fail(
      problem(
        'heights',
        `Section ${above + 1} would begin at ${short(from[above]!)} mm; the print ends at ${short(top)} mm.`,
        'Choose fewer or lower sections.',
      ),
    );
  const same = from.findIndex((one, i) => i > 0 && one - from[i - 1]! < WRITTEN_MM);
  return same === -1
    ? null
    : fail(
        problem(
          'heights',
          `Sections ${same} and ${same + 1} would begin with the same layer, at ${short(from[same]!)} mm.`,
          'A section has a layer at least: set them further apart.',
        ),
      );
}
