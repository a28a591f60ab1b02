import { redirect } from 'next/navigation';
import { benchTitle } from '@/core/bench/bench';
import { CRITERIA } from '@/core/criteria';
import { short } from '@/core/numbers';
import { ladderView } from '../../../server/ladder';
import { marksSaid } from '@/core/plan/marks';
import { onSharedAxis } from '@/core/view/shared-axis';
import { store } from '../../../server/store';
import { PrintPicture } from '@/ui/common/PrintPicture';
import { PrintWithRows } from '@/ui/common/PrintWithRows';
import { PrintButton } from '@/ui/print/PrintButton';

export const metadata = { title: 'Score sheet' };

/** One page of paper: which value is where, and room for scores. */
export default async function SheetPage({ params }: { params: Promise<{ id: string }> }) {
  const { ladder, kind, bench } = ladderView((await params).id);
  const file = store().files.newestOf(ladder.id);
  if (!file) redirect(`/ladder/${ladder.id}/design`);
  const { plan } = file;
  const stands = onSharedAxis(plan);
  const marks = marksSaid(plan.axes);
  return (
    <main className="mx-auto max-w-4xl px-6 py-6">
      <div className="no-print mb-4">
        <PrintButton back={`/ladder/${ladder.id}/print`} />
      </div>
      <h1>{kind.title}</h1>
      <p className="mb-4">
        {benchTitle(bench.bench)} · {plan.file}
      </p>
      <PrintWithRows
        height={stands.height}
        width={stands.width}
        rungs={stands.rungs}
        className="w-full [--beside:30mm] [--room:calc(100vw-3rem)] sm:[--room:108mm] print:[--room:108mm] [--tall:150mm]"
        picture={<PrintPicture src={`/files/${file.id}/picture`} />}
        head={
          <div className="mb-1 flex justify-end text-sm" aria-hidden>
            {kind.criteria.map(({ name }) => (
              <b key={name} className="w-16 shrink-0 text-center">
                {name}
              </b>
            ))}
          </div>
        }
        row={({ name, z }) => (
          <div className="flex h-full w-full items-stretch border-x border-b pl-3">
            <p className="min-w-0 flex-1 self-center overflow-hidden leading-tight whitespace-nowrap">
              <b className="text-lg">{name}</b>
              <span className="ml-1.5 text-xs">
                {short(z.from, 1)}–{short(z.to, 1)} mm
              </span>
            </p>
            {kind.criteria.map(({ name }) => (
              <span key={name} className="w-16 shrink-0 border-l" />
            ))}
          </div>
        )}
      />
      {marks && <p className="mt-4 text-sm">{marks}</p>}
      <p className={`mt-4 text-sm ${kind.criteria.length === 0 ? 'hidden' : ''}`}>
        Score each rung: 0 fails, 1 poor, 2 fair, 3 good, 4 clean; leave open what you can’t tell.
      </p>
      <ul className="mt-2 text-sm">
        {kind.criteria.map(({ name, where }) => (
          <li key={name}>
            <b>{name}</b>, {where}: poor is {CRITERIA[name].poor}; clean is {CRITERIA[name].clean}.
          </li>
        ))}
        {kind.measures?.map(({ key, label, unit, how, most }) => (
          <li key={key} className="mt-2">
            <b>
              {label}
              {unit && `, ${unit}`}
            </b>
            : {how} {'______ '.repeat(Math.min(most, 4))}
          </li>
        ))}
      </ul>
    </main>
  );
}
