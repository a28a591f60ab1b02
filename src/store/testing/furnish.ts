/** A store with something in it, for tests. */

import { FILAMENTS, MACHINES } from '../../core/bench/presets';
import { makeTemperature } from '../../core/testing';
import { benches } from '../benches';
import { files, ladders, prints } from '../ladders';
import type { Db } from '../open';
import type { NewPhoto } from '../photos';
import { filaments, machines } from '../things';

/** A picture as it is kept; its bytes are none. */
export const PHOTO: Omit<NewPhoto, 'uid'> = {
  jpeg: Uint8Array.from([255, 216, 1]),
  preview: Uint8Array.from([255, 216, 2]),
  width: 4000,
  height: 3000,
  reader: 'Mara',
  takenAt: '2026-11-02T09:00:00.000Z',
};

/** A bench with one ladder, one file and one print of it; nothing is read yet. */
export function furnish(db: Db, at: string, name = MACHINES.heron.name) {
  const machine = machines(db).add({ ...MACHINES.heron, name });
  const filament = filaments(db).add(FILAMENTS.moss);
  const bench = benches(db).join(machine, 0.4, filament, at);
  const spec = { from: 205, to: 200 };
  const ladder = ladders(db).add({
    benchId: bench,
    kind: 'temperature',
    spec,
    weights: { stringing: 1 },
    createdAt: at,
  });
  const made = makeTemperature(spec);
  const file = files(db).keep(ladder, made.text, made.plan, at);
  return { machine, filament, bench, ladder, made, file, print: prints(db).add(file, at) };
}
