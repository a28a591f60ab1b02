'use client';
// Pictures of the print: taken with the phone, kept with the print, seen on every device that looks at it.
import { Camera, Images } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { problem, type Problem } from '@/core/result';
import { ActButton, type Outcome } from '../common/ActButton';
import { outbox } from '../common/browser-outbox';
import { Dialog } from '../common/Dialog';
import { Problems } from '../common/Problems';
import { UndoNote } from '../common/UndoNote';
import { useKept } from '../common/useKept';

export type KeptPhoto = {
  id: number;
  uid: string;
  width: number;
  height: number;
  reader: string;
  takenAt: string;
  rung: number | null;
};
export type KeptPhotos = { revision: number; photos: KeptPhoto[] };
type Archive = (shelf: 'photo', id: number, away: boolean) => Promise<Outcome>;

/** One that waits on this device has no id yet. */
type Shown = Pick<KeptPhoto, 'uid' | 'reader' | 'rung'> & { id: number | null };

const KINDS = 'image/jpeg,image/png,image/webp,image/heic,image/heif,.heic,.heif';
const LARGEST = 30 * 2 ** 20;

export type PrintPhotos = { printId: number; first: KeptPhotos; archive: Archive };

/** Pictures of a print, those that wait on this device too, and what can be done with them. */
export function usePhotos({ printId, first, archive }: PrintPhotos) {
  const { doc, sendPicture } = useKept<KeptPhotos & { waiting?: string[] }, { id: string }>(
    `/prints/${printId}/photos`,
    first,
    (photos, { id }) => ({
      ...photos,
      waiting: [...(photos.waiting ?? []), id],
    }),
  );
  const [unfit, setUnfit] = useState<readonly Problem[]>([]);
  const kept = new Set(doc.photos.map(({ uid }) => uid));
  const shown: Shown[] = [
    ...doc.photos,
    ...(doc.waiting ?? [])
      .filter((uid) => !kept.has(uid))
      .map((uid) => ({ uid, id: null, reader: '', rung: null })),
  ];
  const keep = (all: readonly File[], rung?: number) => {
    const bad = all.filter(({ size }) => size > LARGEST || size === 0);
    setUnfit(
      bad.map(({ name, size }) =>
        size === 0
          ? problem('picture', `“${name}” is empty.`, 'Take it again.')
          : problem('picture', `“${name}” has over 30 MB.`, 'Take a smaller one.'),
      ),
    );
    for (const one of all) if (!bad.includes(one)) sendPicture(one, rung);
  };
  const take = (files: FileList | null) => keep([...(files ?? [])]);
  return { shown, take, keep, problems: unfit, archive };
}

type Taken = ReturnType<typeof usePhotos>;

/** Takes a picture, or chooses one that was taken. */
export function PhotoButtons({ take, large = false }: Pick<Taken, 'take'> & { large?: boolean }) {
  return (
    <div className="flex gap-1" role="group" aria-label="Take a picture of the print">
      <Taker label="Take a picture" capture large={large} onFiles={take} />
      <Taker label="Choose a picture" large={large} onFiles={take} />
    </div>
  );
}

/** The pictures that there are; nothing where there are none. */
export function PhotoRow({ shown, problems, archive }: Taken) {
  const [gone, setGone] = useState<number | null>(null);
  return (
    <>
      {shown.length > 0 && (
        <section
          aria-label="Pictures of the print"
          className="flex items-center gap-2 overflow-x-auto py-1"
        >
          {shown.map((one, i) => (
            <Thumb
              key={one.uid}
              photo={one}
              number={i + 1}
              archive={async (id) => {
                const outcome = await archive('photo', id, true);
                if (outcome.ok) setGone(id);
                return outcome;
              }}
            />
          ))}
        </section>
      )}
      <Problems problems={problems} />
      {gone !== null && (
        <UndoNote
          text="The picture is in the archive."
          undo={async () => {
            const outcome = await archive('photo', gone, false);
            if (outcome.ok) setGone(null);
            return outcome;
          }}
        />
      )}
    </>
  );
}

