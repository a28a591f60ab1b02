'use client';
// What a proof told: which was which, better or worse by criterion, and the values that it proves.
import { settingInfo, type Setting } from '@/core/bench/settings';
import { short } from '@/core/numbers';
import type { Compared, Proof } from '@/core/reading/find-proof';
import type { Cells } from '@/core/view/cells';
import type { Named } from '@/core/view/shared-axis';
import { ActButton, type Outcome } from '../common/ActButton';
import { PrintPicture } from '../common/PrintPicture';
import { liesWide, PrintWithCells } from '../common/PrintWithCells';
import { PrintWithRows } from '../common/PrintWithRows';
import { ScoreBlocks } from '../common/ScoreBlocks';
import { Notes, Onward, type SharedProps } from './Shared';

type Props = SharedProps & {
  proof: Proof;
  cells: Cells | null;
  rungs: Named[];
  /** Values of the ledger that it speaks of. */
  provable: { setting: Setting; value: number; proven: boolean }[];
  prove: (proven: boolean) => Promise<Outcome>;
};

const HEADLINES: Record<Proof['told'], string> = {
  better: 'Better than before',
  worse: 'Worse than before',
  same: 'No difference seen',
  mixed: 'Better here, worse there',
};
const WORDS: Record<Compared['told'], string> = {
  better: 'better',
  same: 'the same',
  worse: 'worse',
  unsure: 'not sure yet',
};

export function ProofFinding({ proof, finding, cells, rungs, provable, prove, ...props }: Props) {
  const { order, criteria, told, sure } = proof;
  const proven = provable.length > 0 && provable.every((one) => one.proven);
  const picture = <PrintPicture src={props.picture} />;
  const { height, width, stretch } = props;
  const wide = cells !== null && liesWide({ height, width });
  return (
    <main
      className={`stage ${wide ? 'stage-over' : '[--beside:3rem] lg:[--around:10rem] lg:[--panel:27rem]'}`}
    >
      <h1 className="sr-only">Finding</h1>
      <section aria-label="The print" className="stage-print max-lg:order-last">
        {cells ? (
          <PrintWithCells
            cells={cells}
            height={height}
            width={width}
            stretch={stretch}
            picture={picture}
          />
        ) : (
          <PrintWithRows
            height={height}
            width={width}
            rungs={rungs}
            stretch={stretch}
            picture={picture}
            row={({ name }) => <strong className="pl-3 text-xl">{name}</strong>}
          />
        )}
        <p className="soft mt-2">From {props.from}.</p>
      </section>
      <div className={wide ? 'grid items-start gap-x-12 lg:grid-cols-2' : ''}>
        <div>
          <p className="text-5xl leading-tight font-semibold tracking-tight">{HEADLINES[told]}</p>
          <p className="mt-2 text-xl">
            <b>A</b> was {order[0]}, <b>B</b> was {order[1]}.{' '}
            <span className="soft">{short(100 * sure, 0)} % sure.</span>
          </p>
          <p className="mt-3">{finding.reason}</p>
          <Notes notes={finding.notes} />
          {told === 'better' && provable.length > 0 && (
            <div className="mt-4">
              <p className="mb-2">
                In the ledger:{' '}
                {provable
                  .map(({ setting, value }) => {
                    const { title, unit } = settingInfo(setting);
                    return `${title} ${short(value)} ${unit}`.trim();
                  })
                  .join(', ')}
                .
              </p>
              {proven ? (
                <div role="status">
                  <p className="mb-2 font-semibold">
                    Marked as proven{props.simulated && ', as simulated'}.
                  </p>
                  <ActButton act={() => prove(false)}>Undo</ActButton>
                </div>
              ) : (
                <ActButton className="btn-main" act={() => prove(true)}>
                  {provable.length === 1
                    ? 'Mark this value as proven'
                    : `Mark these ${provable.length} values as proven`}
                </ActButton>
              )}
            </div>
          )}
          {told === 'better' && provable.length === 0 && (
            <p className="mt-4">
              None of these values is in the ledger: there is nothing to mark as proven.
            </p>
          )}
        </div>
        <div>
          <table className="table-sm mt-4 table w-auto">
            <thead>
              <tr>
                <th scope="col">Criterion</th>
                <th scope="col">Before</th>
                <th scope="col">After</th>
                <th scope="col">After is</th>
              </tr>
            </thead>
            <tbody>
              {criteria.map((one) => (
                <tr key={one.name}>
                  <th scope="row" className="capitalize">
                    {one.name}
                  </th>
                  {[one.before, one.after].map((score, i) => (
                    <td key={i}>
                      <span className="flex items-center gap-2">
                        <ScoreBlocks score={Math.round(score)} small />
                        {short(score, 1)}
                      </span>
                    </td>
                  ))}
                  <td>
                    <b
                      className={
                        one.told === 'better'
                          ? 'text-success'
                          : one.told === 'worse'
                            ? 'text-primary'
                            : 'font-normal'
                      }
                    >
                      {WORDS[one.told]}
                    </b>{' '}
                    <span className="soft">{short(100 * one.sure, 0)} %</span>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <Onward {...props} finding={finding} rungs={rungs} next={null} />
        </div>
      </div>
    </main>
  );
}
