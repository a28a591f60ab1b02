import { redirect } from 'next/navigation';
import { z } from 'zod';
import { archiveIt } from '../../../actions/archive';
import { readAgain, itIsPrinted } from '../../../actions/reading';
import { LadderHeader } from '../../../server/ladder-header';
import { copiesOf, idOf, ladderView, pictureOf } from '../../../server/ladder';
import { stripsOf } from '../../../server/looks';
import { now, store } from '../../../server/store';
import { isHalf } from '../../../server/tried-out';
import { askingDevice, computerReader, ownerOf, phoneHosts, sameName } from '../../../server/who';
import type { Checked } from '@/store/ladders';
import type { ReadingRow } from '@/store/readings';
import { ago } from '@/ui/common/format';
import { OnPhone } from '@/ui/common/OnPhone';
import { fedIn } from '@/ui/common/FeedDrawing';
import { SimulatedNote } from '@/ui/common/SimulatedNote';
import { marksSaid } from '@/core/plan/marks';
import { onSharedAxis } from '@/core/view/shared-axis';
import { HowItPrinted } from '@/ui/print/HowItPrinted';
import { FiguresScreen } from '@/ui/read/FiguresScreen';
import { MeasureScreen } from '@/ui/read/MeasureScreen';
import { ReadingTabs } from '@/ui/read/ReadingTabs';
import { ReadScreen } from '@/ui/read/ReadScreen';

export const metadata = { title: 'Score' };

const MEASURE = 'There is nothing to score here: measure, and enter what you find.';
const MEASURED =
  'There is nothing to score here. The simulated print was measured for you, as a person would: change a number, or see the finding.';

type Props = { params: Promise<{ id: string }>; searchParams: Promise<{ reading?: string }> };

const Place = z
  .object({
    rung: z.number().int().min(0),
    criterion: z.number().int().min(0),
    mode: z.enum(['rung', 'criterion', 'best']),
  })
  .catch({ rung: 0, criterion: 0, mode: 'rung' });

