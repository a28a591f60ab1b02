import { notFound } from 'next/navigation';
import Link from 'next/link';
import { benchTitle } from '@/core/bench/bench';
import { climb } from '@/core/ladders/climb';
import type { Wish } from '@/core/graft/recipe';
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
        before={before ? movedTo(before.wish, query) : null}
        make={makeGraft.bind(null, file.id, own)}
      />
    </>
  );
}

/** The wish of a ladder over another range, for the next one: its sections stay. */
function movedTo(
  wish: Wish,
  { from, to, step }: { from?: string; to?: string; step?: string },
): Wish {
  const range = { from: Number(from), to: Number(to), step: Number(step) };
  const [setting] = Object.keys(wish.rows[0]!.set);
  if (!setting || !from || !(range.step > 0) || !Number.isFinite(range.from + range.to))
    return wish;
  const values = climb(range);
  const rows = wish.rows.slice(0, values.length);
  return {
    ...wish,
    rows: rows.map((row, i) => ({ ...row, set: { ...row.set, [setting]: values[i]! } })),
  };
}
