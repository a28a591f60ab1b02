import { makeBench } from '../../actions/things';
import { store } from '../../server/store';
import { mainWays } from '../../server/ways';
import { NewBench } from '@/ui/bench/NewBench';
import { Header } from '@/ui/common/Header';

/** Machines, and spools, to choose from. */
const MOST_NAMES = 400;

export const metadata = { title: 'New bench' };

export default function NewBenchPage() {
  const { machines, filaments } = store();
  return (
    <>
      <Header title="Ash Ladder" titleHref="/" ways={mainWays(null)} />
      <main>
        <NewBench
          machines={machines.names(MOST_NAMES)}
          filaments={filaments.names(MOST_NAMES)}
          make={makeBench}
        />
      </main>
    </>
  );
}
