import type { Metadata } from 'next';
import { forgetLong, limitPictures } from '../../actions/room';
import { keeping } from '../../server/keeper';
import { pictureLimit } from '../../server/room';
import { now } from '../../server/store';
import { ThingsHeader } from '../../server/things-header';
import { RoomScreen } from '@/ui/things/RoomScreen';

export const metadata: Metadata = { title: 'Room' };

export default async function RoomPage() {
  const room = await keeping({ do: 'room', now: Date.parse(now()) });
  return (
    <>
      <ThingsHeader />
      <RoomScreen room={room} limit={pictureLimit()} setLimit={limitPictures} forget={forgetLong} />
    </>
  );
}
