/** Thin shell for threads of the server: heavy work that no request may wait for. Plain data in, plain data out. */

import { PNG } from 'pngjs';
import { joinBench, type Bench } from '../core/bench/bench';
import type { Values } from '../core/bench/settings';
import { tunedMachine } from '../core/bench/in-force';
import { audit } from '../core/gcode/audit';
import { readBytes } from '../core/gcode/read';
import { makeLadder, specFor } from '../core/ladders/make';
import { askedFor } from '../core/gcode/asked';
import { parsePlan, type Plan } from '../core/plan/plan';
import { kindFor, kindOf } from '../core/ladders/registry';
import { DEFAULT_NOZZLE, FILAMENTS, MACHINES } from '../core/bench/presets';
import { defaultWeights } from '../core/reading/gather';
import { BEST_SCORE, type Score } from '../core/reading/types';
import { planMotion } from '../core/motion/plan-motion';
import { lineTimes } from '../core/motion/line-times';
import { printingMinutes, timesOf } from '../core/motion/times';
import type { Price } from '../core/price';
import { settingLine } from '../core/dialect/dialect';
import { withNudges, type Nudge } from '../core/plan/nudged';
import { makeGraft } from '../core/graft/make';
import { proveGraft } from '../core/graft/prove';
import type { Wish } from '../core/graft/recipe';
import { sourceOf } from '../core/graft/source';
import { ungraft } from '../core/graft/ungraft';
import { fail, ok, problem, type Result } from '../core/result';
import { ladderPicture } from '../core/view/ladder-picture';
import { standingOf } from '../core/view/standing';
import { analyse } from '../core/shake/analyse';
import { keptLook, type KeptLook } from '../core/loupe/kept';
import { lookAt, type Asked } from '../core/loupe/loupe';
import { findTogether, type SaidByBoth } from '../core/loupe/together';
import { jpegOf, pixelsOf } from '../photo/decode';
import { unpackHeic } from '../photo/heic';
import { keptOf, type KeptShake } from '../core/shake/kept';
import { marksIn, type ShakeAxis } from '../core/shake/marks';
import type { ShakeAsked } from '../core/shake/asked';
import { makeShakeFile } from '../core/shake/shake-file';
import { recordOf, type SensorFault } from '../understudy/accelerometer';
import { slowly } from '../core/ladders/extruder-steps/kind';
import { ruledLeft } from '../rehearsal/instruments';
import { revealed } from '../rehearsal/revealed';
import { simulatedPrint } from '../rehearsal/simulated-print';
import { drawTruths } from '../understudy/truths';

export function find(task: { kind: string; plan: Plan; bench: Bench; said: SaidByBoth }) {
  const kind = kindFor(task.plan);
  return kind.ok ? findTogether(kind.value, task.plan, task.bench, task.said) : kind;
}

/** So often a finding of this kind is worked out before anybody asks for one: the engine runs it faster from then on. */
const [SMALL, WARM_UP] = ['retraction', 10];

/** Works out a small finding of nothing in particular, so that the first one that somebody asks for is there at once. */
export function warmUp() {
  const bench = joinBench(MACHINES.heron, DEFAULT_NOZZLE, FILAMENTS.moss);
  const kind = kindOf(SMALL);
  const made = makeLadder(SMALL, {}, bench);
  if (!kind.ok || !made.ok) return;
  const { plan } = made.value;
  for (let n = 0; n < WARM_UP; n++) {
    const scores = kind.value.criteria.map(({ name }, k): [string, Score[]] => [
      name,
      plan.rungs.map((_, i) => (BEST_SCORE - ((i + k + n) % BEST_SCORE)) as Score),
    ]);
    const readings = [Object.fromEntries(scores)];
    find({
      kind: SMALL,
      plan,
      bench,
      said: { readings, measured: [], weights: defaultWeights(kind.value) },
    });
  }
}

export function make(task: { kind: string; spec: Record<string, number>; bench: Bench }) {
  const made = makeLadder(task.kind, task.spec, task.bench);
  if (!made.ok) return made;
  const { text, plan, audit: audited, trace, motion } = made.value;
  return ok({ text, plan, checked: { audited, times: timesOf(trace, motion) } });
}

