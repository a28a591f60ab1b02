import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { benchTitle } from '@/core/bench/bench';
import { climbsInFiles, graftKind } from '@/core/ladders/graft/kind';
import { kindFor, kinds } from '@/core/ladders/registry';
import { nextStop } from '@/core/route/route';
import { isKept, saidValue, settingInfo, type Setting } from '@/core/bench/settings';
import { SHAPER_FREQUENCIES } from '@/core/bench/shaper';
import { carryByCommand } from '@/core/ladders/commands';
import { archiveIt } from '../../actions/archive';
import { carryIt, keepRowStyle, setUpLadder, takeBack } from '../../actions/ladders';
import { short } from '@/core/numbers';
import { idOf } from '../../server/ladder';
import { rowStyle } from '../../server/rows';
import { linkState } from '../../server/link';
import { routeNow, rungsOf, stampOf } from '../../server/rungs';
import { isReplacing, now, store } from '../../server/store';
import { mainWays } from '../../server/ways';
import { BenchPicker } from '@/ui/bench/BenchPicker';
import { FirstPath } from '@/ui/bench/FirstPath';
import { RouteLadder } from '@/ui/bench/RouteLadder';
import { WireLink } from '@/ui/bench/WireLink';
import { BenchSide } from '@/ui/bench/BenchSide';
import { History, type HistoryRow } from '@/ui/bench/History';
import { ShelfList } from '@/ui/bench/ShelfList';
import { tunedIn } from '@/core/route/base';
import { RowsOut } from '@/ui/common/RowsOut';
import { Header } from '@/ui/common/Header';

/** Most ladders of a bench, and benches to choose from, that a page lists. */
const MOST_LISTED = 40;
/** Values that its history goes back. */
const MOST_VALUES = 100;
const MOST_KEPT = 100;

type Props = { params: Promise<{ id: string }> };

export const metadata: Metadata = { title: 'Bench' };

/** What a table that goes with a value is called. */
const tableTitle = (setting: Setting): string =>
  setting === 'advance' ? 'Map of pressure advance' : `Table of ${settingInfo(setting).title}`;

export default async function BenchPage({ params }: Props) {
  const id = idOf((await params).id);
  const { benches, ledger, ladders, kept, places } = store();
  const stored = benches.get(id);
  if (!stored) notFound();
  if (!isReplacing()) places.set('bench', String(id));
  const entries = ledger.current(id);
  const every = ledger.newest(id, MOST_VALUES);
  const route = routeNow(stored, entries);
  const next = nextStop(route)?.kind ?? null;
  const nowMs = Date.parse(now());
  const carried = entries.flatMap(({ id: entry, setting, value, simulated, carriedAt }) => {
    const kind =
      kinds().find(({ finds }) => finds.includes(setting)) ??
      (climbsInFiles(setting) ? graftKind(setting) : null);
    // A shaper is one line of several settings, told once, with what the same side of the ledger has of it.
    const shaper = SHAPER_FREQUENCIES.some((one) => one === setting);
    if (!kind && !shaper) return [];
    const tuned = Object.fromEntries(
      entries.filter((one) => one.simulated === simulated).map((one) => [one.setting, one.value]),
    );
    const bench = { ...stored.bench, tuned };
    const way = kind
      ? kind.carry(setting, value, stored.bench)
      : carryByCommand(setting, value, bench);
    const asked = !simulated && isKept(setting);
    return [
      { id: entry, setting, simulated, inMachine: asked ? carriedAt !== null : null, ...way },
    ];
  });
  const history = every.map((entry): HistoryRow => ({
    id: entry.id,
    title: settingInfo(entry.setting).title,
    said: saidValue(entry.setting, entry.value),
    between:
      entry.low !== null
        ? `${short(entry.low)} and ${short(entry.high!)}`
        : entry.shakeId === null
          ? 'entered by hand'
          : '–',
    foundAt: entry.foundAt,
    standsOn: tunedIn(entry.base),
    current: entry.replacedAt === null,
    ladderId: entry.ladderId,
    simulated: entry.simulated,
  }));
  const rungs = rungsOf(stored, route, every);
  const stamp = stampOf(stored.bench);
  const listed = ladders.ofBench(id, MOST_LISTED).map((ladder) => {
    const found = kindFor(ladder);
    const kind = found.ok ? found.value : undefined;
    const { from, to, step } = ladder.spec;
    return {
      id: ladder.id,
      title: kind?.title ?? ladder.kind,
      detail:
        from === undefined
          ? ''
          : `${from} to ${to} ${kind ? settingInfo(kind.finds[0]).unit : ''} by ${step}`,
      href: `/ladder/${ladder.id}`,
      at: ladder.createdAt,
    };
  });
  return (
    <>
      <Header
        title="Ash Ladder"
        sub={
          <span className="flex min-w-0 flex-wrap items-center gap-x-4 lg:flex-nowrap">
            <BenchPicker
              chosen={id}
              title={benchTitle(stored.bench)}
              benches={benches.titles(MOST_LISTED)}
              more={benches.count() > MOST_LISTED}
            />
            <WireLink
              bench={id}
              machine={stored.machineId}
              name={stored.bench.machine.name}
              first={await linkState(stored.machineId)}
            />
          </span>
        }
        ways={mainWays('bench', id)}
      />
      <main className="grid grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-8 px-4 py-6 lg:grid-cols-[minmax(0,2fr)_minmax(19rem,1fr)] lg:px-7">
        <div>
          <h1 className="sr-only">{benchTitle(stored.bench)}</h1>
          {every.length === 0 && (
            <FirstPath state={rungs.find(({ kind }) => kind === next)?.underway?.state ?? null} />
          )}
          <RouteLadder
            rungs={rungs}
            nowMs={nowMs}
            chosen={next}
            bench={id}
            stamp={stamp}
            setUp={setUpLadder.bind(null, id)}
          />
          {entries.flatMap(({ id: entry, rows, simulated, setting }) =>
            rows ? (
              <RowsOut
                key={entry}
                title={`${tableTitle(setting)}${simulated ? ', simulated' : ''}`}
                rows={rows}
                style={rowStyle()}
                keepStyle={keepRowStyle}
                file={`${benchTitle(stored.bench)} ${settingInfo(setting).title}`}
              />
            ) : (
              []
            ),
          )}
          <ShelfList
            title="Ladders of this bench"
            rows={listed}
            nowMs={nowMs}
            shelf="ladder"
            archive={archiveIt}
          />
          <ShelfList
            title="Files kept with this bench"
            rows={kept.ofBench(id, MOST_KEPT).map((file) => ({
              id: file.id,
              title: file.name,
              detail: `${short(file.bytes / 1e6, 1)} MB`,
              href: `/inspect?kept=${file.id}`,
              at: file.keptAt,
              also: { href: `/graft/${file.id}`, label: 'Make a ladder of it' },
            }))}
            nowMs={nowMs}
            shelf="file"
            archive={archiveIt}
          />
          <History rows={history} nowMs={nowMs} takeBack={takeBack} />
        </div>
        <BenchSide
          next={rungs.find(({ kind }) => kind === next) ?? null}
          bench={id}
          stamp={stamp}
          carried={carried}
          carry={carryIt}
          setUp={setUpLadder.bind(null, id)}
        />
      </main>
    </>
  );
}
