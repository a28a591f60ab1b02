// How warm the machine is, and what it is told to be: two bars that are read at a glance.
import type { Heat, Temperatures } from '@/core/link-state';

type Props = { heat: Temperatures; hottest: { nozzle: number; bed: number } };

const ROOM = 20;

export function HeatBars({ heat, hottest }: Props) {
  const { nozzle, bed } = heat;
  const hot = (nozzle?.target ?? 0) > 0 || (bed?.target ?? 0) > 0;
  const said = nozzle !== undefined || bed !== undefined;
  return (
    <div>
      <p className="soft mb-3">
        {hot ? 'Told to be warm' : said ? 'Heaters are off' : 'It has not said how warm it is'}
      </p>
      <div className="flex gap-8">
        <Bar title="Nozzle" heat={nozzle} most={hottest.nozzle} />
        <Bar title="Bed" heat={bed} most={Math.max(hottest.bed, 60)} />
      </div>
    </div>
  );
}

function Bar({ title, heat, most }: { title: string; heat: Heat | undefined; most: number }) {
  const share = (celsius: number) =>
    `${100 * Math.min(1, Math.max(0, (celsius - ROOM) / (most - ROOM)))}%`;
  const target = heat?.target ?? 0;
  const told = !heat ? 'not said' : target > 0 ? `to ${Math.round(target)} °C` : 'off';
  return (
    <div>
      <div className="flex items-end gap-3">
        <div className="border-base-300 bg-base-200 relative h-20 w-7 overflow-hidden rounded-sm border lg:h-52">
          <div
            className="bg-secondary absolute inset-x-0 bottom-0"
            style={{ height: heat ? share(heat.now) : 0 }}
          />
          {target > 0 && (
            <div
              className="border-primary absolute inset-x-0 border-t-2"
              style={{ bottom: share(target) }}
            />
          )}
        </div>
        <strong className="text-2xl whitespace-nowrap">
          {heat ? `${Math.round(heat.now)} °C` : '–'}
        </strong>
      </div>
      <p className="soft mt-2">
        {title}, {told}
      </p>
    </div>
  );
}
