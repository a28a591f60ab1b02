import { redirect } from 'next/navigation';
import { z } from 'zod';
import { putReadingAway } from '../../../actions/reading';
import { readAgain, itIsPrinted } from '../../../actions/ladders';
import { LadderHeader } from '../../../server/ladder-header';
import { copiesOf, ladderView, pictureOf } from '../../../server/ladder';
import { store } from '../../../server/store';
import { SimulatedNote } from '@/ui/common/SimulatedNote';
import { ReadingTabs } from '@/ui/read/ReadingTabs';
import { ReadScreen } from '@/ui/read/ReadScreen';

export const metadata = { title: 'Read' };

type Props = { params: Promise<{ id: string }>; searchParams: Promise<{ reading?: string }> };

const Place = z
  .object({
    rung: z.number().int().min(0),
    criterion: z.number().int().min(0),
    mode: z.enum(['rung', 'criterion']),
  })
  .catch({ rung: 0, criterion: 0, mode: 'rung' });

export default async function ReadPage({ params, searchParams }: Props) {
  const view = ladderView((await params).id);
  const { ladder, kind } = view;
  const copies = copiesOf(ladder.id);
  const all = copies.flatMap(({ print, plan, readings }, i) =>
    readings.map(({ row }, j) => ({
      row,
      print,
      plan,
      label: `print ${i + 1}${print.simulated ? ' (simulated)' : ''}, reading ${j + 1}`,
    })),
  );
  const asked = Number((await searchParams).reading);
  const open = all.find(({ row }) => row.id === asked) ?? all.at(-1);
  if (!open) redirect(`/ladder/${ladder.id}/print`);
  const { readings, places } = store();
  const placeName = `reading ${open.row.id}`;
  const place = Place.parse(safeJson(places.get(placeName)));
  return (
    <>
      <LadderHeader view={view} here="read" />
      <ReadingTabs
        ladderId={ladder.id}
        chosen={open.row.id}
        all={all.map(({ row, label }) => ({ id: row.id, label }))}
        again={readAgain.bind(null, open.print.id)}
        copy={itIsPrinted.bind(null, open.print.fileId)}
        putAway={putReadingAway}
      />
      {open.print.simulated && <SimulatedNote {...open.print.simulated} />}
      <ReadScreen
        key={open.row.id}
        ladderId={ladder.id}
        picture={pictureOf(open.print)}
        simulated={open.print.simulated !== null}
        setting={kind.setting}
        rungs={open.plan.rungs}
        height={open.plan.height}
        width={open.plan.width}
        criteria={kind.criteria.map(({ name, where }) => ({ name, where }))}
        taps={readings.answered(open.row.id)}
        place={{
          ...place,
          rung: Math.min(place.rung, open.plan.rungs.length - 1),
          criterion: Math.min(place.criterion, kind.criteria.length - 1),
        }}
        readingId={open.row.id}
      />
    </>
  );
}

function safeJson(text: string | null): unknown {
  try {
    return JSON.parse(text ?? 'null');
  } catch {
    return null;
  }
}
