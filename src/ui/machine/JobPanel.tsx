'use client';
// A print on its way: how far it is, and what can be done about it.
import Link from 'next/link';
import { isOver as isOverState, MAY_WISH } from '@/core/job-states';
import type { LinkState } from '@/core/link-state';
import { ActButton, type Outcome } from '../common/ActButton';
import { counted } from '../common/format';

type Job = NonNullable<LinkState['job']>;
export type JobActs = {
  pause: () => Promise<Outcome>;
  go: () => Promise<Outcome>;
  stop: () => Promise<Outcome>;
};
type Props = {
  job: Job;
  acts: JobActs;
  /** Where its ladder is, if it is one. */
  href: string | null;
};

const SAYS: Record<Job['state'], string> = {
  printing: 'Printing',
  pausing: 'Pausing …',
  paused: 'Paused',
  stopping: 'Stopping …',
  lost: 'Link lost, looking for it',
  finished: 'Printed to the end',
  stopped: 'Stopped',
  failed: 'Ended early',
};

export const isOver = ({ state }: Job): boolean => isOverState(state);

/** What can be done about a print that is under way. */
export function JobButtons({ state, acts }: { state: Job['state']; acts: JobActs }) {
  return (
    <>
      {state === 'paused' || state === 'pausing' ? (
        <ActButton className="btn-main" needs="start" act={acts.go}>
          Go on
        </ActButton>
      ) : (
        MAY_WISH.pause.includes(state) && (
          <ActButton className="btn-quiet" act={acts.pause}>
            Pause
          </ActButton>
        )
      )}
      {MAY_WISH.stop.includes(state) && (
        <ActButton className="btn-quiet" act={acts.stop}>
          Stop and cool
        </ActButton>
      )}
    </>
  );
}

export function JobPanel({ job, acts, href }: Props) {
  const { state, line, sure, lines, why, keepsHeatS, name } = job;
  return (
    <section aria-label="Print on the machine" role="status">
      <h1 className="text-2xl font-semibold lg:text-3xl">
        {SAYS[state]}
        {isOver(job) ? '' : `, ${Math.floor((100 * line) / Math.max(1, lines))} %`}
      </h1>
      <p className="mt-1 font-mono text-sm break-all">{name}</p>
      {why && <p className="border-secondary my-3 border-l-4 pl-3">{why}</p>}
      {!isOver(job) && (
        <>
          <progress
            className="progress progress-primary mt-3 w-full"
            value={line}
            max={Math.max(1, lines)}
            aria-label="Printing progress"
          />
          <p className="soft">
            Line {counted(line)} of {counted(lines)}, the machine has surely taken {counted(sure)}.
            {keepsHeatS !== null &&
              ` Heat is kept for ${Math.max(1, Math.ceil(keepsHeatS / 60))} min more.`}
          </p>
          <div className="mt-3 flex flex-wrap gap-2">
            <JobButtons state={state} acts={acts} />
          </div>
        </>
      )}
      {href && (
        <p className="mt-3">
          <Link className="underline" href={href}>
            {state === 'finished' ? 'Score it' : 'Its ladder'}
          </Link>
        </p>
      )}
    </section>
  );
}
