import { notFound } from 'next/navigation';
import { filamentOf } from '@/core/bench/presets';
import { saveFilament } from '../../../actions/things';
import { idOf } from '../../../server/ladder';
import { store } from '../../../server/store';
import { ThingsHeader } from '../../../server/things-header';
import { FilamentForm } from '@/ui/things/FilamentForm';

export const metadata = { title: 'Filament' };

export default async function FilamentPage({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  const stored = id === 'new' ? null : store().filaments.get(idOf(id));
  if (id !== 'new' && !stored) notFound();
  return (
    <>
      <ThingsHeader />
      <FilamentForm
        key={id}
        revision={stored?.revision ?? null}
        filament={stored?.body ?? filamentOf('', 'PLA')}
        save={saveFilament.bind(null, stored?.id ?? null)}
      />
    </>
  );
}