type TakerProps = {
  label: string;
  capture?: boolean;
  large: boolean;
  onFiles: (files: FileList | null) => void;
};

/** A button that opens the camera, or the pictures that there are. On a computer both open the same. */
function Taker({ label, capture = false, large, onFiles }: TakerProps) {
  const Icon = capture ? Camera : Images;
  return (
    <label
      className={`has-focus-visible:outline-primary h-11 shrink-0 has-focus-visible:outline-3 ${
        large ? 'btn-main' : 'btn-quiet w-11 px-0'
      } ${capture ? 'pointer-fine:hidden' : ''}`}
      title={label}
    >
      <Icon size={22} aria-hidden />
      {large && label}
      <input
        type="file"
        accept={KINDS}
        {...(capture ? { capture: 'environment' as const } : { multiple: true })}
        className="sr-only"
        aria-label={label}
        onChange={({ target }) => {
          onFiles(target.files);
          // The same one may be chosen again.
          target.value = '';
        }}
      />
    </label>
  );
}

type ThumbProps = { photo: Shown; number: number; archive: (id: number) => Promise<Outcome> };

function Thumb({ photo, number, archive }: ThumbProps) {
  const { id, uid, reader, rung } = photo;
  const dialog = useRef<HTMLDialogElement>(null);
  const opener = useRef<HTMLButtonElement>(null);
  const waits = useWaiting(id === null ? uid : null);
  const preview = id === null ? waits : `/photos/${id}`;
  const words = `Picture ${number}${reader && ` by ${reader}`}${rung === null ? '' : ` of rung ${rung + 1}`}`;
  return (
    <>
      <button
        ref={opener}
        type="button"
        className="relative h-12 w-12 shrink-0 overflow-hidden rounded lg:h-20 lg:w-20"
        aria-label={`${words}${id === null ? ', waits to be sent' : ', enlarge'}`}
        onClick={() => dialog.current?.showModal()}
      >
        {preview && (
          // eslint-disable-next-line @next/next/no-img-element -- sized by its own server
          <img src={preview} alt="" className="h-full w-full object-cover" />
        )}
        {rung !== null && (
          <span className="bg-base-100/85 absolute top-0 left-0 rounded px-1 text-xs font-semibold">
            {rung + 1}
          </span>
        )}
        {id === null && (
          <span className="bg-base-content/80 text-base-100 absolute inset-x-0 bottom-0 text-center text-xs">
            waits
          </span>
        )}
      </button>
      <Dialog
        at={dialog}
        opener={opener}
        title={words}
        className="h-[94dvh] w-[97vw] max-w-none"
        acts={
          id !== null && (
            <ActButton
              needs="change"
              className="btn btn-ghost font-normal"
              act={async () => {
                const outcome = await archive(id);
                if (outcome.ok) dialog.current?.close();
                return outcome;
              }}
            >
              Archive
            </ActButton>
          )
        }
      >
        {preview && (
          <div className="min-h-0 flex-1 overflow-auto">
            {/* eslint-disable-next-line @next/next/no-img-element -- shown at its own size */}
            <img
              src={id === null ? preview : `/photos/${id}?whole`}
              alt={words}
              loading="lazy"
              className="mx-auto max-h-full max-w-full object-contain"
            />
          </div>
        )}
      </Dialog>
    </>
  );
}

/** Address within this browser of a picture that waits. */
function useWaiting(uid: string | null): string | null {
  const [url, setUrl] = useState<string | null>(null);
  useEffect(() => {
    if (uid === null) return;
    let made: string | null = null;
    let ended = false;
    void outbox()
      .picture(uid)
      .then((picture) => {
        if (!picture || ended) return;
        made = URL.createObjectURL(picture);
        setUrl(made);
      });
    return () => {
      ended = true;
      if (made) URL.revokeObjectURL(made);
    };
  }, [uid]);
  return url;
}
