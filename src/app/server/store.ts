/** The one open database of this process. */

import 'server-only';
import { join } from 'node:path';
import { problemLine } from '@/core/result';
import { archive } from '@/store/archive';
import { benches } from '@/store/benches';
import { devices } from '@/store/devices';
import { grafts } from '@/store/grafts';
import { identity } from '@/store/identity';
import { kept } from '@/store/kept';
import { files, ladders, prints } from '@/store/ladders';
import { ledger } from '@/store/ledger';
import { migrationsIn, openStore } from '@/store/open';
import { own } from '@/store/own';
import { looks } from '@/store/looks';
import { photos } from '@/store/photos';
import { places } from '@/store/places';
import { readings } from '@/store/readings';
import { filaments, machines } from '@/store/things';
import { shakes } from '@/store/shakes';
import { wires } from '@/store/wires';

export const dataFolder = (): string => process.env.ASH_DATA ?? './data';
export const databasePath = (): string => join(dataFolder(), 'ash.sqlite');
export const migrations = () => migrationsIn(join(process.cwd(), 'src/store/migrations'));

function makeStore() {
  const opened = openStore(databasePath(), migrations());
  if (!opened.ok) throw new Error(opened.problems.map(problemLine).join(' '));
  const db = opened.value;
  return {
    db,
    identity: identity(db),
    machines: machines(db),
    filaments: filaments(db),
    benches: benches(db),
    ladders: ladders(db),
    files: files(db),
    kept: kept(db),
    grafts: grafts(db),
    prints: prints(db),
    readings: readings(db),
    ledger: ledger(db),
    photos: photos(db),
    looks: looks(db),
    places: places(db),
    own: own(db),
    devices: devices(db),
    archive: archive(db),
    wires: wires(db),
    shakes: shakes(db),
  };
}

export type Store = ReturnType<typeof makeStore>;

// Kept on the global object: route handlers and pages are bundled apart but share one process.
const shared = globalThis as { ashStore?: Store };

export const store = (): Store => (shared.ashStore ??= makeStore());

/** Whether everything is being replaced: nothing else is written meanwhile. */
export const isReplacing = (): boolean =>
  (globalThis as { ashReplacing?: boolean }).ashReplacing === true;

/** Which data there is now. */
export const identityHere = (): string => store().identity();

/** Now, as the store keeps it. */
export const now = (): string => new Date().toISOString();