/** What a ladder with its usual inputs costs: rungs, minutes of printing, grams. Null where the bench cannot print it. */
export function price(task: { kind: string; bench: Bench }): Price | null {
  const made = makeLadder(task.kind, {}, task.bench);
  if (!made.ok) return null;
  const { plan, audit: audited, trace, motion } = made.value;
  return {
    rungs: plan.rungs.length,
    minutes: printingMinutes(timesOf(trace, motion)),
    grams: audited.grams,
  };
}

/** Where a ladder will stand on a screen. */
export const standing = (task: { kind: string; spec: Record<string, number>; bench: Bench }) =>
  standingOf(task.kind, task.spec, task.bench);

/** A ladder made of a sliced file, proven from its own text. */
export function sliced(task: { name: string; bytes: Uint8Array; wish: Wish; bench: Bench }) {
  const { bench } = task;
  const source = sourceOf(task.name, task.bytes, readBytes(task.bytes, bench.machine));
  const made = makeGraft(source, task.wish, bench);
  if (!made.ok) return made;
  const { bytes, plan, trace, audit: audited } = made.value;
  const times = timesOf(trace, planMotion(trace, tunedMachine(bench)));
  return ok({ bytes, plan, checked: { audited, times } });
}

/** What is told of a file from its own bytes, never from what was planned. */
export function check({ bytes, plan }: { bytes: Uint8Array; plan: Plan }) {
  const trace = readBytes(bytes, plan.bench.machine);
  const audited = audit(trace, plan.bench, askedFor(plan));
  return {
    audited: { ...audited, findings: [...proveGraft(bytes, plan), ...audited.findings] },
    times: timesOf(trace, planMotion(trace, tunedMachine(plan.bench))),
  };
}

/** A PNG of the print as its moves draw it. */
export function draw(task: { bytes: Uint8Array; plan: Plan; pxPerMm: number }): Uint8Array {
  const trace = readBytes(task.bytes, task.plan.bench.machine);
  return asPng(ladderPicture(trace, task.plan, task.pxPerMm));
}

type Drawn = { width: number; height: number; rgba: { buffer: ArrayBufferLike } };

function asPng({ width, height, rgba }: Drawn): Uint8Array {
  const png = new PNG({ width, height });
  png.data = Buffer.from(rgba.buffer);
  return PNG.sync.write(png);
}

/** Why a file from elsewhere must not be printed on a bench; empty where nothing stands against it. */
export function stops({ bytes, bench }: { bytes: Uint8Array; bench: Bench }) {
  const { findings } = audit(readBytes(bytes, bench.machine), bench);
  return findings.filter(({ grade }) => grade === 'stop');
}

/** When each line of a file is reached. */
export function reached({ bytes, plan }: { bytes: Uint8Array; plan: Plan }) {
  const trace = readBytes(bytes, plan.bench.machine);
  return lineTimes(trace, planMotion(trace, tunedMachine(plan.bench)));
}

/** What a file that was printed over the wire on a simulated machine looks like, and what its instruments say. */
export function simulate(task: {
  bytes: Uint8Array;
  plan: Plan;
  seed: number;
  nudges: readonly Nudge[];
  had: Values;
}) {
  const { plan, seed, had } = task;
  const { machine } = plan.bench;
  const told = withNudges(Buffer.from(task.bytes).toString('latin1'), task.nudges, (dz) =>
    settingLine(machine.dialect, 'nudge', { dz }),
  );
  const trace = readBytes(Buffer.from(told, 'latin1'), machine);
  const made = simulatedPrint({ trace, bench: plan.bench, plan, seed, colour: 'moss', had });
  return made.failed === null ? { png: asPng(made.picture), measured: made.measured } : null;
}

/** Whether bytes are a whole PNG that can be shown. */
export function isPicture({ bytes, most }: { bytes: Uint8Array; most: number }): boolean {
  // Its size stands at the front: a small file may not unfold into more than is shown.
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 33 || view.getUint32(16) * view.getUint32(20) > most) return false;
  try {
    const { width, height } = PNG.sync.read(Buffer.from(bytes));
    return width > 0 && height > 0;
  } catch {
    return false;
  }
}

