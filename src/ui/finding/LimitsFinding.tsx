'use client';
// A limit that moves with another setting: one value for each step of it, the safest large, and rows to paste.
import { settingInfo } from '@/core/bench/settings';
import { short } from '@/core/numbers';
import type { Limit, Limits } from '@/core/reading/find-limits';
import { inTable } from '@/core/reading/found-rows';
import type { Row, RowStyle } from '@/core/reading/rows';
import { capital } from '@/core/text';
import type { Cells } from '@/core/view/cells';
import type { Outcome } from '../common/ActButton';
import { useOnPhoto } from '../common/OnPhoto';
import { liesWide, PrintWithCells } from '../common/PrintWithCells';
import { Term } from '../common/Term';
import { RowsOut } from '../common/RowsOut';
import { Ledgering, type Carried, type InLedger } from './Ledgering';
import { Notes, Onward, type SharedProps } from './Shared';

type Props = SharedProps & {
  limits: Limits;
  cells: Cells;
  carry: Carried | null;
  entry: InLedger | undefined;
  rows: Row[];
  style: RowStyle;
  keepStyle: (style: RowStyle) => Promise<Outcome>;
  file: string;
  /** What was foreseen of it, in a sentence. */
  foreseen: string | null;
};

export function LimitsFinding({ limits, finding, cells, rows, ...props }: Props) {
  const { verdict, values } = finding;
  const [{ value, range }] = values;
  const { of, over, end } = limits;
  const [info, other] = [settingInfo(of), settingInfo(over)];
  const { height, width, stretch } = props;
  const wide = liesWide({ height, width });
  const { picture, choice } = useOnPhoto(props.picture, props.looks);
  return (
    <main
      className={`stage ${wide ? 'stage-over' : '[--beside:5rem] lg:[--around:11rem] lg:[--panel:24rem]'}`}
    >
      <h1 className="sr-only">Finding</h1>
      <section aria-label="The print" className="stage-print max-lg:order-last">
        <PrintWithCells
          cells={cells}
          height={height}
          width={width}
          stretch={stretch}
          picture={picture}
        />
        {choice}
        <p className="soft mt-2">From {props.from}.</p>
      </section>
      <div className={wide ? 'grid items-start gap-x-12 lg:grid-cols-2' : ''}>
        <div>
          {verdict === 'value' ? (
            <>
              <h2>
                Proposed {info.title}, {end === 'most' ? 'at most' : 'at least'}
              </h2>
              <p className="text-7xl leading-none font-semibold tracking-tight">
                {value!.toFixed(info.decimals)}{' '}
                <span className="text-neutral text-3xl font-normal">{info.unit}</span>
              </p>
              {range && (
                <p className="mt-3">
                  Most likely between <b>{short(range[0])}</b> and <b>{short(range[1])}</b>{' '}
                  {info.unit}.
                </p>
              )}
            </>
          ) : (
            <>
              <h2>{verdict === 'edge' ? 'The answer may lie outside' : 'No effect seen'}</h2>
              <p className="text-2xl leading-snug font-semibold">
                {verdict === 'edge'
                  ? 'Print another grid, beyond this one'
                  : 'Nothing is clean yet'}
              </p>
            </>
          )}
          <Term of={of} />
          <table className="table-sm mt-4 table w-auto">
            <caption className="soft pb-1 text-left">
              {capital(info.title)} that is clean, by {inTable(over)}
            </caption>
            <tbody>
              {limits.rows.map((row) => (
                <tr key={row.at}>
                  <th scope="row" className="text-lg whitespace-nowrap">
                    {short(row.at)} {other.unit}
                  </th>
                  <LimitCells row={row} end={end} unit={info.unit} />
                </tr>
              ))}
            </tbody>
          </table>
          {props.foreseen && <p className="mt-3">{props.foreseen}</p>}
          <Notes notes={finding.notes} />
          {verdict === 'value' && (
            <Ledgering
              values={[values[0]]}
              entries={[props.entry]}
              carry={[props.carry]}
              simulated={props.simulated}
              carryIt={props.carryIt}
              put={props.put}
              after={props.after}
              takeBack={props.takeBack}
            />
          )}
        </div>
        <div>
          {rows.length > 0 && (
            <RowsOut
              rows={rows}
              style={props.style}
              keepStyle={props.keepStyle}
              file={props.file}
            />
          )}
          <Onward {...props} finding={finding} />
        </div>
      </div>
    </main>
  );
}

function LimitCells({ row, end, unit }: { row: Limit; end: Limits['end']; unit: string }) {
  const { value, range, open } = row;
  if (value === null)
    return (
      <td colSpan={2} className="soft">
        nothing clean
      </td>
    );
  return (
    <>
      <td className="text-right text-lg whitespace-nowrap">
        {open && <span className="soft">{end === 'most' ? 'at least ' : 'at most '}</span>}
        <b>
          {short(value)} {unit}
        </b>
      </td>
      <td className="soft whitespace-nowrap">
        {range && !open && `${short(range[0])} to ${short(range[1])}`}
      </td>
    </>
  );
}
