import { redirect } from 'next/navigation';
import { benchTitle } from '@/core/bench/bench';
import { CRITERIA } from '@/core/criteria';
import { short } from '@/core/numbers';
import { ladderView } from '../../../server/ladder';
import type { Cells } from '@/core/view/cells';
import type { Strips } from '@/core/view/strips';
import type { LadderKind } from '@/core/ladders/types';
import { marksSaid } from '@/core/plan/marks';
import { onSharedAxis } from '@/core/view/shared-axis';
import { store } from '../../../server/store';
import { PrintPicture } from '@/ui/common/PrintPicture';
import { PrintWithCells } from '@/ui/common/PrintWithCells';
import { PrintWithStrips } from '@/ui/common/PrintWithStrips';
import { PrintWithRows } from '@/ui/common/PrintWithRows';
import { PrintButton } from '@/ui/print/PrintButton';

export const metadata = { title: 'Score sheet' };

/** One page of paper: which value is where, and room for scores. */
export default async function SheetPage({ params }: { params: Promise<{ id: string }> }) {
  const { ladder, kind, bench } = ladderView((await params).id);
  const file = store().files.currentOf(ladder.id);
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
      {stands.strips ? (
        <PrintWithStrips
          strips={stands.strips}
          className="[--room:calc(100vw-3rem)] [--tall:150mm] print:[--room:170mm]"
          picture={<PrintPicture src={`/files/${file.id}/picture`} />}
        />
      ) : stands.cells ? (
        <PrintWithCells
          cells={stands.cells}
          height={stands.height}
          width={stands.width}
          className="w-full [--beside:25mm] [--room:calc(100vw-3rem)] [--tall:90mm] sm:[--room:170mm] print:[--room:170mm]"
          picture={<PrintPicture src={`/files/${file.id}/picture`} />}
        />
      ) : (
        <PrintWithRows
          height={stands.height}
          width={stands.width}
          rungs={stands.rungs}
          className="w-full [--beside:30mm] [--room:calc(100vw-3rem)] sm:[--room:56mm] lg:[--room:108mm] print:[--room:108mm] [--tall:150mm]"
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
              <p className="whole-or-not min-w-20 flex-1 self-center whitespace-nowrap">
                <b className="text-lg">{name}</b>
                <span className="text-xs">
                  {short(z.from, 1)}–{short(z.to, 1)} mm
                </span>
              </p>
              {kind.criteria.map(({ name }) => (
                <span key={name} className="w-16 shrink-0 border-l" />
              ))}
            </div>
          )}
        />
      )}
      {stands.cells && <CellTables cells={stands.cells} criteria={kind.criteria} />}
      {stands.strips && <FigureTable strips={stands.strips} />}
      {marks && <p className="mt-4 text-sm">{marks}</p>}
      <p className={`mt-4 text-sm ${kind.criteria.length === 0 || stands.strips ? 'hidden' : ''}`}>
        Score each {stands.cells ? 'cell' : 'rung'}: 0 fails, 1 poor, 2 fair, 3 good, 4 clean; leave
        open what you can’t tell.
      </p>
      <ul className="mt-2 text-sm">
        {kind.criteria.map(({ name, where }) => (
          <li key={name}>
            <b>{name}</b>, {where}: poor is {CRITERIA[name].poor}; clean is {CRITERIA[name].clean}.
          </li>
        ))}
        {kind.measures
          ?.filter(({ tapped }) => !tapped)
          .map(({ key, label, unit, how, most }) => (
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

/** A line for each cell of a map: its figures, the best of which is circled. */
function FigureTable({ strips }: { strips: Strips }) {
  return (
    <table className="mt-4 w-full border-collapse text-sm">
      <caption className="text-left">Circle the best figure of each cell.</caption>
      <tbody>
        {strips.cells.map(({ index, name, figures }) => (
          <tr key={index} className="border-b">
            <th scope="row" className="py-1 text-left">
              {name}
            </th>
            {figures.map(({ rung, label }) => (
              <td key={rung} className="text-center">
                {label}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Room for the scores of a grid: a table for each criterion, the highest row first, as it stands. */
function CellTables({ cells, criteria }: { cells: Cells; criteria: LadderKind['criteria'] }) {
  return (
    <div className="mt-4 grid grid-cols-2 gap-x-8 gap-y-4">
      {criteria.map(({ name }) => (
        <table key={name} className="w-full border-collapse text-center text-sm">
          <caption className="text-left font-semibold">{name}</caption>
          <tbody>
            {[...cells.rows].reverse().map((row) => (
              <tr key={row.index}>
                <th scope="row" className="w-16 pr-2 text-right">
                  {row.name}
                </th>
                {cells.columns.map(({ index }) => (
                  <td key={index} className="h-8 border" />
                ))}
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr>
              <td>{cells.across.unit}</td>
              {cells.columns.map(({ index, label }) => (
                <th key={index} scope="col">
                  {label}
                </th>
              ))}
            </tr>
          </tfoot>
        </table>
      ))}
    </div>
  );
}
