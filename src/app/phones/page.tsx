import type { Metadata } from 'next';
import { RIGHT_WORDS } from '@/core/rights';
import {
  allowDevice,
  hideCode,
  nameReader,
  putOutDevice,
  showCode,
  switchPhones,
} from '../actions/phones';
import { now } from '../server/store';
import { mainWays } from '../server/ways';
import { askingDevice, computerReader, lan } from '../server/who';
import { Header } from '@/ui/common/Header';
import { PhonesScreen } from '@/ui/phones/PhonesScreen';

export const metadata: Metadata = { title: 'Phones' };

const CLOSED = {
  on: false,
  at: [],
  problems: [],
  offer: null,
  closedUntil: null,
  devices: [],
};

export default async function PhonesPage() {
  const device = await askingDevice();
  return (
    <>
      <Header title="Ash Ladder" titleHref="/" ways={mainWays('phones')} />
      {device ? (
        <main className="mx-auto max-w-2xl px-4 py-8">
          <h1>
            <bdi>{device.name}</bdi> is let in
          </h1>
          <p className="mt-3 text-lg">
            Scores from here are those of <b>{device.reader}</b>. It may look, score, take pictures,
            save values, set up ladders, watch a print and stop it
            {device.rights.map((right) => `, ${RIGHT_WORDS[right]}`).join('')}. Who is let in, and
            what each may do, is decided at the computer.
          </p>
        </main>
      ) : (
        <PhonesScreen
          {...(lan()?.state() ?? CLOSED)}
          reader={computerReader()}
          nowMs={Date.parse(now())}
          turn={switchPhones}
          show={showCode}
          hide={hideCode}
          putOut={putOutDevice}
          allow={allowDevice}
          nameReader={nameReader}
        />
      )}
    </>
  );
}
