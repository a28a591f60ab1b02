'use client';
// The shake file on the machine that is on the wire: begun here, watched here, and its record fetched where it has one.
import { useRouter } from 'next/navigation';
import { useEffect, useRef } from 'react';
import type { LinkState } from '@/core/link-state';
import type { Answer } from '@/core/result';
import { ActButton } from '../common/ActButton';
import { isOver } from '../machine/JobPanel';
import { StopEverything } from '../machine/StopEverything';
import { useMachine } from '../machine/useMachine';

type Props = {
  machine: number;
  name: string;
  first: LinkState | null;
  /** Where the newest record of this axis is shown. */
  href: string;
  begin: () => Promise<Answer>;
  stopEverything: () => Promise<Answer>;
};

const IS_SHAKE = /-shake-(x|y|diagonals)\.gcode$/;

export function OnWire({ machine, name, first, href, begin, stopEverything }: Props) {
  const router = useRouter();
  const state = useMachine(machine, first);
  const job = state?.job && IS_SHAKE.test(state.job.name) ? state.job : null;
  const running = job !== null && !isOver(job);
  const was = useRef(running);
  useEffect(() => {
    if (was.current && !running) {
      router.push(href);
      router.refresh();
    }
    was.current = running;
  }, [running, router, href]);
  if (running)
    return (
      <div role="status" className="mt-3">
        <p className="text-lg font-semibold">
          {name} is shaking, {Math.floor((100 * job.line) / Math.max(1, job.lines))} %
        </p>
        <progress
          className="progress progress-primary my-2 w-full max-w-md"
          value={job.line}
          max={Math.max(1, job.lines)}
          aria-label="Shaking progress"
        />
        <StopEverything stop={stopEverything} />
      </div>
    );
  if (state?.link !== 'ready') return null;
  return (
    <div className="mt-3">
      <ActButton needs="start" className="btn-quiet" working="Starting …" act={begin}>
        Shake {name} on the wire{state.simulated ? ', simulated' : ''}
      </ActButton>
      {job?.state === 'finished' && !state.simulated && (
        <p className="mt-1">It has shaken. Stop the record, and drop it here.</p>
      )}
      {job && job.state !== 'finished' && <p className="mt-1">{job.why ?? 'It was stopped.'}</p>}
    </div>
  );
}
