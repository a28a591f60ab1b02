import type { Metadata } from 'next';
import { forgetLong, limitPictures } from '../../actions/room';
import { pictureLimit } from '../../server/room';
import { dataFolder, now, store } from '../../server/store';
import { roomOf } from '@/store/room';
import { ThingsHeader } from '../../server/things-header';
import { RoomScreen } from '@/ui/things/RoomScreen';

export const metadata: Metadata = { title: 'Room' };

export default function RoomPage() {
  const room = roomOf(store().db, dataFolder(), Date.parse(now()));
  return (
    <>
      <ThingsHeader />
      <RoomScreen room={room} limit={pictureLimit()} setLimit={limitPictures} forget={forgetLong} />
    </>
  );
}
