import { redirect } from 'next/navigation';
import Link from 'next/link';
import { ActButton } from '@/ui/common/ActButton';
import { FirstLadder } from '@/ui/bench/FirstLadder';
import { tryOut } from './actions/ladders';
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
          { href: '/inspect', label: 'Inspect' },
          { href: '/things', label: 'Spools and machines' },
        ]}
      />
      <main className="mx-auto grid max-w-6xl items-center gap-x-14 gap-y-8 px-4 py-8 lg:grid-cols-[auto_minmax(0,1fr)] lg:py-10">
        <FirstLadder />
        <div className="max-w-2xl max-lg:order-first">
          <h1>A handful of numbers decide how a print looks</h1>
          <p className="mt-4 text-lg">
            Each is found the same way: print one object on which that number climbs in steps, look
            at every step, choose. Ash Ladder makes the object, helps you look, works out the value
            and how sure it is, and keeps it for that machine, nozzle and filament.
          </p>
          <p className="mt-4 text-lg">
            Those three together are a bench. Set up yours: it takes less than a minute.
          </p>
          <div className="mt-6 flex flex-wrap gap-3">
            <Link href="/bench/new" className="btn-main">
              Set up a bench
            </Link>
            <ActButton act={tryOut} needs="change">
              Try it without a printer
            </ActButton>
            <Link href="/inspect" className="btn-quiet">
              Inspect a G-code file
            </Link>
          </div>
          <p className="soft mt-3">
            Without a printer, a simulated machine prints for you. It has hidden values of its own
            that you can find.
          </p>
        </div>
      </main>
    </>
  );
}
