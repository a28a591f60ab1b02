'use client';
// Without a sensor: what the distance of echoes on a print tells.
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { short } from '@/core/numbers';
import { ActButton } from '../common/ActButton';
import { NumberBox } from '../common/NumberBox';
import type { ShakeActs, ShakePage } from './types';

type Props = Pick<ShakePage, 'axis' | 'benchId' | 'echoes'> & { acts: ShakeActs };

export function Echoes({ axis, benchId, echoes, acts }: Props) {
  const router = useRouter();
  const [sent, setSent] = useState(echoes ?? { speed: 60, distance: 6, gaps: 4 });
  const hz = (sent.speed * sent.gaps) / sent.distance;
  const box = (label: string, unit: string, key: keyof typeof sent) => (
    <NumberBox
      className="input input-sm w-20"
      label={label}
      unit={unit}
      value={sent[key]}
      onChange={(value) => setSent({ ...sent, [key]: value })}
    />
  );
  return (
    <section className="rule-above" aria-label="Without a sensor">
      <h2>Without a sensor</h2>
      {echoes && (
        <p className="mb-1">As it was measured on the acceleration ladder of this bench:</p>
      )}
      <p className="flex flex-wrap items-center gap-x-2 gap-y-2">
        On a face printed at {box('Speed of the face', 'mm/s', 'speed')} mm/s,
        {box('Gaps between echoes', '', 'gaps')} gaps between the echoes of a corner measure
        {box('Distance over them', 'mm', 'distance')} mm
        {hz > 0 && Number.isFinite(hz) ? `: ${short(hz, 1)} Hz.` : '.'}
      </p>
      <p className="mt-2">
        <ActButton
          className="btn-quiet"
          act={async () => {
            const kept = await acts.echoes(sent);
            if (!kept.ok) return kept;
            router.push(`/bench/${benchId}/shake?axis=${axis}&record=${kept.value}`);
            router.refresh();
          }}
        >
          Work it out from echoes
        </ActButton>
      </p>
    </section>
  );
}
