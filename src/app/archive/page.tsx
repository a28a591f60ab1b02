import type { Metadata } from 'next';
import { kindOf } from '@/core/ladders/registry';
import { archiveIt } from '../actions/archive';
import { now, store } from '../server/store';
import { ThingsHeader } from '../server/things-header';
import { ArchiveList } from '@/ui/things/ArchiveList';

export const metadata: Metadata = { title: 'Archive' };

const MOST = 300;

export default function ArchivePage() {
  const rows = store()
    .archive.all(MOST)
    .map((row) => {
      const kind = kindOf(row.name);
      return { ...row, name: kind.ok ? kind.value.title : row.name };
    });
  return (
    <>
      <ThingsHeader />
      <main className="mx-auto max-w-3xl px-4 py-8">
        <h1>Archive</h1>
        <ArchiveList rows={rows} nowMs={Date.parse(now())} archive={archiveIt} />
      </main>
    </>
  );
}
