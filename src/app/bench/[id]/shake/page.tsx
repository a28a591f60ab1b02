import type { Metadata } from 'next';
import Link from 'next/link';
import { notFound } from 'next/navigation';
import { benchTitle } from '@/core/bench/bench';
import {
  AXIS_NAMES,
  kindsTaken,
  noShaper,
  shaperWay,
  shapingIn,
  type AxisName,
} from '@/core/bench/shaper';
import { SHAPER_TITLES } from '@/core/dialect/shapers';
import { slowestAxis } from '@/core/ladders/acceleration/kind';
import { short } from '@/core/numbers';
import { SENSOR_FAULTS } from '@/understudy/accelerometer';
import { READY } from '@/understudy/understudies';
import { archiveIt } from '../../../actions/archive';
import { stopEverything } from '../../../actions/link';
import {
  keepEchoes,
  keepShake,
  proveShaping,
  saveShaping,
  shakeOnWire,
  shakeUnderstudy,
} from '../../../actions/shakes';
import { idOf } from '../../../server/ladder';
import { linkState } from '../../../server/link';
import { echoesOf, keepShaken, shakesOf } from '../../../server/shakes';
import { now, store } from '../../../server/store';
import { Header } from '@/ui/common/Header';
import { ShakeScreen } from '@/ui/shake/ShakeScreen';

export const metadata: Metadata = { title: 'Shake' };

type Props = {
  params: Promise<{ id: string }>;
  searchParams: Promise<{ axis?: string; record?: string }>;
};

export default async function ShakePage({ params, searchParams }: Props) {
  const id = idOf((await params).id);
  const stored = store().benches.get(id);
  if (!stored) notFound();
  const query = await searchParams;
  const axis: AxisName = query.axis === 'y' ? 'y' : 'x';
  await keepShaken();
  const all = shakesOf(id);
  const of = (one: AxisName) => all.filter((row) => row.axis === one || row.axis === 'diagonals');
  const { bench } = stored;
  const { machine } = bench;
  const { dialect } = machine;
  const link = await linkState(stored.machineId);
  const shakes = of(axis);
  const entries = store().ledger.current(id);
  const held = (simulated: boolean): string | null => {
    const values = Object.fromEntries(
      entries.filter((one) => one.simulated === simulated).map((one) => [one.setting, one.value]),
    );
    const shaping = shapingIn(dialect, axis, values);
    if (shaping)
      return `${SHAPER_TITLES[shaping.type]} at ${short(shaping.hz, 1)} Hz, damping ${short(shaping.damping, 3)}`;
    // A frequency of nothing is a shaper that is not needed.
    return Object.keys(noShaper(dialect)).some((name) => name in values) ? 'no shaper' : null;
  };
  const wanted = idOf(query.record ?? '');
  return (
    <>
      <Header
        title={`Shake, ${axis} axis`}
        sub={
          <Link href={`/bench/${id}`} className="hover:underline">
            <span aria-hidden>‹ </span>
            {benchTitle(bench)}
          </Link>
        }
        ways={AXIS_NAMES.map((one) => ({
          href: `/bench/${id}/shake?axis=${one}`,
          label: `${one} axis`,
          here: one === axis,
        }))}
      />
      <ShakeScreen
        key={`${axis} ${query.record ?? ''}`}
        page={{
          benchId: id,
          bench,
          axis,
          shakes,
          others: of(axis === 'x' ? 'y' : 'x').filter((row) => row.axis !== 'diagonals'),
          chosen: shakes.some((row) => row.id === wanted) ? wanted : (shakes[0]?.id ?? null),
          shared: shaperWay(dialect) === 'both',
          kinds: { x: kindsTaken(dialect, 'x'), y: kindsTaken(dialect, 'y') },
          most: slowestAxis(bench),
          echoes: echoesOf(id, axis),
          ready: READY.map(({ name, seed }) => ({ name, seed })),
          faults: Object.entries(SENSOR_FAULTS).map(([name, says]) => ({ name, says })),
          wire: { machine: stored.machineId, first: link },
          ledger: { real: held(false), simulated: held(true) },
          nowMs: Date.parse(now()),
        }}
        acts={{
          keep: keepShake.bind(null, id),
          echoes: keepEchoes.bind(null, id, axis),
          understudy: shakeUnderstudy.bind(null, id),
          onWire: shakeOnWire.bind(null, id),
          save: saveShaping.bind(null, id),
          stopEverything: stopEverything.bind(null, id),
          prove: proveShaping.bind(null, id),
          putAway: archiveIt.bind(null, 'shake'),
        }}
      />
    </>
  );
}
