import { redirect } from 'next/navigation';
import { benchTitle } from '@/core/bench/bench';
import { CRITERIA } from '@/core/ladders/criteria';
import { short } from '@/core/numbers';
import { SETTINGS } from '@/core/settings';
import { ladderView } from '../../../server/ladder';
import { store } from '../../../server/store';
import { PrintPicture } from '@/ui/common/PrintPicture';
import { PrintButton } from '@/ui/print/PrintButton';

export const metadata = { title: 'Reading sheet' };

/** One page of paper: which value is where, and room for scores. */
export default async function SheetPage({ params }: { params: Promise<{ id: string }> }) {
  const { ladder, kind, bench } = ladderView((await params).id);
  const file = store().files.newestOf(ladder.id);
  if (!file) redirect(`/ladder/${ladder.id}/design`);
  const { plan } = file;
  const rows = [...plan.rungs].reverse();
  return (
    <main className="mx-auto max-w-4xl px-6 py-6">
      <div className="no-print mb-4">
        <PrintButton back={`/ladder/${ladder.id}/print`} />
      </div>
      <h1>{kind.title}</h1>
      <p className="mb-4">
        {benchTitle(bench.bench)} · {plan.file}
      </p>
      <div className="flex gap-4">
        <div className="shrink-0" style={{ width: `${40}mm` }}>
          <PrintPicture fileId={file.id} className="w-full" />
        </div>
        <table className="flex-1 border-collapse text-sm">
          <thead>
            <tr>
              <th className="border p-1 text-left">
                {SETTINGS[kind.setting].title}, {SETTINGS[kind.setting].unit}
              </th>
              <th className="border p-1 text-left">height, mm</th>
              {kind.criteria.map(({ name }) => (
                <th key={name} className="border p-1">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(({ index, set, z }) => (
              <tr key={index} className="h-9">
                <td className="border p-1 text-base font-bold">{short(set[kind.setting]!)}</td>
                <td className="border p-1">
                  {short(z.from, 1)} to {short(z.to, 1)}
                </td>
                {kind.criteria.map(({ name }) => (
                  <td key={name} className="w-12 border" />
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="mt-4 text-sm">
        Score each rung: 0 fails, 1 poor, 2 fair, 3 good, 4 clean; leave open what you can’t tell.
      </p>
      <ul className="mt-2 text-sm">
        {kind.criteria.map(({ name, where }) => (
          <li key={name}>
            <b>{name}</b>, {where}: poor is {CRITERIA[name].poor}; clean is {CRITERIA[name].clean}.
          </li>
        ))}
      </ul>
    </main>
  );
}
