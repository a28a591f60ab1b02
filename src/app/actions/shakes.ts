'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import {
  AXIS_NAMES,
  kindsTaken,
  SHAPER_FREQUENCIES,
  SHAPER_SETTINGS,
  shaperValues,
  shaperWay,
  shapingIn,
  type AxisName,
  type Shaping,
} from '@/core/bench/shaper';
import { settingInfo, type Setting, type Values } from '@/core/bench/settings';
import { SHAPERS } from '@/core/dialect/shapers';
import { shaperInputs } from '@/core/ladders/acceleration/shaper-check';
import { short, snap, tidy } from '@/core/numbers';
import { fail, ok, parseWith, problem, type Result } from '@/core/result';
import { baseOf } from '@/core/route/base';
import {
  foreseen,
  fromEchoes,
  KeptShake,
  peakRange,
  pickedFrom,
  type Proposed,
} from '@/core/shake/kept';
import { slowestAxis } from '@/core/ladders/acceleration/kind';
import { SHAKE_AXES } from '@/core/shake/marks';
import { BAND_ENDS } from '@/core/shake/asked';
import { SENSOR_FAULTS } from '@/understudy/accelerometer';
import { MOST_SEED, READY } from '@/understudy/understudies';
import type { Shake } from '@/store/shakes';
import { askLink } from '../server/link';
import { newestOf, proposedOf, shakesOf } from '../server/shakes';
import { now, store } from '../server/store';
import { inThread } from '../server/threads';
import { refusedTo } from '../server/who';
import { gone, idIn, type Answer } from './answer';
import { setUpLadder } from './ladders';

const Axis = z.enum(SHAKE_AXES);
const OneAxis = z.enum(['x', 'y']);
const Name = z.string().trim().min(1).max(200);

/** What a shake file is asked for; what is left out stands as it usually does. */
const Asked = z.object({
  axis: Axis,
  from: z.number().min(BAND_ENDS[0]).max(BAND_ENDS[1]).optional(),
  to: z.number().min(BAND_ENDS[0]).max(BAND_ENDS[1]).optional(),
  acceleration: z.number().positive().max(100_000).optional(),
  seconds: z.number().min(10).max(300).optional(),
  fan: z.number().min(0).max(1).optional(),
});

const LimitsSent = z.object({
  echo: z.number().min(0.001).max(0.2),
  rounding: z.number().min(0.005).max(1),
});

/** Keeps what was found in a record that was dropped on the page. */
export async function keepShake(
  benchId: unknown,
  axis: unknown,
  name: unknown,
  sent: unknown,
): Promise<Result<number>> {
  const bench = store().benches.get(idIn(benchId));
  const [along, called] = [Axis.safeParse(axis), Name.safeParse(name)];
  const found = parseWith(KeptShake, sent, 'record');
  if (!bench) return gone('bench');
  if (!found.ok) return found;
  if (!along.success) return gone('axis');
  return kept({
    benchId: bench.id,
    axis: along.data,
    name: called.success ? called.data : 'record',
    found: found.value,
    simulated: null,
  });
}

/** Keeps what the distance of echoes on a print tells of an axis. */
export async function keepEchoes(
  benchId: unknown,
  axis: unknown,
  sent: unknown,
): Promise<Result<number>> {
  const bench = store().benches.get(idIn(benchId));
  const along = OneAxis.safeParse(axis);
  const echoes = z
    .object({
      speed: z.number().positive().max(1000),
      distance: z.number().positive().max(200),
      gaps: z.number().int().min(1).max(40),
    })
    .safeParse(sent);
  if (!bench) return gone('bench');
  if (!along.success || !echoes.success)
    return fail(
      problem(
        'echoes',
        'A speed, a distance and a number of gaps were expected.',
        'Measure over several gaps along a face, and enter what the face was printed at.',
      ),
    );
  const { speed, distance, gaps } = echoes.data;
  const hz = (speed * gaps) / distance;
  if (!(hz >= 5 && hz <= 150))
    return fail(
      problem(
        'echoes',
        `${gaps} gaps in ${short(distance)} mm at ${short(speed)} mm/s are ${short(hz, 1)} Hz; machines ring at 5 to 150.`,
        'Count the gaps, not the echoes, and check the speed of the face.',
      ),
    );
  return kept({
    benchId: bench.id,
    axis: along.data,
    name: `${gaps} gaps in ${short(distance)} mm at ${short(speed)} mm/s`,
    // A ruler is good to a quarter of a millimetre or so.
    found: fromEchoes(tidy(hz), (hz * RULER) / distance + 0.01 * hz),
    simulated: null,
  });
}
const RULER = 0.25;

