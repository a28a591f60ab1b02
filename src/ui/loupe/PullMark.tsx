'use client';
// A mark on a picture that is pulled with a finger or a mouse, or moved by arrow keys, a pixel of the picture at a time.
import { useRef, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';

export type Point = { x: number; y: number };

type Props = {
  /** Where it is put, read out. */
  label: string;
  /** Place on the picture, pixels of the picture. */
  at: Point;
  /** Size of the picture, pixels. */
  width: number;
  height: number;
  /** What shows the picture, whole. */
  box: RefObject<HTMLElement | null>;
  onMove: (to: Point) => void;
  /** Told when it is taken and let go. */
  onHold?: (held: boolean) => void;
};

const KEYS: Record<string, Point> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
};
/** Pixels that a key moves it with Shift. */
const FAR = 20;

export function PullMark({ label, at, width, height, box, onMove, onHold }: Props) {
  const grabbed = useRef<Point | null>(null);
  const placeOf = (event: PointerEvent): Point => {
    const { left, top, width: w, height: h } = box.current!.getBoundingClientRect();
    return { x: ((event.clientX - left) / w) * width, y: ((event.clientY - top) / h) * height };
  };
  const move = ({ x, y }: Point) => onMove({ x: clamp(x, width), y: clamp(y, height) });
  const letGo = () => {
    grabbed.current = null;
    onHold?.(false);
  };
  const onKey = (event: KeyboardEvent) => {
    const step = KEYS[event.key];
    if (!step) return;
    event.preventDefault();
    const far = event.shiftKey ? FAR : 1;
    move({ x: at.x + step.x * far, y: at.y + step.y * far });
  };
  return (
    <button
      type="button"
      aria-label={`${label}: arrow keys move it`}
      className="absolute h-11 w-11 -translate-x-1/2 -translate-y-1/2 cursor-grab touch-none rounded-full"
      style={{ left: `${(at.x / width) * 100}%`, top: `${(at.y / height) * 100}%` }}
      onKeyDown={onKey}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        const here = placeOf(event);
        // It is taken where it was touched, and does not jump under the finger.
        grabbed.current = { x: at.x - here.x, y: at.y - here.y };
        onHold?.(true);
      }}
      onPointerMove={(event) => {
        if (!grabbed.current) return;
        const here = placeOf(event);
        move({ x: here.x + grabbed.current.x, y: here.y + grabbed.current.y });
      }}
      onPointerUp={letGo}
      onPointerCancel={letGo}
    >
      <i
        aria-hidden
        className="border-primary absolute inset-2.5 rounded-full border-[3px] shadow-[0_0_0_2px_white,inset_0_0_0_2px_white]"
      />
    </button>
  );
}

const clamp = (value: number, most: number): number => Math.max(0, Math.min(most, value));
