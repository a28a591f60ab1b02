// How warm the machine is, in one line that is read at a glance.
import type { Heat, Temperatures } from '@/core/link-state';
import { heatNote, heatSaid } from '@/core/warmth';

export function HeatLine({ heat }: { heat: Temperatures }) {
  return (
    <div>
      <p className="soft">{heatSaid(heat)}</p>
      <p className="flex flex-wrap items-baseline gap-x-8">
        <Part title="Nozzle" heat={heat.nozzle} />
        <Part title="Bed" heat={heat.bed} />
      </p>
    </div>
  );
}

const Part = ({ title, heat }: { title: string; heat: Heat | undefined }) => (
  <span className="whitespace-nowrap">
    <strong className="text-3xl leading-tight">{heat ? `${Math.round(heat.now)} °C` : '–'}</strong>{' '}
    <span className="soft">
      {title}, {heatNote(heat)}
    </span>
  </span>
);
