/** The header of the four screens of a ladder. */

import Link from 'next/link';
import { benchTitle } from '@/core/bench/bench';
import { Header } from '@/ui/common/Header';
import type { LadderView } from './ladder';
import { store } from './store';

type Screen = 'design' | 'print' | 'read' | 'finding';
const LABELS: Record<Screen, string> = {
  design: 'Design',
  print: 'Print',
  read: 'Score',
  finding: 'Finding',
};

export function LadderHeader({ view, here }: { view: LadderView; here: Screen }) {
  const { ladder, kind, bench } = view;
  const made = store().files.any(ladder.id);
  const printed = store().prints.any(ladder.id);
  const first: Record<Screen, string | null> = {
    design: null,
    print: made ? null : 'First generate its file, in Design.',
    read: printed ? null : 'First print it, and say so on Print.',
    finding: printed ? null : 'First print it and score its rungs.',
  };
  return (
    <Header
      title={kind.title}
      sub={
        <Link href={`/bench/${bench.id}`} className="hover:underline">
          <span aria-hidden>‹ </span>
          {benchTitle(bench.bench)}
        </Link>
      }
      ways={(Object.keys(LABELS) as Screen[]).map((screen) => ({
        href: `/ladder/${ladder.id}/${screen}`,
        // What is set of a sliced file is where its sections are.
        label: screen === 'design' && kind.ofFile ? 'Sections' : LABELS[screen],
        here: screen === here,
        first: first[screen],
      }))}
    />
  );
}
