/** Fills a database with the Tidewater Puppet Workshop: machines, spools, benches, one ladder half way. */

import { join } from 'node:path';
import { FILAMENTS, MACHINES } from '../src/core/bench/presets';
import { sightOf } from '../src/core/view/ladder-picture';
import { measure } from '../src/rehearsal/instruments';
import { placesOf } from '../src/rehearsal/places';
import type { Setting } from '../src/core/bench/settings';
import { analyse } from '../src/core/shake/analyse';
import { keptOf } from '../src/core/shake/kept';
import { drawnCorners } from '../src/core/loupe/expected';
import { keptLook } from '../src/core/loupe/kept';
import { lookAt } from '../src/core/loupe/loupe';
import type { Plan } from '../src/core/plan/plan';
import { jpegOf, pixelsOf } from '../src/photo/decode';
import { looks } from '../src/store/looks';
import { makeShakeFile } from '../src/core/shake/shake-file';
import { recordOf } from '../src/understudy/accelerometer';
import { scored } from '../src/understudy/eye';
import { drawPrint, FILAMENT_COLOURS } from '../src/understudy/picture';
import { printTrace } from '../src/understudy/print';
import { drawTruths } from '../src/understudy/truths';
import { READY } from '../src/understudy/understudies';
import { PNG } from 'pngjs';
import { makeLadder } from '../src/core/ladders/make';
import { kindOf, kinds } from '../src/core/ladders/registry';
import { defaultWeights } from '../src/core/reading/gather';
import type { Score } from '../src/core/reading/types';
import { normal, seeded } from '../src/core/random';
import { baseOf } from '../src/core/route/base';
import { rectangle, SECTIONS, slice, towerOf } from '../src/core/graft/testing/slicer';
import { benches } from '../src/store/benches';
import { files, ladders, prints } from '../src/store/ladders';
import { kept } from '../src/store/kept';
import { ledger } from '../src/store/ledger';
import { migrationsIn, openStore } from '../src/store/open';
import { places } from '../src/store/places';
import { readings } from '../src/store/readings';
import { shakes } from '../src/store/shakes';
import { filaments, machines } from '../src/store/things';

const [folder] = process.argv.slice(2);
if (!folder) throw new Error('say where: fill-demo.ts FOLDER');
const opened = openStore(join(folder, 'ash.sqlite'), migrationsIn('src/store/migrations'));
if (!opened.ok) throw new Error(JSON.stringify(opened.problems));
const db = opened.value;

const NOW = Date.now();
const ago = (days: number): string => new Date(NOW - days * 86_400_000).toISOString();

/** Simulated prints whose picture is measured once all is filled in. */
const drawnPrints: { print: number; plan: Plan; at: string }[] = [];