function kept(row: Omit<Shake, 'id' | 'takenAt'>): Result<number> {
  const id = store().shakes.add({ ...row, takenAt: now() });
  revalidatePath('/', 'layout');
  return ok(id);
}

/** Runs a shake file on the understudy, without a wire, and keeps what its sensor recorded. */
export async function shakeUnderstudy(
  benchId: unknown,
  sent: unknown,
  seed: unknown,
  fault: unknown,
): Promise<Result<number>> {
  const bench = store().benches.get(idIn(benchId));
  const asked = Asked.safeParse(sent);
  const which = z.number().int().min(0).max(MOST_SEED).safeParse(seed);
  const broken = z
    .enum(Object.keys(SENSOR_FAULTS) as [keyof typeof SENSOR_FAULTS])
    .catch('none')
    .parse(fault);
  if (!bench || !asked.success || !which.success) return gone('bench');
  const made = await inThread('shakeFile', { bench: bench.bench, asked: asked.data });
  if (!made.ok) return made;
  const { axis } = asked.data;
  const bytes = Buffer.from(made.value.text, 'latin1');
  const task = { bytes, bench: bench.bench, axis, seed: which.data, fault: broken };
  const found = await inThread('shaken', task);
  if (!found.ok) return found;
  const ready = READY.find((one) => one.seed === which.data);
  const simulated = { name: ready?.name ?? 'Mystery machine', seed: which.data };
  return kept({ benchId: bench.id, axis, name: made.value.name, found: found.value, simulated });
}

/** Runs a shake file over the wire; of a simulated machine its record comes by itself. */
export async function shakeOnWire(benchId: unknown, sent: unknown): Promise<Answer> {
  const refused = await refusedTo('start');
  if (refused) return refused;
  const bench = store().benches.get(idIn(benchId));
  const asked = Asked.safeParse(sent);
  if (!bench || !asked.success) return gone('bench');
  const made = await inThread('shakeFile', { bench: bench.bench, asked: asked.data });
  if (!made.ok) return made;
  const { kept: files, shakes } = store();
  const { text, name } = made.value;
  const id = await files.keep(bench.id, name, Buffer.from(text, 'latin1'), now());
  shakes.markFile(id, asked.data.axis);
  return askLink({
    act: 'print',
    machine: bench.machineId,
    bench: bench.bench,
    file: null,
    kept: id,
    name,
  });
}

/** The shakes from which a bench is proposed what: chosen by their numbers, else the newest of each axis. */
function chosenFrom(
  benchId: number,
  simulated: boolean,
  ids: Partial<Record<AxisName, number | null | undefined>>,
): Partial<Record<AxisName, Shake | null>> {
  const all = shakesOf(benchId);
  return Object.fromEntries(
    AXIS_NAMES.map((axis) => [
      axis,
      all.find((one) => one.id === ids[axis] && (one.simulated !== null) === simulated) ??
        newestOf(all, axis, simulated),
    ]),
  );
}

const Choice = z.object({
  axis: OneAxis,
  shake: z.number().int().positive(),
  limits: LimitsSent,
  /** A kind other than the one that is proposed. */
  type: z.enum(SHAPERS).nullable(),
});

/** Nothing is saved, or proven, of a machine that is to be mended first. */
const mendFirst = (why: string) =>
  fail(problem('machine', why, 'Or pick one from the list anyway.'));

/**
 * Saves the shaper of an axis, and, once the ledger has both, the largest clean acceleration of the bench: the smaller of
 * both, each with the shaper that stands there.
 */
