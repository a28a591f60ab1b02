import type { Metadata } from 'next';
import Link from 'next/link';
import { MACHINE_KINDS, MACHINES } from '@/core/bench/presets';
import { bedBox } from '@/core/bench/bed';
import { short } from '@/core/numbers';
import { archiveIt } from '../actions/archive';
import { store } from '../server/store';
import { ThingsHeader } from '../server/things-header';
import { Everything } from '@/ui/things/Everything';
import { ThingList } from '@/ui/things/ThingList';

export const metadata: Metadata = { title: 'Spools and machines' };

/** Things of a shelf that are listed at once, and all that a page can hold. */
const [SHORT, LONG] = [25, 400];
/** From so many on, one looks for a name. */
const MANY = 12;
const values = (count: number): string => (count === 1 ? '1 value' : `${count} values`);
type Shelf = 'machines' | 'filaments' | 'benches';

type Props = { searchParams: Promise<{ all?: string; like?: string }> };

export default async function ThingsPage({ searchParams }: Props) {
  const query = await searchParams;
  const like = String(query.like ?? '').slice(0, 80);
  const most = (shelf: Shelf) => (query.all === shelf || like !== '' ? LONG : SHORT);
  const { machines, filaments, benches } = store();
  const more = (shelf: Shelf, count: number) =>
    like === '' && count > most(shelf) ? { count, href: `/things?all=${shelf}` } : null;
  const large = Math.max(machines.count(), filaments.count(), benches.count()) > MANY;
  return (
    <>
      <ThingsHeader />
      <main className="grid grid-cols-[minmax(0,1fr)] gap-x-12 gap-y-10 px-4 py-8 lg:grid-cols-3 lg:px-7">
        <h1 className="sr-only">Spools and machines</h1>
        {large && (
          <form className="col-span-full flex gap-2" role="search">
            <input
              name="like"
              className="input max-w-72"
              defaultValue={like}
              placeholder="Part of a name"
              aria-label="Part of a name"
            />
            <button type="submit" className="btn-quiet">
              Search
            </button>
          </form>
        )}
        <ThingList
          title="Machines"
          shelf="machine"
          archive={archiveIt}
          more={more('machines', machines.count())}
          things={machines.newest(most('machines'), like).map(({ id, body }) => {
            const { name, bed, height } = body;
            const box = bedBox(bed);
            const size = `${short(box.maxX - box.minX, 0)} × ${short(box.maxY - box.minY, 0)} × ${short(height, 0)} mm`;
            return {
              id,
              name,
              about: `${size}${bed.shape === 'round' ? ', round' : ''}`,
              href: `/things/machine/${id}`,
            };
          })}
          empty="A machine is described once: bed, limits, extruder and the commands it takes."
        >
          {Object.keys(MACHINES).map((preset) => (
            <li key={preset}>
              <Link
                href={`/things/machine/new?from=${preset}`}
                className="flex min-h-11 items-center px-3"
              >
                {MACHINE_KINDS[preset as keyof typeof MACHINE_KINDS]}
              </Link>
            </li>
          ))}
        </ThingList>
        <ThingList
          title="Filaments"
          shelf="filament"
          archive={archiveIt}
          more={more('filaments', filaments.count())}
          things={filaments.newest(most('filaments'), like).map(({ id, body }) => {
            const { name, material, nozzle } = body;
            return {
              id,
              name,
              about: [
                `${material}, ${nozzle.min} to ${nozzle.max} °C`,
                ...benches
                  .tunedOf(id)
                  .map(
                    ({ machine, bore, tuned }) => `${values(tuned)} on ${machine} ${short(bore)}`,
                  ),
              ].join('; '),
              href: `/things/filament/${id}`,
            };
          })}
          empty="A filament is described once: diameter, density, the temperatures on its label."
        >
          <li>
            <Link href="/things/filament/new" className="flex min-h-11 items-center px-3">
              A new filament
            </Link>
          </li>
        </ThingList>
        <ThingList
          title="Benches"
          shelf="bench"
          archive={archiveIt}
          more={more('benches', benches.count())}
          things={benches.titles(most('benches'), like).map(({ id, title, tuned }) => ({
            id,
            name: title,
            about: tuned === 0 ? 'nothing tuned yet' : `${values(tuned)} tuned`,
            href: `/bench/${id}`,
          }))}
          empty="A bench joins a machine, a nozzle and a filament."
        >
          <li>
            <Link href="/bench/new" className="flex min-h-11 items-center px-3">
              A new bench
            </Link>
          </li>
        </ThingList>
        <Everything />
      </main>
    </>
  );
}
