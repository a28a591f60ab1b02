/**
 * `tsx scripts/fill-large.ts FOLDER [PICTURES] [JOBS]`: a store as large as a club's after years: 1,000 benches, 50,000
 * prints; pictures of 0.5 MB and jobs over the wire as many as are asked for.
 */

import { randomBytes } from 'node:crypto';
import { join } from 'node:path';
import { joinBench } from '../src/core/bench/bench';
import { FILAMENTS, MACHINES } from '../src/core/bench/presets';
import { makeLadder } from '../src/core/ladders/make';
import { seeded } from '../src/core/random';
import type { Score } from '../src/core/reading/types';
import { baseOf } from '../src/core/route/base';
import { benches } from '../src/store/benches';
import { files, ladders, prints } from '../src/store/ladders';
import { ledger } from '../src/store/ledger';
import { migrationsIn, openStore } from '../src/store/open';
import { photos } from '../src/store/photos';
import { readings } from '../src/store/readings';
import { filaments, machines } from '../src/store/things';

const [MACHINES_MADE, SPOOLS, LADDERS, COPIES] = [20, 50, 10, 5];

/** Bytes of a picture, and of the smaller one to look at. */
const [PICTURE, PREVIEW] = [500_000, 20_000];

const [folder, pictures = '0', jobs = '0'] = process.argv.slice(2);
if (!folder) throw new Error('say where: fill-large.ts FOLDER');
const opened = openStore(join(folder, 'ash.sqlite'), migrationsIn('src/store/migrations'));
if (!opened.ok) throw new Error(JSON.stringify(opened.problems));
const db = opened.value;
const random = seeded(26);
const at = (n: number) => new Date(Date.UTC(2024, 0, 1) + n * 60_000).toISOString();
const bench = joinBench(MACHINES.heron, { diameter: 0.4 }, FILAMENTS.moss);
const made = makeLadder('temperature', { from: 215, to: 195 }, bench);
if (!made.ok) throw new Error(JSON.stringify(made.problems));
const { text, plan } = made.value;

let count = 0;
db.transaction(() => {
  const [machine, filament, join, ladder, file, print, reading, values] = [
    machines(db),
    filaments(db),
    benches(db),
    ladders(db),
    files(db),
    prints(db),
    readings(db),
    ledger(db),
  ];
  const machineIds = Array.from({ length: MACHINES_MADE }, (_, i) =>
    machine.add({ ...MACHINES.heron, name: `Heron ${i + 1}` }),
  );
  const spoolIds = Array.from({ length: SPOOLS }, (_, i) =>
    filament.add({ ...FILAMENTS.moss, name: `Moss batch ${i + 1}` }),
  );
  for (const machineId of machineIds)
    for (const spool of spoolIds) {
      const benchId = join.join(machineId, 0.4, spool, at(count));
      for (let n = 0; n < LADDERS; n++) {
        const ladderId = ladder.add({
          benchId,
          kind: 'temperature',
          spec: plan.spec as Record<string, number>,
          weights: { stringing: 0.8, 'layer adhesion': 0.7 },
          createdAt: at(count),
        });
        const fileId = file.keep(ladderId, text, plan, at(count));
        for (let copy = 0; copy < COPIES; copy++) {
          const printId = print.add(fileId, at(count++));
          const readingId = reading.start(printId, '', at(count));
          // One copy of each ladder was scored; the others wait.
          if (copy > 0) continue;
          for (const { index } of plan.rungs)
            for (const criterion of ['stringing', 'layer adhesion'] as const) {
              const score = Math.floor(random() * 5) as Score;
              reading.score(readingId, { rung: index, criterion, score }, at(count));
            }
        }
        values.put({
          benchId,
          setting: 'nozzle',
          value: 200 + n,
          low: 198 + n,
          high: 202 + n,
          base: baseOf(bench),
          ladderId,
          simulated: false,
          foundAt: at(count),
        });
      }
    }
})();

const photo = photos(db);
for (let n = 0; n < Number(pictures); n++) {
  const [jpeg, preview] = [randomBytes(PICTURE), randomBytes(PREVIEW)];
  // Every fifth print of every ladder has one.
  const print = 1 + ((n * 5) % count);
  photo.add(print, {
    uid: `picture ${n}`,
    jpeg,
    preview,
    width: 4000,
    height: 3000,
    reader: 'Mara',
    takenAt: at(n),
  });
}
// A hundred are in the archive.
db.exec(`update photo set deleted_at = '2026-01-01' where id % 100 = 0`);
const sent = db.prepare(
  `insert into job (machine_id, file_id, name, state, line, sure, lines, started_at, ended_at, print_id)
   values (?, ?, 'temperature.gcode', 'finished', 900, 900, 900, ?, ?, ?)`,
);
const heat = db.prepare(`insert into heat (job_id, rows) values (?, ?)`);
const rows = JSON.stringify(Array.from({ length: 900 }, (_, i) => [2 * i, 205, 205, 60, 60]));
db.transaction(() => {
  for (let n = 0; n < Number(jobs); n++) {
    const print = 1 + ((n * 10) % count);
    const file = Math.ceil(print / COPIES);
    const job = sent.run(1 + (n % MACHINES_MADE), file, at(n), at(n + 30), print);
    heat.run(job.lastInsertRowid, rows);
  }
})();
db.close();
process.stdout.write(
  `${MACHINES_MADE * SPOOLS} benches, ${count} prints, ${pictures} pictures, ${jobs} jobs\n`,
);
