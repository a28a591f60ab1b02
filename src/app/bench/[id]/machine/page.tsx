import Link from 'next/link';
import { notFound } from 'next/navigation';
import { benchTitle } from '@/core/bench/bench';
import { inForce } from '@/core/bench/in-force';
import { MATERIALS } from '@/core/bench/materials';
import { bareValue, saidValue, settingInfo, type Values } from '@/core/bench/settings';
import { slowly } from '@/core/ladders/extruder-steps/kind';
import {
  applyToMachine,
  applyTuning,
  connectMachine,
  disconnectMachine,
  goOnPrinting,
  heatMachine,
  idleAfter,
  pausePrint,
  printKept,
  readMachine,
  sayToMachine,
  stopEverything,
  stopPrint,
  storeInMachine,
  takeBackPut,
  takeOver,
  tuneHeaterOf,
} from '../../../actions/link';
import { feedFilament, keepSteps, readRuler } from '../../../actions/steps';
import { idOf } from '../../../server/ladder';
import { linkState, portsHere, standIns } from '../../../server/link';
import { now, store } from '../../../server/store';
import { mainWays } from '../../../server/ways';
import { Header } from '@/ui/common/Header';
import { MachineScreen } from '@/ui/machine/MachineScreen';

export const metadata = { title: 'Machine' };

/** Values that were put into the machine and are listed. */
const MOST_LISTED = 12;
const MOST_KEPT = 60;

export default async function MachineOnWire({ params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id);
  const { benches, ledger, wires, files, kept } = store();
  const stored = benches.get(id);
  if (!stored) notFound();
  const { bench, machineId } = stored;
  const [first, ports] = await Promise.all([linkState(machineId), portsHere()]);
  const entries = ledger.current(id);
  const found = (simulated: boolean): Values =>
    Object.fromEntries(
      entries
        .filter((entry) => entry.simulated === simulated)
        .map(({ setting, value }) => [setting, value]),
    );
  const carried = (simulated: boolean) =>
    entries.flatMap((entry) =>
      entry.simulated === simulated && entry.carriedAt !== null ? [entry.setting] : [],
    );
  const history = wires.puts(machineId, MOST_LISTED).map((put) => ({
    id: put.id,
    title: settingInfo(put.setting).title,
    said: saidValue(put.setting, put.value),
    before: put.before === null ? null : bareValue(put.setting, put.before),
    stored: put.stored,
    simulated: put.simulated,
    at: put.at,
    takenBack: put.takenBackAt !== null,
  }));
  const file = first?.job?.file ? files.get(first.job.file) : null;
  const { machine, filament } = bench;
  return (
    <>
      <Header
        title={machine.name}
        sub={
          <Link href={`/bench/${id}`} className="hover:underline">
            ‹ {benchTitle(bench)}
          </Link>
        }
        ways={mainWays(null, id)}
      />
      <MachineScreen
        machine={machineId}
        name={machine.name}
        first={first}
        found={{ real: found(false), simulated: found(true) }}
        carried={{ real: carried(false), simulated: carried(true) }}
        dialect={machine.dialect}
        usual={{ nozzle: Math.round(inForce(bench).nozzle), bed: filament.bed }}
        slowly={slowly(bench)}
        coldest={MATERIALS[filament.material].coldest}
        ports={ports}
        standIns={standIns()}
        last={wires.of(machineId)?.address ?? null}
        kept={kept.ofBench(id, MOST_KEPT).map(({ id: one, name }) => ({ id: one, name }))}
        history={history}
        nowMs={Date.parse(now())}
        ladderOf={file ? { [file.id]: `/ladder/${file.ladderId}/print` } : {}}
        acts={{
          connect: connectMachine.bind(null, id),
          disconnect: disconnectMachine.bind(null, id),
          read: readMachine.bind(null, id),
          apply: applyToMachine.bind(null, id),
          store: storeInMachine.bind(null, id),
          takeBack: takeBackPut.bind(null, id),
          takeOver: takeOver.bind(null, id),
          tune: tuneHeaterOf.bind(null, id),
          applyTuning: applyTuning.bind(null, id),
          say: sayToMachine.bind(null, id),
          heat: heatMachine.bind(null, id),
          idleAfter: idleAfter.bind(null, id),
          stopEverything: stopEverything.bind(null, id),
          printKept: printKept.bind(null, id),
          feed: feedFilament.bind(null, id),
          ruler: readRuler.bind(null, id),
          keepSteps: keepSteps.bind(null, id),
          pause: pausePrint.bind(null, id),
          go: goOnPrinting.bind(null, id),
          stop: stopPrint.bind(null, id),
        }}
      />
    </>
  );
}