/** What a file carries: its plan, and of a ladder made of a sliced file the file that it was made of. */
type Adopted = {
  plan: Plan;
  spec: object;
  original: { name: string; bytes: Uint8Array; wish: Wish } | null;
};

/**
 * Takes a ladder out of a file that may come from anywhere: its plan is held against its own moves, so that values
 * edited in the text are not taken in under those of the plan.
 */
export function adopt({ bytes }: { bytes: Uint8Array }): Result<Adopted> {
  const { planText } = readBytes(bytes);
  const plan = planText === null ? null : parsePlan(planText);
  if (!plan)
    return fail(
      problem(
        'file',
        'It was not made by Ash Ladder: it carries no plan.',
        'Open a file that Ash Ladder made.',
      ),
    );
  if (!plan.ok) return plan;
  const kind = kindFor(plan.value);
  if (!kind.ok) return kind;
  const spec = specFor(kind.value, plan.value.bench, plan.value.spec);
  if (!spec.ok) return spec;
  const trace = readBytes(bytes, plan.value.bench.machine);
  const { findings } = audit(trace, plan.value.bench, askedFor(plan.value));
  const all = [...proveGraft(bytes, plan.value), ...findings];
  // What a sliced file does besides is its own; only what it says of its sections is held against it.
  const sliced = kind.value.ofFile;
  const stops = all.filter(
    ({ grade, code }) => grade === 'stop' && (!sliced || /^(graft|rung)-/.test(code)),
  );
  if (stops.length > 0)
    return fail(
      ...stops
        .slice(0, 8)
        .map(({ line, what }) =>
          problem(
            line ? `line ${line}` : 'file',
            what,
            'It was changed after it was made, so its plan no longer describes it.',
          ),
        ),
    );
  const taken = sliced ? ungraft(bytes) : null;
  if (taken && !taken.ok) return taken;
  const original = taken && {
    name: taken.value.recipe.original.name,
    bytes: taken.value.bytes,
    wish: taken.value.recipe.wish,
  };
  return ok({ plan: plan.value, spec: spec.value, original });
}

export const reveal = (task: { plan: Plan; seed: number }) => revealed(task.plan, task.seed);

/** What a ruler beside a simulated machine says when filament was fed by hand. */
export function ruler(task: { bench: Bench; seed: number; had: Values; n: number }): number {
  return ruledLeft(drawTruths(task.bench, task.seed), task.had, slowly(task.bench), task.n);
}

/** A file that shakes the machine of a bench. */
export const shakeFile = (task: {
  bench: Bench;
  asked: Partial<ShakeAsked> & { axis: ShakeAxis };
}) => makeShakeFile(task.bench, task.asked);

/** What a sensor on a simulated machine records while a shake file runs, analysed as a record from elsewhere is. */
export function shaken(task: {
  bytes: Uint8Array;
  bench: Bench;
  axis: ShakeAxis;
  seed: number;
  fault?: SensorFault;
}): Result<KeptShake> {
  const { bytes, bench, axis, seed, fault = 'none' } = task;
  const text = Buffer.from(bytes).toString('latin1');
  const record = recordOf(text, bench, drawTruths(bench, seed), { fault });
  if (!record.ok) return record;
  const marks = marksIn(text);
  const found = analyse(record.value, {
    ...(axis === 'diagonals' ? {} : { axis }),
    ...(marks.ok ? { marks: marks.value } : {}),
  });
  return found.refused.length > 0 ? fail(...found.refused) : ok(keptOf(found));
}

/** A straightened picture is kept as fine as a screen can use it. */
const STRIP_QUALITY = 82;

/** What is found on a picture of a print, and the picture straightened. */
export async function loupe(task: {
  bytes: Uint8Array;
  plan: Plan;
  asked: Asked;
}): Promise<Result<{ found: KeptLook; strip: Uint8Array | null }>> {
  const photo = await pixelsOf(task.bytes);
  if (!photo.ok) return photo;
  const looked = lookAt(photo.value, task.plan, task.asked);
  const strip = looked.flat && (await jpegOf(looked.flat, STRIP_QUALITY));
  return ok({ found: keptLook(looked), strip });
}

/** Pixels of a picture that the server's own library does not read. @throws where it is broken */
export const unpacked = ({ bytes }: { bytes: Uint8Array }) => unpackHeic(bytes);
