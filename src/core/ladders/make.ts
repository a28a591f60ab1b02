/** From kind, spec and bench to a file that has passed its own audit. */

import type { Bench } from '../bench/bench';
import { benchTitle } from '../bench/bench';
import { foundByCommand, tunedMachine } from '../bench/in-force';
import { beadArea } from '../deposit/bead';
import { beadWidthOf, surelyMelted } from '../deposit/conditions';
import type { LayingMemory } from '../deposit/deposit';
import type { Layout } from '../deposit/layout';
import { blockFaults } from '../gcode/block-faults';
import { audit, type Audit } from '../gcode/audit';
import { planLines } from '../gcode/plan-lines';
import { readText } from '../gcode/read';
import { rungFinder } from '../gcode/rungs';
import type { Trace } from '../gcode/trace';
import { askedFor } from '../gcode/asked';
import { writeLayout } from '../gcode/write';
import { planMotion, type Motion } from '../motion/plan-motion';
import { accelerationFor, reachOf } from '../motion/reach';
import { short } from '../numbers';
import { leadAxis } from '../plan/axes';
import { parsePlan, type Plan } from '../plan/plan';
import { fail, ok, parseWith, problem, type Problem, type Result } from '../result';
import { plainLine, slug } from '../text';
import { VERSION } from '../version';
import { kindOf } from './registry';
import { settingInfo } from '../bench/settings';
import type { LadderKind, Warning } from './types';

export type Made = {
  text: string;
  /** As the file itself carries it. */
  plan: Plan;
  warnings: Warning[];
  trace: Trace;
  motion: Motion;
  audit: Audit;
};

/** Completes a partial spec with the bench's defaults and checks it. */
export function specFor(
  kind: LadderKind,
  bench: Bench,
  given: Record<string, unknown>,
): Result<object> {
  const known = Object.keys(kind.fields);
  const now = Object.fromEntries(
    Object.entries(given).filter(([key]) => !kind.retired?.includes(key)),
  );
  const strange = Object.keys(now).filter((key) => !known.includes(key));
  if (strange.length > 0) {
    return fail(
      ...strange.map((key) =>
        problem(key, `A ${kind.id} ladder has no "${key}".`, `It has: ${known.join(', ')}.`),
      ),
    );
  }
  const spec = { ...kind.defaults(bench), ...now };
  return parseWith(kind.spec, spec, 'spec', (key) => kind.fields[key]?.label);
}

/** Why a ladder of a kind cannot be set up on a bench by itself; null when it can. */
export const whyNot = (kind: LadderKind, bench: Bench): Problem | null =>
  kind.ofFile
    ? problem(
        'file',
        'This ladder is made of a sliced file.',
        'Open the file, and choose “Make a ladder of it”.',
      )
    : (kind.unfit?.(bench) ?? null);

/** Name of a file: bench, kind, range, step. Plain letters only. */
export function fileName(kind: LadderKind, spec: object, bench: Bench): string {
  const range = spec as { from?: number; to?: number; step?: number };
  const said =
    range.from === undefined
      ? ''
      : `_${short(range.from)}-${short(range.to!)}-by-${short(range.step!)}`;
  const { machine, nozzle, filament } = bench;
  const names = [machine.name, String(nozzle.diameter), filament.name].map(slug).filter(Boolean);
  return `${names.join('-')}_${kind.id}${said}.gcode`;
}

/** Makes a ladder of the registry. */
export function makeLadder(
  kindId: string,
  given: Record<string, unknown>,
  bench: Bench,
  memory?: LayingMemory,
): Result<Made> {
  const kind = kindOf(kindId);
  return kind.ok ? makeOf(kind.value, given, bench, memory) : kind;
}

/**
 * Makes a ladder of a kind. The text is read back, and everything told about it (motion, audit) comes from there.
 *
 * @returns problems for a spec that cannot be printed, and for a file that fails its own audit
 */
