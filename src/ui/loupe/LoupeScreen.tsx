'use client';
// The loupe: a picture of the print, straightened, its rungs beside the print's own, and what was measured on it.
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import type { Criterion } from '@/core/criteria';
import type { KeptLook, MovedPlace } from '@/core/loupe/kept';
import type { MeasureName } from '@/core/loupe/measures';
import type { Side } from '@/core/loupe/sight';
import type { OnSharedAxis } from '@/core/view/shared-axis';
import type { Result } from '@/core/result';
import { ActButton, type Outcome } from '../common/ActButton';
import type { ShownStrip } from '../common/LookStrip';
import { Problems } from '../common/Problems';
import { LoupeSketch } from '../common/Sketches';
import { PhotoButtons, PhotoRow, usePhotos, type PrintPhotos } from '../read/Photos';
import { CornerMarks, type FourCorners } from './CornerMarks';
import { LiveCamera } from './LiveCamera';
import { Measured } from './Measured';

export type LoupePicture = {
  /** Null for the picture of a simulated print. */
  id: number | null;
  src: string;
  whole: string;
  width: number;
  height: number;
  /** Where the corners are known to be, of a picture that was drawn. */
  corners?: FourCorners;
};
export type ShownLook = {
  id: number;
  found: KeptLook;
  counted: MeasureName[] | null;
  takenAt: string;
};

type Props = {
  ladderId: number;
  print: { id: number; label: string; simulated: boolean };
  drawing: string;
  stands: OnSharedAxis;
  /** Layer height, mm. */
  layer: number;
  sides: readonly Side[];
  pictures: readonly LoupePicture[];
  chosen: LoupePicture | null;
  look: ShownLook | null;
  /** What was found on a picture of the print's other side. */
  behind: KeptLook | null;
  photos: PrintPhotos;
  /** What this kind of ladder is looked at for. */
  criteria: readonly Criterion[];
  count: (print: number, photo: number | null, names: MeasureName[]) => Promise<Outcome>;
  find: (print: number, photo: number | null, side: Side) => Promise<Result<FourCorners>>;
  measure: (
    print: number,
    photo: number | null,
    side: Side,
    corners: FourCorners,
    moved?: MovedPlace[],
  ) => Promise<Outcome>;
  /** The picture that is shown, straightened, and others of this ladder. */
  strip: ShownStrip | null;
  others: readonly ShownStrip[];
};

const SIDE_WORDS: Record<Side, string> = { front: 'front', back: 'back', top: 'from above' };

export function LoupeScreen(props: Props) {
  const { ladderId, print, chosen, look, pictures, photos } = props;
  const taken = usePhotos(photos);
  // The picture that is put straight once more. The page itself stays when another picture is shown: somebody may be
  // choosing one just then.
  const [again, setAgain] = useState<string | null>(null);
  const shown = String(chosen?.id ?? 'drawn');
  const { refresh } = useRouter();
  // A picture that has just come, from here or from a phone, is offered as well.
  const come = taken.shown.filter(({ id }) => id !== null).length;
  const offered = pictures.filter(({ id }) => id !== null).length;
  useEffect(() => {
    if (come !== offered) refresh();
  }, [come, offered, refresh]);
  const straightens = chosen !== null && (look === null || again === shown);
  return (
    <main className="px-4 py-4 lg:px-7">
      <div className="mb-4 flex flex-wrap items-center gap-x-4 gap-y-2">
        <h1 className="text-xl font-semibold">Loupe</h1>
        <p className="soft">
          {print.label}
          {print.simulated && ', simulated'}
        </p>
        <nav aria-label="Pictures" className="flex flex-wrap gap-1">
          {pictures.map(({ id }, i) => (
            <Link
              key={id ?? 'drawn'}
              href={`/ladder/${ladderId}/loupe?print=${print.id}&photo=${id ?? 'drawn'}`}
              aria-current={id === chosen?.id ? 'page' : undefined}
              className={`btn btn-sm font-normal ${id === chosen?.id ? 'btn-chosen' : 'btn-ghost'}`}
            >
              {id === null
                ? 'as it was simulated'
                : `picture ${i + (pictures[0]!.id === null ? 0 : 1)}`}
            </Link>
          ))}
        </nav>
        <span className="flex-1" />
        {chosen !== null && <PhotoButtons take={taken.take} />}
        <LiveCamera rungs={props.stands.rungs} keep={(file, rung) => taken.keep([file], rung)} />
      </div>
      <PhotoRow {...taken} />
      {chosen === null && (
        <div className="mt-4 space-y-6">
          <p className="max-w-prose text-xl">
            There is no picture of this print yet. Take one straight{' '}
            {props.sides[0] === 'top' ? 'from above' : 'from the front'}, so that the whole print is
            on it, with light that grazes its face.
          </p>
          <PhotoButtons take={taken.take} large />
          <LoupeSketch />
          <p className="max-w-prose">
            Its four corners straighten it. Then it tells threads, sag, edges, corners, gaps and
            more, rung by rung, each with how sure it is; what a picture cannot tell it does not
            say.
          </p>
        </div>
      )}
      {straightens && (
        <Straighten {...props} key={shown} chosen={chosen} done={() => setAgain(null)} />
      )}
      {chosen && look && !straightens && (
        <Measured
          {...props}
          key={look.id}
          chosen={chosen}
          look={look}
          move={(moved) =>
            props.measure(print.id, chosen.id, look.found.side, look.found.corners!, moved)
          }
          count={(names) => props.count(print.id, chosen.id, names)}
          again={() => setAgain(shown)}
        />
      )}
    </main>
  );
}

