'use client';
// The machine on the wire, in the head of its bench: what it is doing, and the way to it.
import Link from 'next/link';
import { isOver } from '@/core/job-states';
import { inOneWord, type LinkState } from '@/core/link-state';
import { useMachine } from '../machine/useMachine';

type Props = { bench: number; machine: number; name: string; first: LinkState | null };

const DOTS = {
  off: 'border-2 border-neutral',
  ready: 'bg-success',
  hot: 'bg-error',
  busy: 'bg-primary',
};

export function WireLink({ bench, machine, name, first }: Props) {
  const state = useMachine(machine, first);
  const { mark, says } = inOneWord(state);
  const job = state?.job && !isOver(state.job.state);
  return (
    <Link
      className="text-base-content flex min-h-11 shrink-0 items-center gap-2 text-base hover:underline"
      href={`/bench/${bench}/machine`}
      aria-label={`${name} on the wire: ${says}`}
    >
      <span aria-hidden className={`size-2.5 shrink-0 rounded-full ${DOTS[mark]}`} />
      <bdi className={`max-w-60 truncate ${job ? 'font-semibold' : ''}`}>
        {mark === 'off' ? `Connect ${name}` : says}
      </bdi>
    </Link>
  );
}
