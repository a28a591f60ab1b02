import Link from 'next/link';
import { criterionMeans } from '@/core/reading/pool';
import { putIntoLedger, setUpLadder, takeBack, turnWeights } from '../../../actions/ladders';
import { revealTruths } from '../../../actions/understudy';
import { findingOf } from '../../../server/finding';
import { LadderHeader } from '../../../server/ladder-header';
import { copiesOf, ladderView, pictureOf } from '../../../server/ladder';
import { store } from '../../../server/store';
import { stood } from '@/core/view/standing';
import { SimulatedNote } from '@/ui/common/SimulatedNote';
import { FindingScreen } from '@/ui/finding/FindingScreen';

export const metadata = { title: 'Finding' };

export default async function FindingPage({ params }: { params: Promise<{ id: string }> }) {
  const view = ladderView((await params).id);
  const { ladder, kind, bench } = view;
  const found = findingOf(ladder, bench.bench);
  if (!found.ok) {
    const printed = copiesOf(ladder.id).length > 0;
    return (
      <>
        <LadderHeader view={view} here="finding" />
        <main className="max-w-2xl px-4 py-10 lg:px-7">
          <h1>No finding yet</h1>
          {found.problems.map(({ what, mend }) => (
            <p key={what} className="mt-3 text-lg">
              {what} {mend}
            </p>
          ))}
          <Link
            href={`/ladder/${ladder.id}/${printed ? 'read' : 'print'}`}
            className="btn-main mt-6"
          >
            {printed ? 'Go on reading' : 'To the print'}
          </Link>
        </main>
      </>
    );
  }
  const { finding, plan, scores, copies, earlier, simulated } = found.value;
  const stands = stood(plan);
  const entry = store()
    .ledger.current(bench.id)
    .find(({ setting }) => setting === kind.setting);
  const readings = copies.flatMap((copy) => copy.readings).filter(({ begun }) => begun).length;
  return (
    <>
      <LadderHeader view={view} here="finding" />
      {simulated && <SimulatedNote {...simulated} />}
      <FindingScreen
        finding={finding}
        picture={pictureOf(copies.at(-1)!.print)}
        simulated={simulated !== null}
        reveal={simulated && revealTruths.bind(null, copies.at(-1)!.print.id)}
        setting={kind.setting}
        rungs={stands.rungs}
        height={stands.height}
        width={stands.width}
        from={`${copies.length} ${copies.length === 1 ? 'print' : 'prints'}, ${readings} ${readings === 1 ? 'reading' : 'readings'}${earlier > 0 ? `, ${earlier} of the ladders before` : ''}`}
        criteria={kind.criteria.map(({ name }) => ({
          name,
          weight: ladder.weights[name] ?? 0,
          means: criterionMeans(scores, name, plan.rungs.length),
        }))}
        carry={finding.value === null ? null : kind.carry(finding.value, bench.bench)}
        entry={entry && { id: entry.id, value: entry.value, ofThis: entry.ladderId === ladder.id }}
        put={putIntoLedger.bind(null, ladder.id)}
        takeBack={takeBack}
        turn={turnWeights.bind(null, ladder.id)}
        next={
          finding.next &&
          setUpLadder.bind(
            null,
            bench.id,
            kind.id,
            kind.moved(ladder.spec, finding.next.range) as Record<string, number>,
          )
        }
      />
    </>
  );
}
