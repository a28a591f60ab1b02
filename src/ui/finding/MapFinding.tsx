'use client';
// A map of pressure advance: how it falls, a value for every cell, the one value for all, and rows to paste.
import { short } from '@/core/numbers';
import type { AdvanceMap } from '@/core/reading/find-map';
import { rowsOfFinding } from '@/core/reading/found-rows';
import type { RowStyle } from '@/core/reading/rows';
import { later } from '../common/later';
import type { Outcome } from '../common/ActButton';
import { RowsOut } from '../common/RowsOut';
import { Term } from '../common/Term';
import { Ledgering, type Carried, type InLedger } from './Ledgering';
import { Notes, Onward, type SharedProps } from './Shared';

// Charts are loaded only where one is shown.
const MapChart = later('The chart', () => import('./MapChart').then((part) => part.MapChart));

type Props = SharedProps & {
  map: AdvanceMap;
  carry: Carried | null;
  entry: InLedger | undefined;
  style: RowStyle;
  keepStyle: (style: RowStyle) => Promise<Outcome>;
  file: string;
};

export function MapFinding({ map, finding, ...props }: Props) {
  const { verdict, values } = finding;
  const [{ value, range }] = values;
  const { harm } = map;
  return (
    <main className="grid grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-2 px-4 py-6 lg:grid-cols-[minmax(0,3fr)_minmax(20rem,2fr)] lg:px-7 lg:pt-4">
      <h1 className="sr-only">Finding</h1>
      <div className="max-lg:contents">
        <section aria-label="The map" className="max-lg:order-2">
          <MapChart map={map} single={value} />
          <p className="soft mt-1">
            From {props.from}. Lines are the map; dots are the best figures as they were read.
          </p>
        </section>
        <section className="max-lg:order-3" aria-label="Value of each cell">
          <MapTable map={map} />
        </section>
      </div>
      <aside className="max-lg:contents">
        <div className="max-lg:order-first">
          {verdict === 'value' ? (
            <>
              <h2>One value for all</h2>
              <p className="text-7xl leading-none font-semibold tracking-tight">
                {value!.toFixed(3)} <span className="text-neutral text-3xl font-normal">s</span>
              </p>
              <p className="mt-3">
                Most likely between <b>{short(range![0], 4)}</b> and <b>{short(range![1], 4)}</b> s:
                over all cells it puts least plastic in the wrong place.
              </p>
              <p className="mt-3 text-2xl leading-snug font-semibold">
                {harm.single > 1.5 * harm.map
                  ? `The map takes away ${short(100 * (1 - harm.map / harm.single), 0)} % of what that leaves`
                  : 'The map gains hardly anything over it'}
              </p>
            </>
          ) : (
            <>
              <h2>The answer may lie outside</h2>
              <p className="text-2xl leading-snug font-semibold">
                Print another map, beyond this one
              </p>
            </>
          )}
          <p className="mt-3">{finding.reason}</p>
          <Term of="advance" />
          <Notes notes={finding.notes} />
          {verdict === 'value' && (
            <Ledgering
              values={[values[0]]}
              entries={[props.entry]}
              carry={[props.carry]}
              simulated={props.simulated}
              save="Save map and value to ledger"
              carryIt={props.carryIt}
              put={props.put}
              after={props.after}
              takeBack={props.takeBack}
            />
          )}
        </div>
        <div className="max-lg:order-4">
          <RowsOut
            rows={rowsOfFinding({ map })}
            style={props.style}
            keepStyle={props.keepStyle}
            file={props.file}
          />
          <Onward {...props} finding={finding} criteria={[]} />
        </div>
      </aside>
    </main>
  );
}

/** Speeds down, accelerations across; what is filled by the fit, and what hardly counts, is marked. */
function MapTable({ map: { rows } }: { map: AdvanceMap }) {
  const speeds = [...new Set(rows.map(({ speed }) => speed))].sort((a, b) => b - a);
  const across = [...new Set(rows.map(({ acceleration }) => acceleration))].sort((a, b) => a - b);
  const marked = rows.some(({ read, outlier }) => read === null || outlier);
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Table of the map">
      <table className="table-sm mt-3 table w-auto">
        <thead>
          <tr>
            <th scope="col">Melt flow</th>
            {across.map((acceleration) => (
              <th key={acceleration} scope="col" className="text-right">
                {short(acceleration)} mm/s²
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {speeds.map((speed) => (
            <tr key={speed}>
              <th scope="row">
                {short(rows.find((row) => row.speed === speed)!.flow)} mm³/s{' '}
                <span className="soft font-normal">{short(speed)} mm/s</span>
              </th>
              {across.map((acceleration) => {
                const row = rows.find(
                  (one) => one.speed === speed && one.acceleration === acceleration,
                );
                return (
                  <td key={acceleration} className="text-right">
                    {row && (
                      <>
                        <b className="text-lg">{row.advance.toFixed(3)}</b>
                        {row.read === null ? ' *' : row.outlier ? ' †' : ''}
                        <span className="soft block text-[13px]">
                          {short(row.range[0], 3)} to {short(row.range[1], 3)}
                        </span>
                      </>
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {marked && (
        <p className="soft">* estimated from the map, not scored. † lies far from all others.</p>
      )}
    </div>
  );
}
