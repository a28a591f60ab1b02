import { notFound } from 'next/navigation';
import Link from 'next/link';
import { benchTitle } from '@/core/bench/bench';
import { overRange } from '@/core/graft/wishes';
import { makeGraft } from '../../actions/grafts';
import { idOf } from '../../server/ladder';
import { store } from '../../server/store';
import { Header } from '@/ui/common/Header';
import { GraftScreen } from '@/ui/graft/GraftScreen';

export const metadata = { title: 'Sections' };

type Props = {
  params: Promise<{ id: string }>;
  searchParams: Promise<{ ladder?: string; from?: string; to?: string; step?: string }>;
};

export default async function GraftPage({ params, searchParams }: Props) {
  const { kept, benches, grafts, ladders, files, prints } = store();
  const file = kept.get(idOf((await params).id));
  const bench = file && benches.get(file.benchId);
  if (!file || !bench) notFound();
  const query = await searchParams;
  const [from, to, step] = [query.from, query.to, query.step].map((one) => Number(one ?? NaN)) as [
    number,
    number,
    number,
  ];
  const ladder = ladders.get(idOf(query.ladder ?? ''));
  const before = ladder && grafts.of(ladder.id);
  const own = ladder && ladder.benchId === bench.id ? ladder.id : null;
  const steps = own
    ? [
        ['print', 'Print', files.any(own)],
        ['read', 'Score', prints.any(own)],
        ['finding', 'Finding', prints.any(own)],
      ]
    : [];
  return (
    <>
      <Header
        title={file.name}
        sub={
          <Link href={`/bench/${bench.id}`} className="hover:underline">
            <span aria-hidden>‹ </span>
            {benchTitle(bench.bench)}
          </Link>
        }
        ways={[
          {
            href: `/graft/${file.id}${own ? `?ladder=${own}` : ''}`,
            label: 'Sections',
            here: true,
            open: true,
          },
          ...(steps as [string, string, boolean][]).map(([path, label, open]) => ({
            href: `/ladder/${own}/${path}`,
            label,
            here: false,
            open,
          })),
        ]}
      />
      <GraftScreen
        key={`${file.id} ${query.ladder ?? ''} ${query.from ?? ''}`}
        keptId={file.id}
        name={file.name}
        bench={bench.bench}
        before={before ? overRange(before.wish, { from, to, step }) : null}
        make={makeGraft.bind(null, file.id, own)}
      />
    </>
  );
}
