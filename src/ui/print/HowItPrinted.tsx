// How a copy was printed over the wire: when, how long, how warm, and what was nudged.
import type { HeatRow } from '@/core/link-state';
import type { Nudge } from '@/core/plan/nudged';
import { signed } from '@/core/numbers';
import { counted, duration } from '../common/format';
import { PrintPicture } from '../common/PrintPicture';
import { growing } from '@/core/view/grows';
import type { OnSharedAxis } from '@/core/view/shared-axis';
import { PrintWithRows } from '../common/PrintWithRows';
import { HeatAlong } from './HeatAlong';
import { NudgeMarks, type Frame } from './NudgeMarks';

type Props = {
  startedAt: string;
  endedAt: string;
  /** How long ago that was, in words. */
  ended: string;
  heat: readonly HeatRow[];
  nudges: readonly Nudge[];
  /** Seconds that the planner had said. */
  planned: number | null;
  /** The print as it stands, and its drawing. */
  stands: OnSharedAxis;
  picture: string;
  /** Of a print that is seen from above. */
  above: Frame | null;
};

export function HowItPrinted({ startedAt, endedAt, heat, nudges, above, ...props }: Props) {
  const { ended, planned, stands } = props;
  const rungs = growing(stands);
  const last = Math.max(0, ...heat.map(([, , , , , line = 0]) => line));
  const after = (at: string): string => duration((Date.parse(at) - Date.parse(startedAt)) / 1000);
  const bed = heat.map((row) => row[3]).filter((celsius) => celsius > 0);
  return (
    <details className="mx-4 lg:mx-7">
      <summary className="soft min-h-8 cursor-pointer leading-8">
        Printed over the wire in {after(endedAt)}
        {nudges.length > 0 && `, nudged by ${signed(nudges.at(-1)!.total)} mm`}
      </summary>
      <div className="flex flex-wrap items-start gap-x-10 gap-y-2 pb-4">
        <div className="max-w-2xl min-w-0 flex-1 basis-72">
          <p>
            It ended {ended}.{planned !== null && ` The planner had said ${duration(planned)}.`}
            {bed.length > 0 && ` The bed was at ${Math.round(Math.max(...bed))} °C at most.`}
          </p>
        </div>
        {last > 0 && (
          <PrintWithRows
            height={stands.height}
            width={stands.width}
            stretch={stands.stretch}
            rungs={rungs}
            className="pb-5 [--beside:11rem] [--room:calc(100vw-2rem)] [--tall:18rem] lg:[--beside:16rem] lg:[--room:40rem]"
            picture={<PrintPicture src={props.picture} />}
            over={<HeatAlong rows={heat} rungs={rungs} height={stands.height} last={last} />}
            row={({ name }) => <strong className="pl-3 whitespace-nowrap">{name}</strong>}
          />
        )}
        {nudges.length > 0 && (
          <div className="flex flex-wrap gap-6">
            {above && (
              <div
                className="drawing relative h-64 max-w-full"
                style={{ aspectRatio: aspect(above) }}
              >
                <PrintPicture src={props.picture} className="h-full w-full" />
                <NudgeMarks nudges={nudges} frame={above} />
              </div>
            )}
            <ol aria-label="Nudges">
              {nudges.map(({ mm, total, line, at }) => (
                <li key={`${line} ${at}`}>
                  <b>{signed(mm)} mm</b>{' '}
                  <span className="soft">
                    after {after(at)}, at line {counted(line)}: {signed(total)} in all
                  </span>
                </li>
              ))}
            </ol>
          </div>
        )}
      </div>
    </details>
  );
}

const aspect = ({ minX, maxX, minY, maxY }: Frame): string => `${maxX - minX} / ${maxY - minY}`;
