'use client';
// Two settings that were printed together: the plane over its plastic, both values large, what depends on what.
import type { Axis } from '@/core/plan/plan';
import type { Cells } from '@/core/view/cells';
import { short } from '@/core/numbers';
import { settingInfo, type Setting } from '@/core/bench/settings';
import type { Proposal, Slice } from '@/core/reading/finding';
import { capital } from '@/core/text';
import { useOnPhoto } from '../common/OnPhoto';
import { liesWide, PrintWithCells } from '../common/PrintWithCells';
import { placed } from '@/core/view/contours';
import { Term } from '../common/Term';
import { Ledgering, type Carried, type InLedger } from './Ledgering';
import { PlaneOver } from './PlaneOver';
import { Notes, Onward, type SharedProps } from './Shared';

type Props = SharedProps & {
  axes: Axis[];
  cells: Cells;
  /** For each setting how its value gets to the machine, and what the ledger has. */
  carry: (Carried | null)[];
  entries: (InLedger | undefined)[];
};

const TITLES = {
  value: 'Proposed together',
  edge: 'The answer may lie outside',
  'no-effect': 'No effect seen',
};

export function GridFinding(props: Props) {
  const { finding, axes, cells, height, width, stretch } = props;
  const { verdict, values, plane } = finding;
  const [a] = axes as [Axis, Axis];
  const wide = liesWide({ height, width });
  const { picture, choice } = useOnPhoto(props.picture, props.looks);
  const slices = plane && (
    <div className="mt-4 grid gap-6 sm:grid-cols-2">
      <Slices of={values[0].setting} over={values[1]!.setting} slices={plane.slices.a} />
      <Slices of={values[1]!.setting} over={values[0].setting} slices={plane.slices.b} />
    </div>
  );
  const valueOf = (which: 'up' | 'across', step: number): number => {
    const axis = axes.find(({ setting }) => setting === cells[which].setting)!;
    return axis.steps[step]!.set[axis.setting!]!;
  };
  return (
    <main className={`stage ${wide ? 'stage-over' : '[--beside:5rem] lg:[--around:13rem]'}`}>
      <h1 className="sr-only">Finding</h1>
      <section aria-label="The plane" className="stage-print">
        <PrintWithCells
          cells={cells}
          height={height}
          width={width}
          stretch={stretch}
          picture={<div className="opacity-70 [&>*]:h-full [&>*]:w-full">{picture}</div>}
          over={
            plane && (
              <PlaneOver
                plane={plane}
                placed={placed(cells, a.setting, valueOf)}
                height={height}
                width={width}
              />
            )
          }
        />
        {choice}
        <p className="soft mt-2">
          From {props.from}.
          {plane &&
            ` Lines join what looks equally good, in scores of 0 to 4. Shaded: where the best lies in 8 of 10 such cases. Dashed: the best ${cells.across.title} at each ${cells.up.title}.`}
        </p>
        {!wide && slices}
      </section>

      <aside
        className={wide ? 'mt-3 grid gap-x-12 max-lg:contents lg:grid-cols-2' : 'max-lg:contents'}
      >
        <div className="max-lg:order-first">
          <h2>{TITLES[verdict]}</h2>
          {verdict === 'edge' && (
            <p className="mb-2 text-2xl leading-snug font-semibold">
              Print another ladder, beyond this one
            </p>
          )}
          {verdict !== 'no-effect' && values.map((one) => <Value key={one.setting} {...one} />)}
          <p className="mt-3">{finding.reason}</p>
          <Notes notes={finding.notes} />
          {verdict === 'value' && (
            <Ledgering
              values={values}
              entries={props.entries}
              carry={props.carry}
              simulated={props.simulated}
              carryIt={props.carryIt}
              put={props.put}
              after={props.after}
              takeBack={props.takeBack}
            />
          )}
        </div>
        <div>
          <Onward {...props}>{wide && slices}</Onward>
        </div>
      </aside>
    </main>
  );
}

/** One of the two, as large as there is room for both. */
function Value({ setting, value, range }: Proposal) {
  const { title, unit, decimals } = settingInfo(setting);
  return (
    <div className="mt-2">
      <p className="soft">{capital(title)}</p>
      {value === null ? (
        <p className="text-2xl">
          {range
            ? `${short(range[0])} to ${short(range[1])} ${unit}, at the end of what was printed`
            : 'makes no difference that is seen'}
        </p>
      ) : (
        <p className="text-6xl leading-none font-semibold tracking-tight whitespace-nowrap">
          {value.toFixed(decimals)}{' '}
          <span className="text-neutral text-2xl font-normal">{unit}</span>
        </p>
      )}
      {value !== null && range && (
        <p>
          most likely between <b>{short(range[0])}</b> and <b>{short(range[1])}</b> {unit}
        </p>
      )}
      <Term of={setting} />
    </div>
  );
}

type SlicesProps = { of: Setting; over: Setting; slices: readonly Slice[] };

/** The best of one setting at each printed value of the other. */
function Slices({ of, over, slices }: SlicesProps) {
  const [info, other] = [settingInfo(of), settingInfo(over)];
  return (
    <table className="table-sm table w-auto">
      <caption className="soft pb-1 text-left">
        Best {info.title} at each {other.title}
      </caption>
      <tbody>
        {slices.map(({ at, best, range }) => (
          <tr key={at}>
            <th scope="row" className="whitespace-nowrap">
              {short(at)} {other.unit}
            </th>
            <td>
              <b>
                {short(best, info.decimals)} {info.unit}
              </b>
            </td>
            <td className="soft whitespace-nowrap">
              {short(range[0], info.decimals)} to {short(range[1], info.decimals)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
