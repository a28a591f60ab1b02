import { redirect } from 'next/navigation';
import { drawnCorners } from '@/core/loupe/expected';
import type { Side } from '@/core/loupe/sight';
import { onSharedAxis } from '@/core/view/shared-axis';
import { LoupeScreen, type LoupePicture } from '@/ui/loupe/LoupeScreen';
import { archiveIt } from '../../../actions/archive';
import { countPicture, findCornersIn, measurePicture } from '../../../actions/loupe';
import { LadderHeader } from '../../../server/ladder-header';
import { copiesOf, idOf, ladderView, pictureOf } from '../../../server/ladder';
import { stripsOf } from '../../../server/looks';
import { store } from '../../../server/store';

export const metadata = { title: 'Loupe' };

type Props = {
  params: Promise<{ id: string }>;
  searchParams: Promise<{ print?: string; photo?: string }>;
};

/** Numbers out of a picture of a print: straightened, measured, beside the rungs. */
export default async function LoupePage({ params, searchParams }: Props) {
  const view = ladderView((await params).id);
  const { ladder, kind } = view;
  const copies = copiesOf(ladder.id);
  const asked = await searchParams;
  const at = copies.findIndex(({ print }) => print.id === idOf(String(asked.print ?? '')));
  const number = at >= 0 ? at : copies.length - 1;
  const copy = copies[number];
  if (!copy) redirect(`/ladder/${ladder.id}/print`);
  const { print, plan } = copy;
  const { photos, prints, looks } = store();
  const simulated = print.simulated ? prints.picture(print.id) : null;
  const drawn = simulated ? sizeOfPng(simulated) : null;
  const kept = photos.ofPrint(print.id);
  const pictures: LoupePicture[] = [
    ...(drawn
      ? [
          {
            id: null,
            src: `/prints/${print.id}/picture`,
            whole: `/prints/${print.id}/picture`,
            ...drawn,
            corners: drawnCorners(plan, drawn),
          },
        ]
      : []),
    ...kept.map(({ id, width, height }) => ({
      id,
      src: `/photos/${id}`,
      whole: `/photos/${id}?whole`,
      width,
      height,
    })),
  ];
  const wanted = idOf(String(asked.photo ?? ''));
  const chosen =
    pictures.find(({ id }) => id === wanted && wanted > 0) ??
    (asked.photo === undefined ? pictures.at(-1) : pictures[0]) ??
    null;
  const look = chosen && looks.of(print.id, chosen.id);
  const stands = onSharedAxis(plan);
  // The latest picture of the print's other side, for what is told by both.
  const behind = look
    ? looks.ofPrint(print.id).findLast(({ found }) => isOtherSide(found.side, look.found.side))
    : undefined;
  // Other pictures of the ladder: before and after, front and back.
  const strips = stripsOf(copies);
  const sides: Side[] = plan.view === 'top' ? ['top'] : ['front', 'back'];
  return (
    <>
      <LadderHeader view={view} here="read" />
      <LoupeScreen
        key={print.id}
        ladderId={ladder.id}
        print={{ id: print.id, label: `print ${number + 1}`, simulated: print.simulated !== null }}
        drawing={pictureOf(print)}
        stands={stands}
        layer={plan.layerHeight}
        sides={sides}
        pictures={pictures}
        chosen={chosen}
        look={
          look && { id: look.id, found: look.found, counted: look.counted, takenAt: look.takenAt }
        }
        behind={behind?.found ?? null}
        criteria={kind.criteria.map(({ name }) => name)}
        count={countPicture}
        photos={{
          printId: print.id,
          first: { revision: photos.revision(print.id), photos: kept },
          archive: archiveIt,
        }}
        strip={strips.find(({ id }) => id === look?.id) ?? null}
        others={strips.filter(({ id }) => id !== look?.id)}
        find={findCornersIn}
        measure={measurePicture}
      />
    </>
  );
}

const isOtherSide = (one: Side, other: Side): boolean =>
  one !== other && one !== 'top' && other !== 'top';

/** Size of a PNG, from its head. */
function sizeOfPng(bytes: Uint8Array): { width: number; height: number } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return { width: view.getUint32(16), height: view.getUint32(20) };
}
