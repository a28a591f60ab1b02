'use client';
// The curve beside the plastic it speaks of, the value large, the reason in one sentence.
import type { Told as TableOf } from '@/core/ladders/types';
import type { Axis } from '@/core/plan/plan';
import type { Named } from '@/core/view/shared-axis';
import { short } from '@/core/numbers';
import type { Proposal } from '@/core/reading/finding';
import { settingInfo } from '@/core/bench/settings';
import Link from 'next/link';
import { useMemo } from 'react';
import { rowsByValue } from '@/core/view/in-order';
import { later } from '../common/later';
import { cutOf } from '../common/LookStrip';
import { CriterionHeads } from '../common/CriterionHeads';
import { FeedDrawing } from '../common/FeedDrawing';
import { PrintPicture } from '../common/PrintPicture';
import { Term } from '../common/Term';
import { ScoreBlocks } from '../common/ScoreBlocks';
import { nameRoom, PrintWithRows } from '../common/PrintWithRows';
import { Ledgering, type Carried, type InLedger } from './Ledgering';
import { Notes, Onward, type SharedProps } from './Shared';
import { Told } from './Told';

/** Width of the curve and the air beside it, rem. */
const CURVE_REM = 8.25;

/** Width of a strip of the straightened picture and the air beside it, rem. */
const STRIP_REM = 6;

/** Width of a criterion's column. */
const CELL = 'w-(--cell)';

// Charts are loaded only where one is shown.
const Curve = later('The curve', () => import('./Curve').then((part) => part.Curve));

type Props = SharedProps & {
  /** What the curve stands along. */
  axis: Axis | null;
  rungs: Named[];
  carry: Carried | null;
  entry: InLedger | undefined;
  /** Where nothing was printed: how much filament was fed, and where it was marked, mm. */
  fed: { mark: number; length: number } | null;
  table: TableOf | null;
};

export function FindingScreen(props: Props) {
  const look = props.looks.at(-1);
  const { finding, axis, rungs, height, width, stretch, criteria, picture, entry } = props;
  const { verdict, values } = finding;
  const [{ setting, value, range }, ...others] = values;
  const { unit, decimals } = settingInfo(setting);
  const blank = criteria.reduce(
    (sum, { means }) => sum + means.filter((one) => one === null).length,
    0,
  );
  // Mixed over the bed, values have rows and a curve of their own order.
  const rows = useMemo(() => [...rowsByValue(rungs, height)], [rungs, height]);
  return (
    <main className="stage lg:[--around:14rem] lg:[--panel:20rem]">
      <h1 className="sr-only">Finding</h1>
      <section
        aria-label="Scores and curve"
        className="stage-print max-lg:overflow-x-auto"
        // On a phone it is wider than the window, and is moved with keys too.
        tabIndex={0}
      >
        {props.fed ? (
          <FeedDrawing {...props.fed} />
        ) : (
          <PrintWithRows
            height={height}
            width={width}
            stretch={stretch}
            rungs={rows}
            className="[--cell:1.5rem] lg:[--cell:1.75rem]"
            beside={`calc(${nameRoom(rungs) + CURVE_REM + (look ? STRIP_REM : 0)}rem + ${criteria.length} * var(--cell))`}
            rowsOnPhone
            head={
              <CriterionHeads
                names={criteria.map(({ name }) => name)}
                cell={CELL}
                className="pr-33"
              />
            }
            picture={<PrintPicture src={picture} />}
            row={({ index, name: rung }) => (
              <div className="flex h-full w-full items-center pr-33 pl-2">
                {look && (
                  <i
                    role="img"
                    aria-label={`${rung} on ${look.label}`}
                    className="mr-2 w-22 shrink-0 self-stretch"
                    style={
                      cutOf(
                        rungs.find((one) => one.index === index)!,
                        look,
                      ).style
                    }
                  />
                )}
                <strong className="min-w-14 flex-1 whitespace-nowrap">{rung}</strong>
                {criteria.map(({ name, means }) => (
                  <span key={name} className={`flex ${CELL} justify-center`} title={name}>
                    <ScoreBlocks
                      score={means[index] === null ? undefined : Math.round(means[index]!)}
                      small={rungs.length > 12}
                    />
                  </span>
                ))}
              </div>
            )}
            over={
              <div className="absolute inset-y-0 right-0 w-32">
                {axis && finding.curve.length > 0 && (
                  <Curve finding={finding} rungs={rows} axis={axis} height={height} />
                )}
              </div>
            }
          />
        )}
        <p className="soft mt-2">
          From {props.from}.{' '}
          {blank > 0 && blank < rungs.length * criteria.length && (
            <>
              {blank} of {rungs.length * criteria.length} have no score yet:{' '}
              <Link href={props.scoring} className="inline-block min-h-6 underline">
                score them
              </Link>
              , and it becomes surer.
            </>
          )}
          {finding.curve.length > 0 &&
            ' The curve shows how good each rung looked; its band is one standard deviation.'}
          {finding.voices &&
            finding.curve.length > 0 &&
            ' Rings are what eyes scored, diamonds what the loupe measured.'}
        </p>
      </section>

      {/* On a phone: the answer, what it stands on, then the rest. */}
      <aside className="max-lg:contents">
        <div className="max-lg:order-first">
          {verdict === 'value' ? (
            <>
              <h2>Proposed {settingInfo(setting).title}</h2>
              <p className="text-7xl leading-none font-semibold tracking-tight">
                {value!.toFixed(decimals)}{' '}
                <span className="text-neutral text-3xl font-normal">{unit}</span>
              </p>
              <p className="mt-3">
                Most likely between <b>{short(range![0])}</b> and <b>{short(range![1])}</b> {unit}.{' '}
                {finding.reason}
              </p>
            </>
          ) : (
            <>
              <h2>{verdict === 'edge' ? 'The answer may lie outside' : 'No effect seen'}</h2>
              <p className="text-2xl leading-snug font-semibold">
                {verdict === 'edge'
                  ? 'Print another ladder, beyond this one'
                  : 'This setting is not what causes it'}
              </p>
              <p className="mt-3">{finding.reason}</p>
            </>
          )}
          <Term of={setting} />
          {others.map((one) => (
            <Beside key={one.setting} {...one} />
          ))}
          <Notes notes={finding.notes} />
          {verdict === 'value' && (
            <Ledgering
              values={[values[0]]}
              entries={[entry]}
              carry={[props.carry]}
              simulated={props.simulated}
              carryIt={props.carryIt}
              put={props.put}
              after={props.after}
              takeBack={props.takeBack}
            />
          )}
        </div>
        {props.table && <Told {...props.table} />}
        <Onward {...props} />
      </aside>
    </main>
  );
}

/** Another setting that the same print tells. */
function Beside({ setting, value, range }: Proposal) {
  const { title, unit, decimals } = settingInfo(setting);
  if (value === null) return null;
  return (
    <p className="mt-4">
      <span className="text-4xl font-semibold">
        {value.toFixed(decimals)} <span className="text-neutral text-2xl font-normal">{unit}</span>
      </span>{' '}
      {title}
      {range && `, most likely between ${short(range[0])} and ${short(range[1])}`}.
    </p>
  );
}
