import type { Bench } from '@/core/bench/bench';
import type { Checked } from '@/store/ladders';
import { addsUp, storesOffset } from '@/core/bench/settings';
import { isOver } from '@/core/job-states';
import type { LadderKind } from '@/core/ladders/types';
import type { Plan } from '@/core/plan/plan';
import { marksSaid } from '@/core/plan/marks';
import { growing } from '@/core/view/grows';
import { onSharedAxis } from '@/core/view/shared-axis';
import Link from 'next/link';
import { redirect } from 'next/navigation';
import {
  goOnPrinting,
  keepHeight,
  nudgePrint,
  pausePrint,
  printOnMachine,
  stopEverything,
  stopPrint,
} from '../../../actions/link';
import { itIsPrinted, toScoreElsewhere } from '../../../actions/reading';
import { LadderHeader } from '../../../server/ladder-header';
import { AnotherBench } from '../../../server/another-bench';
import { ladderView } from '../../../server/ladder';
import { askingDevice, phoneHosts } from '../../../server/who';
import { checkedOf } from '../../../server/checked';
import { linkState } from '../../../server/link';
import { heightOf } from '../../../server/offset';
import { inThread } from '../../../server/threads';
import { store } from '../../../server/store';
import { isTriedOut } from '../../../server/tried-out';
import { FeedDrawing, fedIn } from '@/ui/common/FeedDrawing';
import { Term } from '@/ui/common/Term';
import { PrintPicture } from '@/ui/common/PrintPicture';
import { fitting, liesWide, PrintWithCells } from '@/ui/common/PrintWithCells';
import { CellTag, PrintWithStrips } from '@/ui/common/PrintWithStrips';
import { PrintWithRows } from '@/ui/common/PrintWithRows';
import { FILAMENT_COLOURS } from '@/understudy/picture';
import { READY } from '@/understudy/understudies';
import { UnderstudyPrint } from '@/ui/print/UnderstudyPrint';
import { RunningPrint } from '@/ui/print/RunningPrint';
import { FollowMachine } from '@/ui/print/FollowMachine';
import { FileCheck } from '@/ui/print/FileCheck';
import { PrintActs } from '@/ui/print/PrintActs';

export const metadata = { title: 'Print' };

/**
 * A bench as the user described it: what the ledger holds moves on with every ladder. But what is in the machine by
 * now would act twice with a file of before.
 */
const described = ({ machine, nozzle, filament, carried = [] }: Bench): string =>
  JSON.stringify([machine, nozzle, filament, carried.filter(addsUp)]);

/** Whether every value of a rung was seen in the text. */
function isConfirmed(rungs: Checked['audited']['rungs'], index: number): boolean {
  const own = rungs.filter((seen) => seen.index === index);
  return own.length > 0 && own.every(({ ok }) => ok);
}

/** What can be nudged while a first layer prints; null for every other print. */
function firstLayerOf({ floors }: LadderKind, plan: Plan, height: ReturnType<typeof heightOf>) {
  const { dialect } = plan.bench.machine;
  return floors && plan.frame
    ? {
        frame: plan.frame,
        floors: floors(plan),
        plan: { rungs: plan.rungs },
        stores: storesOffset(dialect),
        kept: height?.kept ?? false,
        left: height?.left ?? null,
      }
    : null;
}

type Props = {
  params: Promise<{ id: string }>;
  searchParams: Promise<Record<string, string | undefined>>;
};

