import { redirect } from 'next/navigation';
import { makeFile } from '../../../actions/ladders';
import { LadderHeader } from '../../../server/ladder-header';
import { ladderView } from '../../../server/ladder';
import { standingSoon } from '../../../server/standing';
import { store } from '../../../server/store';
import { DesignScreen } from '@/ui/design/DesignScreen';

export const metadata = { title: 'Design' };

export default async function DesignPage({ params }: { params: Promise<{ id: string }> }) {
  const view = ladderView((await params).id);
  const { ladder, kind, bench } = view;
  const made = store().grafts.of(ladder.id);
  if (made) redirect(`/graft/${made.keptId}?ladder=${ladder.id}`);
  if (kind.ofFile) redirect(`/ladder/${ladder.id}/print`);
  const usual = kind.defaults(bench.bench) as Record<string, number>;
  return (
    <>
      <LadderHeader view={view} here="design" />
      <DesignScreen
        kind={{ id: kind.id, sentence: kind.sentence, fields: kind.fields, feeds: kind.feeds }}
        reason={kind.reason(bench.bench)}
        finds={kind.finds}
        bench={bench.bench}
        key={ladder.id}
        ladderId={ladder.id}
        kept={{ revision: ladder.revision, spec: ladder.spec }}
        usual={usual}
        standing={await standingSoon(kind.id, { ...usual, ...ladder.spec }, bench.bench)}
        make={makeFile.bind(null, ladder.id)}
      />
    </>
  );
}
