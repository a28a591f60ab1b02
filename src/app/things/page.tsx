import Link from 'next/link';
import { MACHINE_KINDS, MACHINES } from '@/core/bench/presets';
import { benchTitle } from '@/core/bench/bench';
import { bedBox } from '@/core/bench/bed';
import { short } from '@/core/numbers';
import { putAway } from '../actions/things';
import { store } from '../server/store';
import { ThingsHeader } from '../server/things-header';
import { ThingList } from '@/ui/things/ThingList';

export const metadata = { title: 'Spools and machines' };

export default function ThingsPage() {
  const { machines, filaments, benches } = store();
  return (
    <>
      <ThingsHeader />
      <main className="grid gap-x-12 gap-y-10 px-4 py-8 lg:grid-cols-3 lg:px-7">
        <h1 className="sr-only">Spools and machines</h1>
        <ThingList
          title="Machines"
          shelf="machines"
          putAway={putAway}
          things={machines.all().map(({ id, body }) => {
            const box = bedBox(body.bed);
            const size = `${short(box.maxX - box.minX, 0)} × ${short(box.maxY - box.minY, 0)} × ${short(body.height, 0)} mm`;
            return {
              id,
              name: body.name,
              about: `${size}${body.bed.shape === 'round' ? ', round' : ''}`,
              href: `/things/machine/${id}`,
            };
          })}
          empty="A machine is described once: bed, limits, feeder, the commands that it takes."
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
          shelf="filaments"
          putAway={putAway}
          things={filaments.all().map(({ id, body }) => ({
            id,
            name: body.name,
            about: `${body.material}, ${body.nozzle.min} to ${body.nozzle.max} °C`,
            href: `/things/filament/${id}`,
          }))}
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
          shelf="benches"
          putAway={putAway}
          things={benches.all().map(({ id, bench }) => ({
            id,
            name: benchTitle(bench),
            about: '',
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
      </main>
    </>
  );
}