export default async function PrintPage({ params, searchParams }: Props) {
  const view = ladderView((await params).id);
  const { ladder, bench } = view;
  const file = store().files.currentOf(ladder.id);
  if (!file) redirect(`/ladder/${ladder.id}/design`);
  const { plan } = file;
  const device = await askingDevice();
  const stands = onSharedAxis(plan);
  const again = (await searchParams).again !== undefined;
  const wire = await linkState(bench.machineId);
  const { name } = bench.bench.machine;
  const machineHref = `/bench/${bench.id}/machine`;
  if (wire?.job?.file === file.id && (!isOver(wire.job.state) || !again)) {
    const sent = store().wires.job(wire.job.id);
    const height = sent && heightOf(sent, bench);
    return (
      <>
        <LadderHeader view={view} here="print" />
        <RunningPrint
          machine={bench.machineId}
          name={name}
          fileId={file.id}
          first={wire}
          stands={{
            ...stands,
            // Cells of a row grow together: what is told is the row.
            rungs: growing(stands),
          }}
          unit={stands.cells || stands.strips ? 'row' : 'rung'}
          firstLayer={firstLayerOf(view.kind, plan, height)}
          picture={`/files/${file.id}/picture`}
          times={await inThread('reached', { bytes: store().files.bytes(file.id)!, plan })}
          ladder={ladder.id}
          machineHref={machineHref}
          acts={{
            pause: pausePrint.bind(null, bench.id),
            go: goOnPrinting.bind(null, bench.id),
            stop: stopPrint.bind(null, bench.id),
            stopEverything: stopEverything.bind(null, bench.id),
            nudge: nudgePrint.bind(null, bench.id),
            keepHeight: keepHeight.bind(null, bench.id),
          }}
        />
      </>
    );
  }
  const { audited, times } = await checkedOf(file);
  const copies = store().prints.count(ladder.id);
  const wide = stands.cells !== null && liesWide(stands);
  const marks = marksSaid(plan.axes);
  const outOfDate = described(plan.bench) !== described(bench.bench);
  return (
    <>
      <LadderHeader view={view} here="print" />
      <FollowMachine machine={bench.machineId} fileId={file.id} first={wire} />
      <main className={`stage ${wide ? 'stage-over' : 'lg:[--beside:11.5rem]'}`}>
        <section aria-label="Drawing" className="stage-print max-lg:order-2">
          {view.kind.feeds ? (
            <FeedDrawing {...fedIn(view.kind.feeds, plan.spec)} />
          ) : stands.strips ? (
            <PrintWithStrips
              strips={stands.strips}
              picture={<PrintPicture src={`/files/${file.id}/picture`} />}
              inCell={(cell) => {
                const of = cell.figures.map(({ rung }) => rung);
                const sure = of.filter((one) => isConfirmed(audited.rungs, one)).length;
                return (
                  <CellTag>
                    {sure === of.length ? `✓ ${sure}` : `${of.length - sure} not confirmed`}
                  </CellTag>
                );
              }}
            />
          ) : stands.cells ? (
            <PrintWithCells
              cells={stands.cells}
              height={stands.height}
              width={stands.width}
              stretch={stands.stretch}
              picture={<PrintPicture src={`/files/${file.id}/picture`} />}
              row={({ index, name, from, to }) => {
                const of = stands.cells!.rung[index]!.filter(
                  (one) => Object.keys(plan.rungs[one]!.set).length > 0,
                );
                const sure = of.filter((one) => isConfirmed(audited.rungs, one)).length;
                return (
                  <div className="whole-or-not pl-3">
                    <strong className="whitespace-nowrap" style={fitting({ from, to })}>
                      {name}
                    </strong>
                    <span className="soft ml-auto pr-2 leading-none whitespace-nowrap max-lg:hidden">
                      {of.length === 0
                        ? ''
                        : sure === of.length
                          ? `✓ all ${sure}`
                          : `${of.length - sure} of ${of.length} not confirmed`}
                    </span>
                  </div>
                );
              }}
            />
          ) : (
            <PrintWithRows
              height={stands.height}
              width={stands.width}
              rungs={stands.rungs}
              stretch={stands.stretch}
              picture={<PrintPicture src={`/files/${file.id}/picture`} />}
              row={({ index, name, line: rungLine, set }) => {
                const seen = audited.rungs.find((row) => row.index === index);
                return (
                  <div className="whole-or-not pl-3">
                    <strong
                      className={`whitespace-nowrap ${plan.rungs.length < 13 ? 'text-xl' : ''}`}
                    >
                      {name}
                    </strong>
                    <span className="soft ml-auto pr-2 whitespace-nowrap max-lg:hidden">
                      {!seen || Object.keys(set).length === 0
                        ? ''
                        : seen.ok
                          ? `✓ line ${seen.line ?? rungLine}`
                          : 'not confirmed'}
                    </span>
                  </div>
                );
              }}
            />
          )}
        </section>
        <section className={wide ? 'grid items-start gap-x-12 lg:grid-cols-2' : 'max-w-2xl'}>
          <div>
            <h1>Ready to print</h1>
            <p className="mt-1 font-mono text-sm break-all">{file.name}</p>
            {marks && <p className="soft mt-1">{marks}</p>}
            {view.kind.finds.map((one) => (
              <Term key={one} of={one} />
            ))}
            <PrintActs
              name={name}
              file={{ id: file.id, name: file.name }}
              ladder={ladder.id}
              machineHref={machineHref}
              wire={wire && { link: wire.link, simulated: wire.simulated !== null }}
              // Who stands at the machine has the print in hand, not a card to put a file on.
              atMachine={device !== null}
              copies={copies}
              isPrinted={store().prints.ofFile(file.id).length > 0}
              print={printOnMachine.bind(null, bench.id, file.id)}
              printed={itIsPrinted.bind(null, file.id)}
              elsewhere={toScoreElsewhere.bind(null, file.id)}
              hosts={phoneHosts()}
            />
            {outOfDate && (
              <p className="border-warning mt-4 border-l-4 pl-4">
                The bench was changed after this file was made. Generate the file again in Design.
              </p>
            )}
            <UnderstudyPrint
              ladderId={ladder.id}
              fileId={file.id}
              plan={plan}
              ready={READY}
              colours={Object.keys(FILAMENT_COLOURS)}
              half={isTriedOut(bench.id)}
            />
          </div>
          <div className="rule-above">
            <h2>File check</h2>
            <FileCheck
              audit={audited}
              times={times}
              bench={plan.bench}
              lineAs={(line) => (
                <Link className="underline" href={`/inspect?file=${file.id}&line=${line}`}>
                  line {line}:
                </Link>
              )}
            >
              <details className="mt-4">
                <summary className="min-h-11 cursor-pointer leading-[2.75rem]">
                  Your start and end blocks in it
                </summary>
                <div className="grid gap-4 sm:grid-cols-2">
                  {[plan.bench.machine.startBlock, plan.bench.machine.endBlock].map((block, i) => (
                    <pre
                      key={i}
                      // Longer than the window, it is moved with keys.
                      tabIndex={0}
                      role="region"
                      aria-label={i === 0 ? 'Start block' : 'End block'}
                      className="bg-base-200 overflow-x-auto rounded p-3 font-mono text-[13px]"
                    >
                      {block}
                    </pre>
                  ))}
                </div>
              </details>
            </FileCheck>
          </div>
          <AnotherBench ladder={ladder} kind={view.kind} />
        </section>
      </main>
    </>
  );
}
