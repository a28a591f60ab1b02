import Link from 'next/link';
import type { LadderKind } from '@/core/ladders/types';
import { GOAL_NAMES, GOALS, hasGoals, weightsFor } from '@/core/reading/goals';
import { criterionMeans } from '@/core/reading/pool';
import {
  carryIt,
  keepRowStyle,
  proveValues,
  putIntoLedger,
  setUpLadder,
  takeBack,
  turnWeights,
} from '../../../actions/ladders';
import { revealTruths } from '../../../actions/understudy';
import { rowsOfFinding } from '@/core/reading/found-rows';
import { findingOf, groupFor } from '../../../server/finding';
import { nextGraft } from '../../../actions/grafts';
import { LadderHeader } from '../../../server/ladder-header';
import { AnotherBench } from '../../../server/another-bench';
import { ownerOf } from '../../../server/who';
import { copiesOf, groupsOf, ladderView, pictureOf, type Group } from '../../../server/ladder';
import { provenIn } from '../../../server/proven';
import { rowStyle } from '../../../server/rows';
import { nextOf } from '../../../server/rungs';
import { foreseenOf } from '../../../server/shakes';
import { stripsOf } from '../../../server/looks';
import { store } from '../../../server/store';
import { short } from '@/core/numbers';
import { differences } from '@/core/reading/differences';
import { leadAxis } from '@/core/plan/axes';
import { singleFor } from '@/core/ladders/registry';
import type { Finding, NextLadder } from '@/core/reading/finding';
import { settingInfo, type Setting } from '@/core/bench/settings';
import { onSharedAxis } from '@/core/view/shared-axis';
import { fedIn } from '@/ui/common/FeedDrawing';
import { SimulatedNote } from '@/ui/common/SimulatedNote';
import { ProofFinding } from '@/ui/finding/ProofFinding';
import { LimitsFinding } from '@/ui/finding/LimitsFinding';
import { MapFinding } from '@/ui/finding/MapFinding';
import { GridFinding } from '@/ui/finding/GridFinding';
import { FindingScreen } from '@/ui/finding/FindingScreen';
import { Weights } from '@/ui/finding/Weights';

export const metadata = { title: 'Finding' };

type Props = { params: Promise<{ id: string }>; searchParams: Promise<{ of?: string }> };