type StraightenProps = Props & { chosen: LoupePicture; done: () => void };

/** Where corners lie before anybody has put them: a little inside the picture. */
const inside = ({ width, height }: LoupePicture): FourCorners => [
  { x: 0.12 * width, y: 0.88 * height },
  { x: 0.88 * width, y: 0.88 * height },
  { x: 0.88 * width, y: 0.12 * height },
  { x: 0.12 * width, y: 0.12 * height },
];

function Straighten({ print, chosen, look, sides, find, measure, done }: StraightenProps) {
  const [corners, setCorners] = useState<FourCorners>(
    look?.found.corners ?? chosen.corners ?? inside(chosen),
  );
  const [side, setSide] = useState<Side>(look?.found.side ?? sides[0]!);
  const [offered, setOffered] = useState(false);
  return (
    <section
      aria-label="Straighten"
      className="grid gap-x-10 gap-y-4 lg:grid-cols-[minmax(0,1fr)_22rem]"
    >
      <div
        className="mx-auto w-full overflow-x-auto p-6 max-w-[calc((100dvh-13rem)*var(--shape))] max-lg:max-w-[calc((100dvh-20rem)*var(--shape))]"
        style={{ '--shape': chosen.width / chosen.height } as React.CSSProperties}
      >
        <CornerMarks
          src={chosen.src}
          width={chosen.width}
          height={chosen.height}
          corners={corners}
          onChange={(next) => {
            setCorners(next);
            setOffered(false);
          }}
        />
      </div>
      <div className="space-y-4">
        <p className="text-lg">
          Pull the four marks onto the corners of the print’s outline
          {side === 'top' ? '.' : ', as wide as its foot and as high as its top.'}
        </p>
        {offered && (
          <p className="border-secondary border-l-4 pl-3">
            Found by its outline. Look at each before you go on.
          </p>
        )}
        {sides.length > 1 && (
          <fieldset className="flex gap-4">
            <legend className="soft mb-1">Seen from the</legend>
            {sides.map((one) => (
              <label key={one} className="flex min-h-11 items-center gap-2">
                <input
                  type="radio"
                  name="side"
                  className="radio"
                  checked={side === one}
                  onChange={() => setSide(one)}
                />
                {SIDE_WORDS[one]}
              </label>
            ))}
          </fieldset>
        )}
        <div className="flex flex-wrap gap-3">
          <ActButton
            className="btn-main"
            working="Measuring …"
            act={async () => {
              // Places that were moved stay where they are on the picture.
              const moved = look?.found.moved ?? [];
              const outcome = await measure(print.id, chosen.id, side, corners, moved);
              if (outcome.ok) done();
              return outcome;
            }}
          >
            Straighten and measure
          </ActButton>
          <ActButton
            working="Looking …"
            act={async () => {
              const outcome = await find(print.id, chosen.id, side);
              if (outcome.ok) {
                setCorners(outcome.value);
                setOffered(true);
              }
              return outcome.ok ? { ok: true, value: null } : outcome;
            }}
          >
            Find the corners
          </ActButton>
          {look && (
            <button type="button" className="btn-quiet" onClick={done}>
              Leave as it was
            </button>
          )}
        </div>
        {look && <Problems problems={look.found.problems} />}
      </div>
    </section>
  );
}