export function makeOf(
  kind: LadderKind,
  given: Record<string, unknown>,
  bench: Bench,
  memory?: LayingMemory,
): Result<Made> {
  const parsed = specFor(kind, bench, given);
  if (!parsed.ok) return parsed;
  const spec = parsed.value;
  const unfit = whyNot(kind, bench);
  if (unfit) return fail(unfit);
  const warnings = kind.check(spec, bench);
  const stops = warnings.filter(({ grade }) => grade === 'stop');
  if (stops.length > 0) return fail(...stops);

  const faults = blockFaults(bench);
  if (faults.length > 0) return fail(...faults);

  const layout = holdingFound(kind.lay(spec, bench, memory), bench);
  const name = plainLine(fileName(kind, spec, bench), 180);
  const title = `Ash Ladder ${VERSION}: ${kind.title}, ${benchTitle(bench)}`;
  const written = writeLayout(layout, bench, title);
  if (!written.ok) return written;
  const { view, frame, held, fed, axes, layerHeight, height, width } = layout;
  const planned: Plan = {
    format: 'ash-ladder/plan',
    version: 2,
    program: VERSION,
    kind: kind.id,
    spec: spec as Record<string, unknown>,
    bench,
    file: name,
    layerHeight,
    height,
    width,
    view,
    ...(frame ? { frame } : {}),
    held,
    ...(fed === undefined ? {} : { fed }),
    axes,
    rungs: layout.rungs.map((rung, i) => ({ ...rung, line: written.value.rungLines[i]! })),
  };
  const text = [...written.value.lines, ...planLines(planned), ''].join('\n');

  // From here on only the text counts, its plan included.
  const trace = readText(text, bench.machine);
  const carried = parsePlan(trace.planText ?? '');
  if (!carried.ok) return carried;
  const plan = carried.value;
  const motion = planMotion(trace, tunedMachine(bench));
  const audited = audit(trace, bench, askedFor(plan));
  const stopped = audited.findings.filter(({ grade }) => grade === 'stop');
  if (stopped.length > 0) {
    return fail(
      ...stopped.map(({ what, mend, line }) =>
        problem(line ? `line ${line} of the file` : 'file', what, mend),
      ),
    );
  }
  const late = [
    ...settling(plan, motion, trace),
    ...slowed(spec, plan, motion, trace),
    ...overMelt(spec, bench),
  ];
  return ok({
    text,
    plan,
    warnings: [...warnings, ...late],
    trace,
    motion,
    audit: audited,
  });
}

/** A layout that also holds what was found before, where it does not climb, so that the file check proves it. */
function holdingFound(layout: Layout, bench: Bench): Layout {
  const { rungs, held, steps } = layout;
  // Where nothing is laid, nothing feels it.
  if (!steps.some((step) => step.do === 'stroke')) return layout;
  const climbing = new Set(rungs.flatMap(({ set }) => Object.keys(set)));
  // On the first layer the acceleration is lower, so that it is not torn off.
  if (rungs.some(({ layers }) => layers.first === 0)) climbing.add('acceleration');
  const found = Object.entries(foundByCommand(bench)).filter(([name]) => !climbing.has(name));
  return { ...layout, held: { ...Object.fromEntries(found), ...held } };
}

/** A rung shorter than twice the settling of what climbs shows drift more than its value. */
function settling(plan: Plan, motion: Motion, trace: Trace): Warning[] {
  const setting = leadAxis(plan)?.setting;
  if (!setting || plan.rungs.length < 2) return [];
  const { settlesS, title } = settingInfo(setting);
  const shortest = Math.min(...stepTimes(plan, motion, trace));
  if (shortest >= 2 * settlesS) return [];
  return [
    {
      grade: 'warning',
      code: 'settling',
      where: 'rungHeight',
      what: `A rung prints in ${Math.round(shortest)} s, and its ${title} drifts for about ${settlesS} s of that.`,
      mend: 'Choose taller rungs or a lower speed.',
    },
  ];
}

/** Under this share of wall at the speed asked for, a rung tests another speed than was typed. */
const LEAST_REACH = 0.5;

/** Walls that are slowed by less than a tenth look as they would have. */
const ALMOST = 0.9;

