import { makeBench } from '../../actions/things';
import { store } from '../../server/store';
import { mainWays } from '../../server/ways';
import { NewBench } from '@/ui/bench/NewBench';
import { Header } from '@/ui/common/Header';

export const metadata = { title: 'New bench' };

export default function NewBenchPage() {
  const { machines, filaments } = store();
  return (
    <>
      <Header title="Ash Ladder" titleHref="/" ways={mainWays(null)} />
      <main>
        <NewBench
          machines={machines.all().map(({ id, body }) => ({ id, name: body.name }))}
          filaments={filaments.all().map(({ id, body }) => ({ id, name: body.name }))}
          make={makeBench}
        />
      </main>
    </>
  );
}
