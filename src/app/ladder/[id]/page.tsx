import { redirect } from 'next/navigation';
import { underwayOf } from '../../server/underway';
import { ladderView } from '../../server/ladder';

const SCREEN = { designed: 'design', printed: 'read', reading: 'read', read: 'finding' } as const;

/** Opens a ladder where its work stands. */
export default async function LadderPage({ params }: { params: Promise<{ id: string }> }) {
  const { ladder } = ladderView((await params).id);
  const state = underwayOf(ladder.benchId).find((one) => one.ladder === ladder.id)?.state ?? 'read';
  redirect(`/ladder/${ladder.id}/${SCREEN[state]}`);
}