export async function saveShaping(benchId: unknown, sent: unknown): Promise<Answer> {
  const { db, benches, ledger, shakes } = store();
  const bench = benches.get(idIn(benchId));
  const choice = Choice.safeParse(sent);
  const shake = choice.success ? shakes.get(choice.data.shake) : null;
  if (!bench || !choice.success || !shake || shake.benchId !== bench.id) return gone('record');
  const { axis, limits, type } = choice.data;
  const simulated = shake.simulated !== null;
  const { dialect } = bench.bench.machine;
  const chosen = chosenFrom(bench.id, simulated, { [axis]: shake.id });
  const proposed = proposedOf(bench.bench, axis, chosen, limits);
  if (!proposed) return gone('record');
  const picked = pickedFrom(proposed, type, slowestAxis(bench.bench));
  if (!picked) return mendFirst(proposed.proposal.why);
  const { acceleration } = picked;
  const shaping = picked.shaping && rounded(picked.shaping);
  if (shaping && !kindsTaken(dialect, axis).includes(shaping.type)) return gone('shaper');
  const values: Values = shaperValues(dialect, axis, shaping);
  const other = AXIS_NAMES.find((one) => one !== axis)!;
  const held = Object.fromEntries(
    ledger
      .current(bench.id)
      .filter((entry) => entry.simulated === simulated)
      .map((entry) => [entry.setting, entry.value]),
  );
  const there = chosen[other]?.found;
  const shared = shaperWay(dialect) === 'both';
  if (there && (shared || SHAPER_SETTINGS[other].hz in held)) {
    const beside = { shake: there, shaping: shared ? shaping : shapingIn(dialect, other, held) };
    const both = Math.min(acceleration, foreseen([beside], limits) ?? acceleration);
    const { resolution } = settingInfo('acceleration');
    values.acceleration = tidy(Math.floor(both / resolution) * resolution);
  }
  const foundAt = now();
  db.transaction(() => {
    for (const [setting, value] of Object.entries(values) as [Setting, number][]) {
      const range = rangeFor(setting, value, proposed, shake.found);
      ledger.put({
        benchId: bench.id,
        setting,
        value,
        low: range?.[0] ?? null,
        high: range?.[1] ?? null,
        // How hard it may be driven holds with the shapers that stand beside it.
        base: baseOf(
          { ...bench.bench, tuned: { ...bench.bench.tuned, ...values } },
          setting === 'acceleration' ? SHAPER_FREQUENCIES : [],
        ),
        ladderId: null,
        shakeId: shake.id,
        simulated,
        foundAt,
      });
    }
  })();
  revalidatePath('/', 'layout');
  return { ok: true, value: null };
}

const rounded = ({ type, hz, damping }: Shaping): Shaping => ({
  type,
  hz: tidy(snap(hz, 0.5)),
  damping: tidy(snap(damping, 0.005)),
});

/** In which a value lies in 8 of 10 such records; null where that is not known, or it is a choice. */
function rangeFor(
  setting: Setting,
  value: number,
  proposed: Proposed,
  found: KeptShake,
): [number, number] | null {
  if (setting === 'acceleration')
    return (
      proposed.range && [Math.min(value, proposed.range[0]), Math.max(value, proposed.range[1])]
    );
  if (settingInfo(setting).unit !== 'Hz' || value === 0) return null;
  // A shaper moves with what it is made for.
  const [low, high] = peakRange(found) ?? [NaN, NaN];
  const share = value / found.peaks[0]!.hz;
  return Number.isNaN(low) ? null : [tidy(snap(share * low, 0.1)), tidy(snap(share * high, 0.1))];
}

/** Sets up a print that proves what is proposed: the ringing form without and with it, to beyond what it allows. */
export async function proveShaping(benchId: unknown, sent: unknown): Promise<Answer> {
  const bench = store().benches.get(idIn(benchId));
  const choice = Choice.safeParse(sent);
  const shake = choice.success ? store().shakes.get(choice.data.shake) : null;
  if (!bench || !choice.success || !shake || shake.benchId !== bench.id) return gone('record');
  const { axis, limits, type } = choice.data;
  const simulated = shake.simulated !== null;
  const chosen = chosenFrom(bench.id, simulated, { [axis]: shake.id });
  const of = (one: AxisName) => proposedOf(bench.bench, one, chosen, limits);
  const here = of(axis);
  if (!here) return gone('record');
  const most = slowestAxis(bench.bench);
  const mine = pickedFrom(here, type, most);
  if (!mine) return mendFirst(here.proposal.why);
  if (!mine.shaping)
    return fail(
      problem(
        'shaper',
        'No shaper is proposed that a print could show.',
        'Print an acceleration ladder instead.',
      ),
    );
  const other = AXIS_NAMES.find((one) => one !== axis)!;
  const beside = of(other);
  const theirs = (beside && pickedFrom(beside, null)?.shaping) ?? mine.shaping;
  const { x, y } = { [axis]: rounded(mine.shaping), [other]: rounded(theirs) } as Record<
    AxisName,
    ReturnType<typeof rounded>
  >;
  const allowed = Math.min(mine.acceleration, beside?.proposal.acceleration ?? Infinity);
  const top = Math.floor(Math.min(most, BEYOND * allowed) / 50) * 50;
  const from = Math.max(100, Math.floor(Math.min(here.proposal.plain, top / 4) / 2 / 50) * 50);
  return setUpLadder(bench.id, 'shaper-check', {
    ...shaperInputs(x, y),
    from,
    to: top,
    // Steps that grow alike, as many as are told apart.
    step: Math.max(50, Math.round(from * ((top / from) ** (1 / CHECK_STEPS) - 1))),
    growing: 1,
  });
}
/** How far beyond what is allowed a check climbs, and in how many steps. */
const [BEYOND, CHECK_STEPS] = [1.6, 6];
