/** Fills a database with the Tidewater Puppet Workshop: machines, spools, benches, one ladder half way. */

import { join } from 'node:path';
import { FILAMENTS, MACHINES } from '../src/core/bench/presets';
import { frameOf } from '../src/core/view/ladder-picture';
import { scored } from '../src/understudy/eye';
import { drawPrint, FILAMENT_COLOURS } from '../src/understudy/picture';
import { printTrace } from '../src/understudy/print';
import { drawTruths } from '../src/understudy/truths';
import { READY } from '../src/understudy/understudies';
import { PNG } from 'pngjs';
import { makeLadder } from '../src/core/ladders/make';
import { kindOf } from '../src/core/ladders/registry';
import { defaultWeights } from '../src/core/reading/find';
import type { Score } from '../src/core/reading/types';
import { normal, seeded } from '../src/core/random';
import { baseOf } from '../src/core/route/base';
import { benches } from '../src/store/benches';
import { files, ladders, prints } from '../src/store/ladders';
import { ledger } from '../src/store/ledger';
import { migrationsIn, openStore } from '../src/store/open';
import { places } from '../src/store/places';
import { readings } from '../src/store/readings';
import { filaments, machines } from '../src/store/things';

const [folder] = process.argv.slice(2);
if (!folder) throw new Error('say where: fill-demo.ts FOLDER');
const opened = openStore(join(folder, 'ash.sqlite'), migrationsIn('src/store/migrations'));
if (!opened.ok) throw new Error(JSON.stringify(opened.problems));
const db = opened.value;

const NOW = Date.now();
const ago = (days: number): string => new Date(NOW - days * 86_400_000).toISOString();

db.transaction(() => {
  const machineIds = Object.values(MACHINES).map((machine) => machines(db).add(machine));
  const filamentIds = Object.values(FILAMENTS).map((filament) => filaments(db).add(filament));
  const [heron, wren, otter, newt] = machineIds as [number, number, number, number];
  const [moss, lantern, brine, eel] = filamentIds as [number, number, number, number];
  const join = (machine: number, bore: number, filament: number, days: number) =>
    benches(db).join(machine, bore, filament, ago(days));
  const main = join(heron, 0.4, moss, 60);
  const fast = join(wren, 0.4, brine, 40);
  join(otter, 0.4, lantern, 30);

  // Wren's hood for a lantern keeper: found three weeks ago, after an older value.
  const wrenBench = benches(db).get(fast)!.bench;
  const put = (value: number, low: number, high: number, days: number) =>
    ledger(db).put({
      benchId: fast,
      setting: 'nozzle',
      value,
      low,
      high,
      base: baseOf(wrenBench),
      ladderId: null,
      simulated: false,
      foundAt: ago(days),
    });
  put(252, 247, 258, 38);
  put(248, 246, 251, 21);

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
  // Newt's soft sleeves: tried on the understudy first, scored by its eye, and put down as what it is.
  const newtId = benches(db).join(newt, 0.6, eel, ago(12));
  const newtBench = benches(db).get(newtId)!.bench;
  const trySpec = kind.value.defaults(newtBench) as Record<string, number>;
  const tried = ladders(db).add({
    benchId: newtId,
    kind: 'temperature',
    spec: trySpec,
    weights: defaultWeights(kind.value),
    createdAt: ago(2),
  });
  const sleeve = makeLadder('temperature', trySpec, newtBench);
  if (!sleeve.ok) throw new Error(JSON.stringify(sleeve.problems));
  const sleeveFile = files(db).keep(tried, sleeve.value.text, sleeve.value.plan, ago(2));
  const { name, seed } = READY[1]!;
  const printed = printTrace(sleeve.value.trace, newtBench, drawTruths(newtBench, seed));
  const simulated = prints(db).add(sleeveFile, ago(2), { name, seed });
  const { minX, maxX, height } = frameOf(sleeve.value.trace, sleeve.value.plan);
  const picture = drawPrint(printed, {
    view: 'front',
    frame: { left: minX, right: maxX, bottom: 0, top: height },
    filament: FILAMENT_COLOURS.eel,
  });
  const png = new PNG({ width: picture.width, height: picture.height });
  png.data = Buffer.from(picture.rgba.buffer);
  prints(db).setPicture(simulated, PNG.sync.write(png));
  const look = readings(db).start(simulated, 'the understudy’s eye', ago(2));
  const names = kind.value.criteria.map((one) => one.name);
  const seen = scored(printed, sleeve.value.plan.rungs, names, 4).scores;
  for (const criterion of names)
    seen[criterion]!.forEach((score, rung) =>
      readings(db).score(look, { rung, criterion, score }, ago(2)),
    );
  places(db).set('bench', String(main));
})();
db.close();

/** What somebody who looks well would say of Moss: hairs when hot, poor bond when cold. Invented. */
function demoScore(criterion: string, nozzle: number): number {
  const hot = (nozzle - 205) / 10;
  const slope: Record<string, number> = {
    hairs: 3.8 - 1.5 * Math.max(0, hot + 0.3),
    overhang: 3.9 - 1.1 * Math.max(0, hot),
    bridge: 3.9 - 1.2 * Math.max(0, hot - 0.2),
    surface: 3.9 - 1.0 * Math.abs(hot),
    gloss: 3.8 - 0.8 * Math.max(0, -hot - 0.2),
    snap: 3.9 - 2.2 * Math.max(0, -hot - 0.4),
  };
  return slope[criterion] ?? 2;
}
