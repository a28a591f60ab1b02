import {
  MACHINE_KINDS,
  MACHINES,
  FILAMENTS,
  DEFAULT_NOZZLE,
  type MachinePreset,
} from '@/core/bench/presets';
import { benchTitle, joinBench } from '@/core/bench/bench';
import { makeBench } from '../actions/things';
import { bothScored } from '../server/blind';
import { store } from '../server/store';
import { mainWays } from '../server/ways';
import { Header } from '@/ui/common/Header';
import { InspectScreen } from '@/ui/inspect/InspectScreen';
import type { Choice } from '@/ui/inspect/OpenedFile';

/** Machines, and spools, to choose from. */
const MOST_NAMES = 400;

export const metadata = { title: 'Inspect a file' };

/** More are not listed; the one that is open always is. */
const MOST_BENCHES = 500;

type Query = { file?: string; kept?: string; line?: string; bench?: string };

export default async function ThroughPage({ searchParams }: { searchParams: Promise<Query> }) {
  const query = await searchParams;
  const { benches, files, kept, places, machines, filaments, ladders } = store();
  const made = query.file ? files.get(Number(query.file) || 0) : null;
  const stored = query.kept ? kept.get(Number(query.kept) || 0) : null;
  const benchOfFile = made && ladders.get(made.ladderId)?.benchId;
  const wanted = benchOfFile ?? stored?.benchId ?? Number(query.bench ?? places.get('bench'));
  // By name alone: of many benches only the one that is chosen comes with all that it holds.
  const own: Choice[] = benches.titles(MOST_BENCHES);
  // Without a bench of one's own, a file can still be looked at for the usual machines.
  const usual: Choice[] = (Object.keys(MACHINES) as MachinePreset[]).map((name) => ({
    id: null,
    title: MACHINE_KINDS[name],
    bench: joinBench(MACHINES[name], DEFAULT_NOZZLE, FILAMENTS.moss),
  }));
  const choices = own.length > 0 ? own : usual;
  const open = benches.has(wanted) ? benches.get(wanted) : null;
  if (open && !own.some(({ id }) => id === wanted))
    own.push({ id: wanted, title: benchTitle(open.bench) });
  const chosen = Math.max(
    0,
    choices.findIndex(({ id }) => id === wanted),
  );
  const { id } = choices[chosen]!;
  const start = made
    ? { url: `/files/${made.id}`, name: made.name }
    : stored
      ? { url: `/kept/${stored.id}`, name: stored.name }
      : null;
  return (
    <>
      <Header title="Ash Ladder" titleHref="/" ways={mainWays('inspect', wanted || undefined)} />
      <InspectScreen
        choices={choices}
        chosen={chosen}
        bench={id === null ? usual[chosen]!.bench! : benches.get(id)!.bench}
        start={
          start && {
            ...start,
            line: Number(query.line) || null,
            scored: made !== null && bothScored(made.id),
          }
        }
        machines={machines.names(MOST_NAMES)}
        filaments={filaments.names(MOST_NAMES)}
        makeBench={makeBench}
      />
    </>
  );
}
