'use client';
// The 3-D view: the scene lives outside React and is told what changed.
import { useEffect, useRef } from 'react';
import type { Bed } from '@/core/bench/machine';
import type { Beads } from '@/core/view/beads';
import type { Box } from '@/core/bench/bed';
import { Scene } from './scene';

export type ViewProps = {
  beads: Beads;
  bed: Bed;
  /** What is looked at when the file is opened. */
  box: Box | null;
  height: number;
  /** Strokes after this move are not shown; null shows all. */
  upTo: number | null;
  marked: number | null;
  travels: boolean;
  onHover: (move: number | null) => void;
  onPick: (move: number | null) => void;
};

/** The pointer must rest this long, ms, before the line under it is looked for. */
const REST_MS = 70;
/** A press that moves further than this, px, turns the view and picks nothing. */
const STILL_PX = 5;
const TURN = Math.PI / 18;

export function Space(props: ViewProps & { onNoSpace: () => void }) {
  const { beads, bed, box, height, upTo, marked, travels, onHover, onPick, onNoSpace } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const scene = useRef<Scene | null>(null);
  const rest = useRef<ReturnType<typeof setTimeout>>(undefined);
  const down = useRef<{ x: number; y: number } | null>(null);

  useEffect(() => {
    try {
      scene.current = new Scene(canvas.current!);
    } catch {
      onNoSpace();
      return;
    }
    // For measuring from outside: `npm run bench` asks for the time of a frame.
    (canvas.current as unknown as { scene: Scene }).scene = scene.current;
    return () => {
      scene.current?.dispose();
      scene.current = null;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once for the life of the canvas
  }, []);
  useEffect(() => scene.current?.setBed(bed), [bed]);
  useEffect(() => scene.current?.setBeads(beads), [beads]);
  useEffect(() => {
    scene.current?.upTo(upTo);
    scene.current?.showTravels(travels);
    scene.current?.markMove(marked);
  }, [beads, upTo, travels, marked]);
  useEffect(() => {
    if (box) scene.current?.frame([box.minX, box.minY, 0], [box.maxX, box.maxY, height]);
  }, [box, height]);

  const at = ({ clientX, clientY }: { clientX: number; clientY: number }) => {
    const { left, top } = canvas.current!.getBoundingClientRect();
    return { x: clientX - left, y: clientY - top };
  };
  return (
    <canvas
      ref={canvas}
      tabIndex={0}
      role="img"
      aria-label="The moves of the file in 3D; arrow keys turn the view, + and − come nearer"
      className="h-full w-full touch-none"
      onPointerDown={(event) => (down.current = at(event))}
      onPointerUp={(event) => {
        const [here, there] = [at(event), down.current];
        down.current = null;
        if (there && Math.hypot(here.x - there.x, here.y - there.y) < STILL_PX)
          onPick(scene.current?.pick(here.x, here.y) ?? null);
      }}
      onPointerMove={(event) => {
        const here = at(event);
        clearTimeout(rest.current);
        if (event.buttons === 0)
          rest.current = setTimeout(
            () => onHover(scene.current?.pick(here.x, here.y) ?? null),
            REST_MS,
          );
      }}
      onPointerLeave={() => {
        clearTimeout(rest.current);
        onHover(null);
      }}
      onKeyDown={(event) => {
        const turns: Record<string, [number, number, number?]> = {
          ArrowLeft: [-TURN, 0],
          ArrowRight: [TURN, 0],
          ArrowUp: [0, TURN],
          ArrowDown: [0, -TURN],
          '+': [0, 0, 1.2],
          '=': [0, 0, 1.2],
          '-': [0, 0, 1 / 1.2],
        };
        const turn = turns[event.key];
        if (!turn) return;
        event.preventDefault();
        scene.current?.turn(...turn);
      }}
    />
  );
}
