'use client';
// A print on which nothing is scored: it stands at the left, and what is measured is entered beside it.
import Link from 'next/link';
import type { OnSharedAxis } from '@/core/view/shared-axis';
import { useReading, type KeptReading } from './useReading';
import { PrintPicture } from '../common/PrintPicture';
import { PrintWithRows } from '../common/PrintWithRows';
import { MeasureForm, type MeasureField } from './MeasureForm';
import { PhotoButtons, PhotoRow, usePhotos, type PrintPhotos } from './Photos';

type Props = {
  ladderId: number;
  /** Null when nothing is printed that could be shown. */
  picture: string | null;
  print: OnSharedAxis;
  sentence: string;
  measures: MeasureField[];
  readingId: number;
  kept: KeptReading;
  photos: PrintPhotos;
};

export function MeasureScreen({
  ladderId,
  picture,
  print,
  sentence,
  measures,
  readingId,
  kept,
  photos,
}: Props) {
  const reading = useReading(readingId, kept);
  const pictures = usePhotos(photos);
  return (
    <main className="grid grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-6 px-4 py-6 lg:grid-cols-[auto_minmax(24rem,1fr)] lg:px-7">
      <h1 className="sr-only">Measure</h1>
      {picture && (
        <section aria-label="The print" className="max-lg:order-2">
          <PrintWithRows
            height={print.height}
            width={print.width}
            rungs={[]}
            className="[--beside:0rem] [--room:calc(100vw-2rem)] [--tall:calc(100dvh-12rem)] lg:[--room:calc(100vw-30rem)] lg:[--tall:calc(100dvh-11rem)]"
            picture={<PrintPicture src={picture} />}
            row={() => null}
          />
        </section>
      )}
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
      </section>
    </main>
  );
}
