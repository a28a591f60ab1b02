import { notFound } from 'next/navigation';
import { MACHINES, type MachinePreset } from '@/core/bench/presets';
import { saveMachine } from '../../../actions/things';
import { idOf } from '../../../server/ladder';
import { store } from '../../../server/store';
import { ThingsHeader } from '../../../server/things-header';
import { MachineForm } from '@/ui/things/MachineForm';

export const metadata = { title: 'Machine' };

type Props = { params: Promise<{ id: string }>; searchParams: Promise<{ from?: string }> };

export default async function MachinePage({ params, searchParams }: Props) {
  const { id } = await params;
  const { from } = await searchParams;
  const preset = Object.hasOwn(MACHINES, String(from))
    ? MACHINES[from as MachinePreset]
    : MACHINES.heron;
  const stored = id === 'new' ? null : store().machines.get(idOf(id));
  if (id !== 'new' && !stored) notFound();
  return (
    <>
      <ThingsHeader />
      <MachineForm
        key={id}
        revision={stored?.revision ?? null}
        machine={stored?.body ?? { ...structuredClone(preset), name: '' }}
        save={saveMachine.bind(null, stored?.id ?? null)}
      />
    </>
  );
}