export default async function FindingPage({ params, searchParams }: Props) {
  const view = ladderView((await params).id);
  const { ladder, kind, bench } = view;
  const allCopies = copiesOf(ladder.id);
  const groups = groupsOf(allCopies);
  const group = groupFor(groups, String((await searchParams).of ?? ''));
  const found = await findingOf(ladder, bench.bench, group);
  const others = await Promise.all(
    groups
      .filter((one) => one !== group && one.begun)
      .map(async (one) => ({ one, found: await findingOf(ladder, bench.bench, one) })),
  );
  const criteria = kind.criteria.map(({ name }) => ({ name, weight: ladder.weights[name] ?? 0 }));
  const turn = turnWeights.bind(null, ladder.id);
  const goals = goalsOf(kind);
  const [main] = kind.finds;
  const rings = kind.criteria.some(({ name }) => name === 'ringing') && kind.id !== 'proof';
  const beside = others.length > 0 && (
    <p className="mx-4 mt-3 lg:mx-7">
      {others.map(({ one, found: other }) => (
        <Link
          key={one.of}
          className="mr-4 inline-block min-h-6 underline"
          href={`/ladder/${ladder.id}/finding?of=${one.of}`}
        >
          {nameOf(one)}: {other.ok ? valueInWords(other.value.finding) : 'no value yet'}
        </Link>
      ))}
    </p>
  );
  if (!found.ok) {
    return (
      <>
        <LadderHeader view={view} here="finding" />
        {beside}
        {rings && <ToShake bench={bench.id} />}
        <main className="max-w-2xl px-4 py-10 lg:px-7">
          <h1>No finding yet</h1>
          {found.problems.map(({ what, mend }) => (
            <p key={what} className="mt-3 text-lg">
              {what} {mend}
            </p>
          ))}
          <Link href={`/ladder/${ladder.id}/${group ? 'read' : 'print'}`} className="btn-main mt-6">
            {group ? 'Continue scoring' : 'To the print'}
          </Link>
          {criteria.length > 0 && group && (
            <Weights criteria={criteria} turn={turn} goals={goals} />
          )}
        </main>
      </>
    );
  }
  const { finding, plan, scores, copies, earlier, simulated } = found.value;
  const [{ value }] = finding.values;
  const stands = onSharedAxis(plan);
  const current = store()
    .ledger.current(bench.id)
    .filter((one) => one.simulated === (simulated !== null));
  const entryOf = (setting: Setting) => {
    const entry = current.find((one) => one.setting === setting);
    return (
      entry && {
        id: entry.id,
        value: entry.value,
        ofThis: entry.ladderId === ladder.id,
        simulated: entry.simulated,
        inMachine: entry.carriedAt !== null,
      }
    );
  };
  const readings = copies.flatMap((copy) => copy.readings).filter(({ begun }) => begun).length;
  const measured = copies.flatMap((copy) => copy.counted).length;
  /** The next ladder: of the same kind, or of the one setting of a grid that matters. */
  const setUpNext = ({ single, ranges }: NextLadder) => {
    const alone = single === undefined ? null : singleFor(single);
    const [of, spec] = alone ? [alone, alone.defaults(bench.bench)] : [kind, ladder.spec];
    return setUpLadder.bind(
      null,
      bench.id,
      of.id,
      of.moved(spec, ranges) as Record<string, number>,
    );
  };
  const shared = {
    finding,
    picture: pictureOf(copies.at(-1)!.print),
    looks: stripsOf(allCopies, copies.at(-1)!.print.id).filter(({ drawn }) => !drawn),
    simulated: simulated !== null,
    rungs: stands.rungs,
    reveal: simulated && revealTruths.bind(null, copies.at(-1)!.print.id),
    height: stands.height,
    width: stands.width,
    stretch: stands.stretch,
    from: `${copies.length} ${copies.length === 1 ? 'print' : 'prints'}, ${readings} ${readings === 1 ? 'reading' : 'readings'}${measured > 0 ? `, ${measured} by the loupe` : ''}${earlier > 0 ? `, ${earlier} of other prints` : ''}`,
    criteria: criteria.map((one) => ({
      ...one,
      means: criterionMeans(scores, one.name, plan.rungs.length),
    })),
    scoring: `/ladder/${ladder.id}/read`,
    carryIt,
    put: putIntoLedger.bind(null, ladder.id, group!.of),
    takeBack,
    after: current.some((one) => one.ladderId === ladder.id) ? nextOf(bench) : null,
    turn,
    goals,
    differences: copies.flatMap(({ readings: of }) =>
      differences(
        of.map(({ row, scores: given }, i) => ({
          reader: ownerOf(row) || `reading ${i + 1}`,
          scores: given,
        })),
      ).map((one) => ({ ...one, at: stands.rungs[one.rung]?.name ?? '' })),
    ),
    elsewhere: <AnotherBench ladder={ladder} kind={kind} />,
    next:
      finding.next &&
      (kind.ofFile
        ? nextGraft.bind(null, ladder.id, finding.next.ranges[kind.finds[0]])
        : setUpNext(finding.next)),
  };
  return (
    <>
      <LadderHeader view={view} here="finding" />
      {simulated && <SimulatedNote {...simulated} />}
      {beside}
      {rings && <ToShake bench={bench.id} />}
      {finding.proof ? (
        <ProofFinding
          key={group!.of}
          {...shared}
          proof={finding.proof}
          cells={stands.cells}
          rungs={stands.rungs}
          provable={provenIn(current, finding.values, simulated !== null).map(
            ({ setting, value, provenBy }) => ({ setting, value, proven: provenBy === ladder.id }),
          )}
          prove={proveValues.bind(null, ladder.id, group!.of)}
        />
      ) : finding.limits && stands.cells ? (
        <LimitsFinding
          key={group!.of}
          {...shared}
          limits={finding.limits}
          cells={stands.cells}
          carry={value === null ? null : kind.carry(finding.values[0].setting, value, bench.bench)}
          entry={entryOf(finding.values[0].setting)}
          rows={rowsOfFinding(finding)}
          style={rowStyle()}
          keepStyle={keepRowStyle}
          file={fileStem(plan.file)}
          foreseen={
            kind.id === 'shaper-check' ? foreseenOf(plan, bench.id, simulated !== null) : null
          }
        />
      ) : finding.map ? (
        <MapFinding
          key={group!.of}
          {...shared}
          map={finding.map}
          carry={value === null ? null : kind.carry(main, value, bench.bench)}
          entry={entryOf(main)}
          style={rowStyle()}
          keepStyle={keepRowStyle}
          file={fileStem(plan.file)}
        />
      ) : stands.cells && kind.rule.kind === 'plane' ? (
        <GridFinding
          key={group!.of}
          {...shared}
          axes={plan.axes}
          cells={stands.cells}
          carry={finding.values.map((one) =>
            one.value === null ? null : kind.carry(one.setting, one.value, bench.bench),
          )}
          entries={finding.values.map((one) => entryOf(one.setting))}
        />
      ) : (
        <FindingScreen
          key={group!.of}
          {...shared}
          axis={leadAxis(plan)}
          rungs={stands.rungs}
          carry={value === null ? null : kind.carry(main, value, bench.bench)}
          entry={entryOf(main)}
          fed={kind.feeds ? fedIn(kind.feeds, plan.spec) : null}
          table={value === null ? null : (kind.table?.(value, plan.bench) ?? null)}
        />
      )}
    </>
  );
}

/** Weights by what prints are for; none where all criteria serve the same. */
const goalsOf = (kind: LadderKind) =>
  hasGoals(kind)
    ? GOAL_NAMES.map((goal) => ({
        title: GOALS[goal].title,
        weights: weightsFor(goal, kind),
      }))
    : [];

/** The value of a finding, for a link beside another one. */
function valueInWords({ values: [{ setting, value }] }: Finding): string {
  return value === null ? 'no value yet' : `${short(value)} ${settingInfo(setting).unit}`;
}

const nameOf = ({ simulated }: Group): string =>
  simulated ? `Simulated on “${simulated.name}”` : 'Real prints';

/** Name of a file without its ending. */
const fileStem = (name: string): string => name.replace(/\.[^.]*$/, '');

/** What rings can be measured too: the way there from the ladders that look at it. */
const ToShake = ({ bench }: { bench: number }) => (
  <p className="mx-4 mt-3 lg:mx-7">
    <Link className="inline-block min-h-6 underline" href={`/bench/${bench}/shake`}>
      Shake the machine with a sensor
    </Link>{' '}
    <span className="soft">to measure what rings.</span>
  </p>
);
