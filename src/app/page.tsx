import { redirect } from 'next/navigation';
import Link from 'next/link';
import { Header } from '@/ui/common/Header';
import { store } from './server/store';

/** The bench that was open last; without one, what a bench is and how to make the first. */
export default function Home() {
  const { benches, places } = store();
  const all = benches.all();
  const last = Number(places.get('bench'));
  const open = all.find(({ id }) => id === last) ?? all[0];
  if (open) redirect(`/bench/${open.id}`);
  return (
    <>
      <Header title="Ash Ladder" ways={[{ href: '/things', label: 'Spools and machines' }]} />
      <main className="mx-auto max-w-2xl px-4 py-14">
        <h1>A handful of numbers decide how a print looks</h1>
        <p className="mt-4 text-lg">
          Each is found the same way: print one object on which that number climbs in steps, look at
          every step, choose. Ash Ladder makes the object, helps you look, works out the value and
          how sure it is, and keeps it for that machine, nozzle and filament.
        </p>
        <p className="mt-4 text-lg">Those three together are a bench. Begin with one.</p>
        <Link href="/bench/new" className="btn-main mt-8">
          Set up a bench
        </Link>
      </main>
    </>
  );
}
