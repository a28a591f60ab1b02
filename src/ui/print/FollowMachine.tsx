'use client';
// A print page that was open before something began on the machine: it is made anew when that is told.
import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import { isOver } from '@/core/job-states';
import type { LinkState } from '@/core/link-state';
import { useMachine } from '../machine/useMachine';

/** What of a machine this page was made with: whether it can be printed on, and whether it prints this file. */
const shownOf = (state: LinkState | null, fileId: number): string => {
  const job = state?.job;
  const mine = job?.file === fileId && !isOver(job.state);
  return `${state?.link ?? 'none'} ${state?.simulated?.name ?? ''} ${mine ? job.id : ''}`;
};

type Props = { machine: number; fileId: number; first: LinkState | null };

export function FollowMachine({ machine, fileId, first }: Props) {
  const router = useRouter();
  const now = shownOf(useMachine(machine, first), fileId);
  const made = shownOf(first, fileId);
  useEffect(() => {
    if (now !== made) router.refresh();
  }, [now, made, router]);
  return null;
}
