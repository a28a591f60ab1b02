import { redirect } from 'next/navigation';
import Link from 'next/link';
import { Header } from '@/ui/common/Header';
import { store } from './server/store';

/** The bench that was open last; without one, what a bench is and how to make the first. */
export default function Home() {
  const { benches, places } = store();
  const last = Number(places.get('bench'));
  const open = benches.has(last) ? last : benches.first();
  if (open !== null) redirect(`/bench/${open}`);
  return (
    <>
      <Header
        title="Ash Ladder"
        ways={[
          { href: '/through', label: 'See through' },
          { href: '/things', label: 'Spools and machines' },
        ]}
      />
      <main className="mx-auto max-w-2xl px-4 py-14">
        <h1>A handful of numbers decide how a print looks</h1>
        <p className="mt-4 text-lg">
          Each is found the same way: print one object on which that number climbs in steps, look at
          every step, choose. Ash Ladder makes the object, helps you look, works out the value and
          how sure it is, and keeps it for that machine, nozzle and filament.
        </p>
        <p className="mt-4 text-lg">Those three together are a bench. Begin with one.</p>
        <div className="mt-8 flex flex-wrap gap-3">
          <Link href="/bench/new" className="btn-main">
            Set up a bench
          </Link>
          <Link href="/through" className="btn-quiet">
            Open a G-code file
          </Link>
        </div>
      </main>
    </>
  );
}
