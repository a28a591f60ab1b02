'use client';
// A print on which nothing is scored: it stands at the left, and what is measured is entered beside it.
import Link from 'next/link';
import type { Setting } from '@/core/bench/settings';
import type { OnSharedAxis } from '@/core/view/shared-axis';
import { useReading, type KeptReading } from './useReading';
import { Term } from '../common/Term';
import { FeedDrawing } from '../common/FeedDrawing';
import { PrintPicture } from '../common/PrintPicture';
import { PrintWithRows } from '../common/PrintWithRows';
import { MeasureForm, type MeasureField } from './MeasureForm';
import { PhotoButtons, PhotoRow, usePhotos, type PrintPhotos } from './Photos';

type Props = {
  ladderId: number;
  picture: string;
  /** How much filament is fed, and where it is marked, mm, where nothing is printed. */
  fed: { mark: number; length: number } | null;
  print: OnSharedAxis;
  sentence: string;
  /** What the print tells. */
  finds: readonly Setting[];
  measures: MeasureField[];
  readingId: number;
  kept: KeptReading;
  photos: PrintPhotos;
};

export function MeasureScreen({
  ladderId,
  picture,
  fed,
  print,
  sentence,
  finds,
  measures,
  readingId,
  kept,
  photos,
}: Props) {
  const reading = useReading(readingId, kept);
  const pictures = usePhotos(photos);
  return (
    <main className="stage [--beside:0rem] lg:[--around:10.5rem] lg:[--panel:24rem]">
      <h1 className="sr-only">Measure</h1>
      <section
        aria-label={fed ? 'What is measured' : 'The print'}
        className="stage-print max-lg:order-2"
      >
        {fed ? (
          <FeedDrawing {...fed} />
        ) : (
          <PrintWithRows
            height={print.height}
            width={print.width}
            rungs={[]}
            stretch={print.stretch}
            picture={<PrintPicture src={picture} />}
            row={() => null}
          />
        )}
      </section>
      <section className="max-w-2xl" aria-label="Measure">
        <div className="mb-5 flex items-start gap-3">
          <p className="flex-1 text-xl leading-relaxed">{sentence}</p>
          <PhotoButtons take={pictures.take} />
        </div>
        <PhotoRow {...pictures} />
        <MeasureForm measures={measures} measured={reading.measured} keep={reading.measure} />
        <Link href={`/ladder/${ladderId}/finding`} className="btn-main mt-6">
          See the finding
        </Link>
        <p className="soft mt-2">Every number is kept as it is typed.</p>
        {finds.map((one) => (
          <Term key={one} of={one} />
        ))}
      </section>
    </main>
  );
}