export default async function ReadPage({ params, searchParams }: Props) {
  const view = ladderView((await params).id);
  const { ladder, kind } = view;
  const copies = copiesOf(ladder.id);
  const all = copies.flatMap(({ print, plan, readings }, i) => {
    const printLabel = `print ${i + 1}${print.simulated ? ' (simulated)' : ''}`;
    return readings.map(({ row }, j) => ({
      row,
      print,
      plan,
      printLabel,
      owner: ownerOf(row),
      label: `${printLabel}, ${readingName(readings, j)}`,
    }));
  });
  const asked = idOf(String((await searchParams).reading ?? ''));
  const device = await askingDevice();
  const mine = device?.reader ?? computerReader();
  const open =
    all.find(({ row }) => row.id === asked) ??
    all.findLast(
      ({ owner, print }) => print.id === all.at(-1)?.print.id && sameName(owner, mine),
    ) ??
    all.at(-1);
  if (!open) redirect(`/ladder/${ladder.id}/print`);
  const others = mine !== '' && !sameName(open.owner, mine);
  // Whoever scores on a device of their own scores on a reading of their own; at the computer, once it is asked for.
  if (others && device && asked === 0) redirect(`/join/${open.row.id}`);
  const { photos, readings, places, wires, files } = store();
  const run = wires.runOf(open.print.id);
  const stands = onSharedAxis(open.plan);
  const typed = (kind.measures ?? []).filter(({ tapped }) => !tapped);
  const tapped = stands.cells !== null && (kind.measures ?? []).some((one) => one.tapped);
  const measures = typed.map(({ choices, ...one }) => ({
    ...one,
    choices: choices?.(open.plan) ?? null,
  }));
  const kept = {
    revision: readings.revision(open.row.id),
    acts: readings.answered(open.row.id),
    measured: readings.measured(open.row.id),
  };
  const pictures = {
    printId: open.print.id,
    first: { revision: photos.revision(open.print.id), photos: photos.ofPrint(open.print.id) },
    archive: archiveIt,
  };
  const placeName = `reading ${open.row.id}`;
  const place = Place.parse(safeJson(places.get(placeName)));
  return (
    <>
      <LadderHeader view={view} here="read" />
      <ReadingTabs
        ladderId={ladder.id}
        chosen={open.row.id}
        print={{ id: open.print.id, label: open.printLabel }}
        all={all.map(({ row, label }) => ({ id: row.id, label }))}
        again={readAgain.bind(null, open.print.id)}
        copy={itIsPrinted.bind(null, open.print.fileId)}
        archive={archiveIt}
        onPhone={
          <OnPhone
            label={kind.criteria.length === 0 ? 'Measure it on the phone' : 'Score it on the phone'}
            path={`/join/${open.row.id}`}
            hosts={phoneHosts()}
          />
        }
      />
      {others && (
        <p className="border-secondary mx-4 mt-1 border-l-4 pl-3 lg:mx-7">
          These are the scores of <b>{open.owner}</b>.{' '}
          <a className="inline-block min-h-6 underline" href={`/join/${open.row.id}`}>
            Score it yourself
          </a>
        </p>
      )}
      {run && (
        <HowItPrinted
          {...run}
          ended={ago(run.endedAt, Date.parse(now()))}
          nudges={wires.nudgesOf(open.print.id)}
          planned={plannedS(files.checked(open.print.fileId))}
          stands={stands}
          picture={`/files/${open.print.fileId}/picture`}
          above={(open.plan.view === 'top' && open.plan.frame) || null}
        />
      )}
      {open.print.simulated && <SimulatedNote {...open.print.simulated} />}
      {stands.strips ? (
        <FiguresScreen
          key={open.row.id}
          ladderId={ladder.id}
          picture={pictureOf(open.print)}
          strips={stands.strips}
          marks={marksSaid(open.plan.axes)}
          where={kind.criteria[0]!.where.split(':')[0]!}
          readingId={open.row.id}
          kept={kept}
          photos={pictures}
        />
      ) : kind.criteria.length === 0 ? (
        <MeasureScreen
          key={open.row.id}
          ladderId={ladder.id}
          picture={pictureOf(open.print)}
          finds={kind.finds}
          fed={kind.feeds ? fedIn(kind.feeds, open.plan.spec) : null}
          print={stands}
          sentence={[open.print.simulated ? MEASURED : MEASURE, marksSaid(open.plan.axes)]
            .filter(Boolean)
            .join(' ')}
          measures={measures}
          readingId={open.row.id}
          kept={kept}
          photos={pictures}
        />
      ) : (
        <ReadScreen
          key={open.row.id}
          ladderId={ladder.id}
          picture={pictureOf(open.print)}
          simulated={open.print.simulated !== null}
          view={stands.view}
          rungs={stands.rungs}
          cells={stands.cells}
          height={stands.height}
          width={stands.width}
          stretch={stands.stretch}
          criteria={kind.criteria.map(({ weight: _, ...one }) => one)}
          kept={kept}
          photos={pictures}
          // What was drawn of a simulated print is what stands there already.
          looks={stripsOf(copies, open.print.id).filter(({ drawn }) => !drawn)}
          measures={measures}
          tapped={tapped}
          place={{
            ...place,
            mode: place.mode === 'best' && !tapped ? 'rung' : place.mode,
            rung: Math.min(place.rung, open.plan.rungs.length - 1),
            criterion: Math.min(place.criterion, kind.criteria.length - 1),
          }}
          readingId={open.row.id}
          half={isHalf(open.row.id)}
          finds={kind.finds}
        />
      )}
    </>
  );
}

/** What the planner says that a file takes, heating and all, s. */
const plannedS = (checked: Checked | null): number | null =>
  checked && Object.values(checked.times).reduce((sum, seconds) => sum + seconds, 0);

/** Whose reading it is, or which; the number where somebody looked more than once. */
function readingName(readings: readonly { row: ReadingRow }[], at: number): string {
  const { reader } = readings[at]!.row;
  if (reader === '') return `reading ${at + 1}`;
  const own = readings.filter(({ row }) => row.reader === reader).map(({ row }) => row.id);
  const which = own.indexOf(readings[at]!.row.id);
  return which === 0 ? reader : `${reader} ${which + 1}`;
}

function safeJson(text: string | null): unknown {
  try {
    return JSON.parse(text ?? 'null');
  } catch {
    return null;
  }
}
