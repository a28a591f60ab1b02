'use client';
// Which print and which look at it; several are pooled in the finding.
import Link from 'next/link';
import { ActButton, type Outcome } from '../common/ActButton';

type Props = {
  ladderId: number;
  chosen: number;
  all: { id: number; label: string }[];
  again: () => Promise<Outcome>;
  copy: () => Promise<Outcome>;
};

export function ReadingTabs({ ladderId, chosen, all, again, copy }: Props) {
  return (
    <details className="mx-4 lg:mx-7">
      <summary className="soft min-h-8 cursor-pointer leading-8">
        {all.find(({ id }) => id === chosen)?.label}
        {all.length > 1 && ` of ${all.length}`} · more readings
      </summary>
      <div className="flex flex-wrap items-center gap-2 pb-2">
        {all.map(({ id, label }) => (
          <Link
            key={id}
            href={`/ladder/${ladderId}/read?reading=${id}`}
            aria-current={id === chosen ? 'page' : undefined}
            className={`btn btn-sm font-normal ${id === chosen ? 'btn-neutral' : 'btn-ghost'}`}
          >
            {label}
          </Link>
        ))}
        <ActButton className="btn-quiet btn-sm" act={again}>
          Read the same print again
        </ActButton>
        <ActButton className="btn-quiet btn-sm" act={copy}>
          Printed once more
        </ActButton>
      </div>
    </details>
  );
}