db.transaction(() => {
  const machineIds = Object.values(MACHINES).map((machine) => machines(db).add(machine));
  const filamentIds = Object.values(FILAMENTS).map((filament) => filaments(db).add(filament));
  const [heron, wren, otter, newt] = machineIds as [number, number, number, number];
  const [moss, lantern, brine, eel] = filamentIds as [number, number, number, number];
  const join = (machine: number, bore: number, filament: number, days: number) =>
    benches(db).join(machine, bore, filament, ago(days));
  const main = join(heron, 0.4, moss, 60);
  const fast = join(wren, 0.4, brine, 40);
  const two = join(otter, 0.4, lantern, 30);

  // Wren was shaken two days ago, after its belts were tightened.
  const wrenShaken = benches(db).get(fast)!.bench;
  for (const axis of ['x', 'y'] as const) {
    const file = makeShakeFile(wrenShaken, { axis });
    if (!file.ok) throw new Error(JSON.stringify(file.problems));
    const record = recordOf(file.value.text, wrenShaken, drawTruths(wrenShaken, 47));
    if (!record.ok) throw new Error(JSON.stringify(record.problems));
    const found = keptOf(analyse(record.value, { axis, marks: file.value.marks }));
    const row = { benchId: fast, axis, name: `wren-${axis}.csv`, found, simulated: null };
    shakes(db).add({ ...row, takenAt: ago(2) });
  }

  // Wren's hood for a lantern keeper: found three weeks ago, after an older value.
  const wrenBench = benches(db).get(fast)!.bench;
  const put = (setting: Setting, value: number, low: number, high: number, days: number) => {
    const tuned = Object.fromEntries(
      ledger(db)
        .current(fast)
        .map((entry) => [entry.setting, entry.value]),
    );
    const kind = kinds().find(({ finds }) => finds[0] === setting)!;
    ledger(db).put({
      benchId: fast,
      setting,
      value,
      low,
      high,
      base: baseOf({ ...wrenBench, tuned }, kind.standsOn),
      ladderId: null,
      simulated: false,
      foundAt: ago(days),
    });
  };
  put('zOffset', -0.03, -0.05, -0.02, 39);
  put('rotation', 7.71, 7.68, 7.74, 39);
  put('nozzle', 252, 247, 258, 38);
  put('flow', 0.97, 0.96, 0.99, 30);
  put('retraction', 0.7, 0.55, 0.75, 29);
  put('nozzle', 244, 242, 247, 21);

  // Heron's joints in Moss: printed twice, read twice, the value not put down yet.
  const bench = benches(db).get(main)!.bench;
  const kind = kindOf('temperature');
  if (!kind.ok) throw new Error('no temperature kind');
  const spec = kind.value.defaults(bench) as Record<string, number>;
  const ladder = ladders(db).add({
    benchId: main,
    kind: 'temperature',
    spec,
    weights: defaultWeights(kind.value),
    createdAt: ago(4),
  });
  const made = makeLadder('temperature', spec, bench);
  if (!made.ok) throw new Error(JSON.stringify(made.problems));
  const file = files(db).keep(ladder, made.value.text, made.value.plan, ago(4));
  const random = seeded(4);
  for (const days of [3, 1]) {
    const print = prints(db).add(file, ago(days));
    const reading = readings(db).start(print, 'Ines', ago(days));
    made.value.plan.rungs.forEach(({ index, set }) => {
      for (const { name } of kind.value.criteria) {
        const score = demoScore(name, set.nozzle!) + 0.4 * normal(random);
        const whole = Math.max(0, Math.min(4, Math.round(score))) as Score;
        readings(db).score(reading, { rung: index, criterion: name, score: whole }, ago(days));
      }
    });
  }
  // Newt's soft sleeves: tried on the understudy first, scored by its eye.
  const newtId = benches(db).join(newt, 0.6, eel, ago(12));
  tryOut(newtId, 'temperature', READY[1]!, 'eel', 2);
  // Wren's hood again: pressure advance by hairpins, and Otter's second nozzle, on the understudy as well.
  tryOut(fast, 'advance-hairpins', READY[0]!, 'brine', 1);
  // Brine strings: heat and retraction in one print.
  tryOut(fast, 'heat-retraction', READY[0]!, 'brine', 0.5);
  tryOut(two, 'nozzle-alignment', READY[0]!, 'lantern', 1);
  // And how pressure advance falls with speed.
  tryOut(fast, 'advance-map', READY[0]!, 'brine', 0.2, { from: 0.018, to: 0.09, step: 0.012 });
  // What the last temperature brought.
  tryOut(fast, 'proof', READY[0]!, 'brine', 0.1, { beforeNozzle: 268, seed: 3 });
  places(db).set('bench', String(main));
})();
// Their drawn pictures go through the loupe.
for (const { print, plan, at } of drawnPrints) {
  const photo = await pixelsOf(prints(db).picture(print)!);
  if (!photo.ok) throw new Error(JSON.stringify(photo.problems));
  const looked = lookAt(photo.value, plan, { corners: drawnCorners(plan, photo.value) });
  const strip = looked.flat && (await jpegOf(looked.flat, 82));
  looks(db).put({ printId: print, photoId: null, found: keptLook(looked), strip, takenAt: at });
  looks(db).count(print, null, ['threads', 'sag']);
}
// A lantern post that Ines sliced herself, to make a ladder of.
await kept(db).keep(benches(db).first()!, 'lantern-post.gcode', Buffer.from(lanternPost()), ago(2));
db.close();

