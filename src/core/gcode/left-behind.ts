/** What stays active after a file: heaters, fan, and every setting that was changed and not restored. */

import type { Bench } from '../bench/bench';
import { inForce, knownBefore, tunedMachine } from '../bench/in-force';
import type { Limits } from '../bench/machine';
import type { Setting } from '../bench/settings';
import { short } from '../numbers';
import type { Remark } from './remark';
import { MACRO } from './macro';
import { type Change } from '../dialect/changes';
import { changeAt, type Trace } from './trace';

/** What each setting is called, and what a machine of this bench had before; null when that is not known. */
type Before = (limits: Limits, now: Record<Setting, number>) => number | null;
const BASE: Partial<Record<Change, { title: string; before: Before }>> = {
  fan: { title: 'fan', before: () => 0 },
  flow: { title: 'flow', before: () => 1 },
  pace: { title: 'speed factor', before: () => 1 },
  print: { title: 'printing acceleration', before: (l) => l.printAcceleration },
  travel: { title: 'travel acceleration', before: (l) => l.travelAcceleration },
  x: { title: 'jerk in x', before: ({ cornering: c }) => (c.model === 'jerk' ? c.x : null) },
  y: { title: 'jerk in y', before: ({ cornering: c }) => (c.model === 'jerk' ? c.y : null) },
  deviation: {
    title: 'junction deviation',
    before: ({ cornering: c }) => (c.model === 'junction-deviation' ? c.deviation : null),
  },
  square: {
    title: 'square-corner speed',
    before: ({ cornering: c }) => (c.model === 'square-corner' ? c.speed : null),
  },
  advance: { title: 'pressure advance', before: () => null },
  frequency: { title: 'input shaper frequency', before: (_, now) => now.shaper },
  frequency_x: { title: 'input shaper frequency in x', before: (_, now) => now.shaperX },
  frequency_y: { title: 'input shaper frequency in y', before: (_, now) => now.shaperY },
  steps: { title: 'extruder steps', before: () => null },
  rotation: { title: 'rotation distance', before: () => null },
  dz: { title: 'live z nudge', before: () => 0 },
};

/** What else a shaper has: it matters while the shaper has a frequency, and where the ledger knows what it was. */
const OF_SHAPER: Partial<Record<Change, { title: string; of: Change; setting: Setting }>> = {
  type: { title: 'kind of input shaper', of: 'frequency', setting: 'shaperType' },
  damping: { title: 'input shaper damping', of: 'frequency', setting: 'shaperDamping' },
  type_x: { title: 'kind of input shaper in x', of: 'frequency_x', setting: 'shaperTypeX' },
  damping_x: { title: 'input shaper damping in x', of: 'frequency_x', setting: 'shaperDampingX' },
  type_y: { title: 'kind of input shaper in y', of: 'frequency_y', setting: 'shaperTypeY' },
  damping_y: { title: 'input shaper damping in y', of: 'frequency_y', setting: 'shaperDampingY' },
};

/** Values closer than this share are the same: files carry five decimals at most. */
const SAME = 1e-4;

export function leftBehind(trace: Trace, bench: Bench): Remark[] {
  const { limits } = tunedMachine(bench);
  const now = inForce(bench);
  const last = new Map<string, ReturnType<typeof changeAt>>();
  let nudged = 0;
  for (let i = 0; i < trace.changes.count; i++) {
    const change = changeAt(trace, i);
    // A nudge adds up; everything else replaces what was there.
    if (change.name === 'dz') nudged += change.value;
    const key = change.name === 'nozzle' ? `nozzle ${change.tool}` : change.name;
    last.set(key, change.name === 'dz' ? { ...change, value: nudged } : change);
  }
  const findings: Remark[] = [];
  const macro = last.get('macro');
  for (const { name, value, line, tool } of last.values()) {
    // A command of the machine's own after it may well have turned it off.
    const unsure = macro && (macro.value & MACRO.unknown) !== 0 && macro.line > line;
    if ((name === 'nozzle' || name === 'bed') && value > 0) {
      const which = name === 'bed' ? 'The bed' : tool > 0 ? `Nozzle ${tool + 1}` : 'The nozzle';
      findings.push({
        grade: unsure ? 'warning' : 'stop',
        code: `heater-on-${name}-${tool}`,
        line,
        count: 1,
        what: unsure
          ? `${which} is set to ${short(value)} °C and not turned off; whether the command in line ${macro.line} does that is unknown.`
          : `${which} is left heating at ${short(value)} °C when the file ends.`,
        mend: `Put ${name === 'bed' ? 'M140 S0' : 'M104 S0'} into the end block.`,
      });
    }
    const part = OF_SHAPER[name];
    const matters =
      part && Number.isFinite(now[part.setting]) && (last.get(part.of)?.value ?? 0) > 0;
    const base = matters ? { title: part.title, before: () => now[part.setting] } : BASE[name];
    if (!base) continue;
    const known = name !== 'advance' || knownBefore('advance', bench);
    // None is what a machine does without being told; what it had may be more, and only it knows.
    const none = !known && value === 0;
    const before = name === 'advance' && known ? now.advance : base.before(limits, now);
    if (before !== null && Math.abs(value - before) <= SAME * Math.max(1, Math.abs(before)))
      continue;
    findings.push({
      grade: none ? 'note' : 'warning',
      code: `not-put-back-${name}`,
      line,
      count: 1,
      what: none
        ? `${base.title} is off after the print: what this machine had before is not known.`
        : before === null
          ? `${base.title} stays at ${short(value, 4)} after the print.`
          : `${base.title} stays at ${short(value, 4)} after the print; it was ${short(before, 4)}.`,
      mend: known
        ? 'Restore it at the end of the file.'
        : 'Restart the machine after it, or enter what it has on its page: then ladders put it back.',
    });
  }
  return findings;
}
