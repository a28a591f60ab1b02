'use client';
// A camera that this device has, live: chosen, frozen, kept with the print.
import { Video } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { problem, type Problem } from '@/core/result';
import type { Named } from '@/core/view/shared-axis';
import { Dialog } from '../common/Dialog';
import { Problems } from '../common/Problems';
import { Ruler } from './Ruler';

type Camera = { deviceId: string; label: string };

type Keeping = {
  /** With the print, or with one of its rungs. */
  keep: (picture: File, rung?: number) => void;
  rungs: readonly Named[];
};

export function LiveCamera({ keep, rungs }: Keeping) {
  const dialog = useRef<HTMLDialogElement>(null);
  const opener = useRef<HTMLButtonElement>(null);
  const [open, setOpen] = useState(false);
  return (
    <>
      <button
        ref={opener}
        type="button"
        className="btn-quiet"
        onClick={() => {
          setOpen(true);
          dialog.current?.showModal();
        }}
      >
        <Video size={20} aria-hidden /> Live camera
      </button>
      <Dialog
        at={dialog}
        opener={opener}
        title="Live camera"
        className="w-[min(60rem,97vw)] max-w-none"
      >
        {open && (
          <Live
            rungs={rungs}
            keep={(picture, rung) => {
              keep(picture, rung);
              dialog.current?.close();
            }}
            dialog={dialog}
            closed={() => setOpen(false)}
          />
        )}
      </Dialog>
    </>
  );
}

type LiveProps = Keeping & {
  dialog: React.RefObject<HTMLDialogElement | null>;
  closed: () => void;
};

function Live({ keep, rungs, dialog, closed }: LiveProps) {
  const [of, setOf] = useState('');
  const video = useRef<HTMLVideoElement>(null);
  const frozen = useRef<HTMLCanvasElement>(null);
  const [cameras, setCameras] = useState<Camera[]>([]);
  const [chosen, setChosen] = useState('');
  const [still, setStill] = useState(false);
  const [size, setSize] = useState({ width: 640, height: 480 });
  const [problems, setProblems] = useState<Problem[]>([]);
  useEffect(() => {
    const shut = () => closed();
    const at = dialog.current;
    at?.addEventListener('close', shut);
    return () => at?.removeEventListener('close', shut);
  }, [dialog, closed]);
  useEffect(() => {
    let ended = false;
    let stream: MediaStream | null = null;
    const start = async () => {
      try {
        const some = await navigator.mediaDevices.getUserMedia({
          video: {
            width: { ideal: 3840 },
            height: { ideal: 2160 },
            ...(chosen ? { deviceId: { exact: chosen } } : { facingMode: 'environment' }),
          },
        });
        if (ended) return some.getTracks().forEach((track) => track.stop());
        stream = some;
        if (video.current) video.current.srcObject = some;
        setProblems([]);
        const all = await navigator.mediaDevices.enumerateDevices();
        setCameras(
          all
            .filter(({ kind }) => kind === 'videoinput')
            .map(({ deviceId, label }, i) => ({ deviceId, label: label || `Camera ${i + 1}` })),
        );
      } catch (error) {
        if (!ended) setProblems([refusal(error)]);
      }
    };
    void start();
    return () => {
      ended = true;
      stream?.getTracks().forEach((track) => track.stop());
    };
  }, [chosen]);
  const freeze = () => {
    const [from, to] = [video.current!, frozen.current!];
    to.width = from.videoWidth;
    to.height = from.videoHeight;
    to.getContext('2d')!.drawImage(from, 0, 0);
    setStill(true);
  };
  const seen = (
    <>
      <video
        ref={video}
        autoPlay
        playsInline
        muted
        aria-label="What the camera sees"
        className={`h-full w-full ${still ? 'hidden' : ''}`}
        onLoadedMetadata={({ currentTarget: { videoWidth, videoHeight } }) =>
          setSize({ width: videoWidth, height: videoHeight })
        }
      />
      <canvas
        ref={frozen}
        role="img"
        aria-label="The frozen picture"
        className={`h-full w-full ${still ? '' : 'hidden'}`}
      />
    </>
  );
  return (
    <div className="space-y-3 p-4 pt-0">
      <Problems problems={problems} />
      <Ruler {...size}>{seen}</Ruler>
      <div className="flex flex-wrap items-center gap-3">
        {cameras.length > 1 && (
          <label className="flex items-center gap-2">
            Camera
            <select
              className="select"
              value={chosen || cameras[0]!.deviceId}
              onChange={({ target }) => setChosen(target.value)}
            >
              {cameras.map(({ deviceId, label }) => (
                <option key={deviceId} value={deviceId}>
                  {label}
                </option>
              ))}
            </select>
          </label>
        )}
        {still ? (
          <>
            <label className="flex items-center gap-2">
              It shows
              <select className="select" value={of} onChange={({ target }) => setOf(target.value)}>
                <option value="">the print</option>
                {rungs.map(({ index, name }) => (
                  <option key={index} value={index}>
                    {name}
                  </option>
                ))}
              </select>
            </label>
            <button
              type="button"
              className="btn-main"
              onClick={() =>
                frozen.current!.toBlob(
                  (blob) =>
                    blob &&
                    keep(
                      new File([blob], 'camera.jpg', { type: 'image/jpeg' }),
                      of === '' ? undefined : Number(of),
                    ),
                  'image/jpeg',
                  0.95,
                )
              }
            >
              Keep it
            </button>
            <button type="button" className="btn-quiet" onClick={() => setStill(false)}>
              Live again
            </button>
          </>
        ) : (
          <button
            type="button"
            className="btn-main"
            disabled={problems.length > 0}
            onClick={freeze}
          >
            Freeze
          </button>
        )}
      </div>
    </div>
  );
}

/** Why there is no picture, in words; browsers tell it by a name. */
function refusal(error: unknown): Problem {
  const name = error instanceof DOMException ? error.name : '';
  if (name === 'NotAllowedError')
    return problem(
      'camera',
      'This page may not use the camera.',
      'Allow it in the browser, then open this again.',
    );
  if (name === 'NotFoundError')
    return problem('camera', 'There is no camera.', 'Plug one in, then open this again.');
  return problem(
    'camera',
    'The camera does not answer.',
    'Close other programs that use it, then open this again.',
  );
}