/** Six storeys with a window each on a plate, under a little roof. Invented, and sliced by the slicer of the tests. */
function lanternPost(): string {
  const form = towerOf(
    { base: 1.4, section: 8, count: 6, cap: 2.4 },
    SECTIONS.window!(0.6, seeded(3)),
    [rectangle(-4, -5, 42, 22)],
    (above) => [rectangle(4 + above, 2 + above, 18 - 2 * above, 8 - 2 * above)],
  );
  return slice(form, {
    places: [{ x: 93, y: 104 }],
    retraction: 5,
    lift: 0.2,
    accelerations: true,
    meddles: [20],
    shortest: 6,
    start: [
      '; lantern post, sliced by Ines',
      '; filament_diameter = 1.75',
      'M140 S60',
      'M104 S212',
      'G28',
      'M190 S60',
      'M109 S212',
      'G90',
    ],
  });
}

/** A ladder printed on an understudy and read by its eye; nothing of it stands in the ledger yet. */
function tryOut(
  benchId: number,
  kindId: string,
  { name, seed }: (typeof READY)[number],
  colour: string,
  days: number,
  spec: Record<string, number> = {},
): void {
  const bench = benches(db).get(benchId)!.bench;
  const found = kindOf(kindId);
  const made = makeLadder(kindId, spec, bench);
  if (!made.ok || !found.ok) throw new Error(`${kindId} cannot be made`);
  const kind = found.value;
  const { text, plan, trace } = made.value;
  const ladder = ladders(db).add({
    benchId,
    kind: kindId,
    spec: plan.spec as Record<string, number>,
    weights: defaultWeights(kind),
    createdAt: ago(days),
  });
  const file = files(db).keep(ladder, text, plan, ago(days));
  const printed = printTrace(trace, bench, drawTruths(bench, seed));
  const print = prints(db).add(file, ago(days), { name, seed });
  const { rgba, width, height } = drawPrint(printed, {
    view: plan.view,
    frame: sightOf(trace, plan),
    filament: FILAMENT_COLOURS[colour]!,
  });
  const png = new PNG({ width, height });
  png.data = Buffer.from(rgba.buffer);
  prints(db).setPicture(print, PNG.sync.write(png));
  if (kindId === 'temperature') drawnPrints.push({ print, plan, at: ago(days) });
  const look = readings(db).start(print, 'the understudy’s eye', ago(days));
  // Of a map the best figure of each cell is tapped, and nothing is scored.
  const names = kind.rule.kind === 'map' ? [] : kind.criteria.map((one) => one.name);
  const seen = scored(printed, placesOf(plan), names, 4).scores;
  for (const criterion of names)
    seen[criterion]!.forEach((score, rung) =>
      readings(db).score(look, { rung, criterion, score }, ago(days)),
    );
  const keys = (kind.measures ?? []).map(({ key }) => key);
  for (const [key, values] of Object.entries(measure(keys, printed, plan, seed)))
    readings(db).measure(look, key, values, ago(days));
}

/** What somebody who looks well would say of Moss: stringing when hot, poor bond when cold. Invented. */
function demoScore(criterion: string, nozzle: number): number {
  const hot = (nozzle - 205) / 10;
  const slope: Record<string, number> = {
    stringing: 3.8 - 1.5 * Math.max(0, hot + 0.3),
    overhang: 3.9 - 1.1 * Math.max(0, hot),
    bridging: 3.9 - 1.2 * Math.max(0, hot - 0.2),
    surface: 3.9 - 1.0 * Math.abs(hot),
    gloss: 3.8 - 0.8 * Math.max(0, -hot - 0.2),
    'layer adhesion': 3.9 - 2.2 * Math.max(0, -hot - 0.4),
  };
  return slope[criterion] ?? 2;
}