/** What the walls of a ladder are asked to run at. */
export const askedOf = (spec: object, bench: Bench) => {
  const { speed, acceleration, slow } = spec as Record<string, number | undefined>;
  return {
    speed: speed ?? bench.machine.speeds.print,
    acceleration: acceleration ?? bench.machine.limits.printAcceleration,
    ...(slow === undefined ? {} : { slow }),
  };
};

/** Walls faster than the largest melt flow that was found come out thin, whatever is tested. */
function overMelt(spec: object, bench: Bench): Warning[] {
  const { speed, layerHeight } = spec as Record<string, number | undefined>;
  const found = bench.tuned?.meltFlow;
  if (found === undefined || speed === undefined || layerHeight === undefined) return [];
  const width = Math.max(beadWidthOf(bench.nozzle.diameter), layerHeight);
  const most = surelyMelted(beadArea(width, layerHeight), bench);
  if (speed <= most) return [];
  return [
    {
      grade: 'warning',
      code: 'over-melt',
      where: 'speed',
      what: `Walls at ${short(speed)} mm/s take more than the ${short(found)} mm³/s that were found to melt.`,
      mend: `Ask for ${most} mm/s or less, or for thinner layers.`,
      offers: [{ label: `Ask for ${most} mm/s`, patch: { speed: most } }],
    },
  ];
}

/** Says which rungs cannot show their effect at the speed asked for, why, and what mends it. */
function slowed(spec: object, plan: Plan, motion: Motion, trace: Trace): Warning[] {
  if ((spec as { speed?: number }).speed === undefined) return [];
  const asked = askedOf(spec, plan.bench);
  const { all, rungs } = reachOf(trace, motion, plan.rungs, asked);
  if (all.stroke === 0) return [];
  const slow = rungs.filter(({ share }) => share < LEAST_REACH);
  if (slow.length === 0) return [];
  const which = slow.length === rungs.length ? '' : ` on ${slow.length} of ${rungs.length} rungs`;
  const what = `Walls run at ${Math.round(all.speed)} mm/s${which}, not ${short(asked.speed)}: `;
  const lower = Math.max(1, Math.floor(Math.min(...slow.map(({ speed }) => speed))));
  const offers = [{ label: `Ask for ${lower} mm/s`, patch: { speed: lower } }];
  // Slowed to cool, every rung alike still shows its effect; too short a stroke tests the ramps instead.
  if (all.slowed >= LEAST_REACH) {
    if (all.speed >= ALMOST * asked.speed) return [];
    return [
      {
        grade: 'note',
        code: 'slowed',
        where: 'speed',
        what: `${what}each layer is given ${short(plan.bench.filament.shortestLayer)} s to cool.`,
        mend: 'Ask for a lower speed, or allow less cooling time on the filament’s page.',
        offers,
      },
    ];
  }
  const enough = accelerationFor(asked.speed, all.stroke, LEAST_REACH);
  return [
    {
      grade: 'warning',
      code: 'not-reached',
      where: 'speed',
      what: `${what}strokes of ${short(all.stroke, 1)} mm are too short for it. It would take longer sides, a lower speed, or ${Math.ceil(enough / 100) * 100} mm/s² of acceleration.`,
      mend: 'Ask for a lower speed, longer sides, or more acceleration.',
      offers,
    },
  ];
}

/** Time, s, that what climbs first has on the print where each rung is: on a grid, that of all its cells together. */
export function stepTimes(plan: Plan, motion: Motion, trace: Trace): number[] {
  const times = rungTimes(plan, motion, trace);
  return plan.rungs.map(({ at: [step] }) =>
    plan.rungs.reduce((sum, { at, index }) => sum + (at[0] === step ? times[index]! : 0), 0),
  );
}

/** Printing time of every rung, s, from the file's own moves. */
export function rungTimes(plan: Plan, motion: Motion, trace: Trace): number[] {
  const times = plan.rungs.map(() => 0);
  const { count } = trace.moves;
  const rungAt = rungFinder(plan.rungs, trace.moves);
  for (let i = 0; i < count; i++) {
    const rung = rungAt(i);
    if (rung !== -1) times[rung]! += motion.time[i]!;
  }
  return times;
}
