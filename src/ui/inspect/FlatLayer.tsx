'use client';
// One layer from above on a plain canvas: works everywhere, also where there is no 3-D.
import { useEffect, useRef, useState } from 'react';
import { STROKE_NUMBERS, type Beads } from '@/core/view/beads';
import { css, scaleColour } from '@/core/view/scale';
import { fitted, nearestStroke, strokeBox, type Pose } from '@/core/view/pose';

type Props = {
  beads: Beads;
  upTo: number | null;
  marked: number | null;
  travels: boolean;
  onHover?: (move: number | null) => void;
  onPick?: (move: number | null) => void;
};

/** The chosen stroke: read on paper in either theme. */
const MARK = '#a3307f';
const WOOD = 'rgb(183 166 128)';
/** Strokes further from the pointer than this, px, are not meant. */
const NEAR_PX = 8;
const STILL_PX = 5;

export function FlatLayer({ beads, upTo, marked, travels, onHover, onPick }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [moved, setMoved] = useState<Pose | null>(null);
  const [size, setSize] = useState({ width: 1, height: 1 });
  const down = useRef<{ x: number; y: number; pose: Pose; moved: boolean } | null>(null);
  const box = strokeBox(beads);
  const pose = moved ?? fitted(box, size);

  useEffect(() => {
    const watcher = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      setSize({ width, height });
    });
    watcher.observe(canvas.current!);
    return () => watcher.disconnect();
  }, []);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (context) draw(context, beads, { pose, upTo, marked, travels });
  });

  const at = ({ clientX, clientY }: { clientX: number; clientY: number }) => {
    const { left, top } = canvas.current!.getBoundingClientRect();
    return { x: clientX - left, y: clientY - top };
  };
  const under = (point: { x: number; y: number }) =>
    nearestStroke(beads, {
      x: pose.x + (point.x - size.width / 2) / pose.scale,
      y: pose.y - (point.y - size.height / 2) / pose.scale,
      within: NEAR_PX / pose.scale,
      upTo,
    });
  const zoom = (factor: number) => setMoved({ ...pose, scale: pose.scale * factor });
  return (
    <canvas
      ref={canvas}
      tabIndex={0}
      role="img"
      aria-label="One layer from above; + and − come nearer, arrow keys move the sheet"
      className="h-full w-full touch-none"
      onWheel={(event) => zoom(event.deltaY < 0 ? 1.15 : 1 / 1.15)}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        down.current = { ...at(event), pose, moved: false };
      }}
      onPointerMove={(event) => {
        const here = at(event);
        const held = down.current;
        if (!held) return onHover?.(under(here));
        const [dx, dy] = [here.x - held.x, here.y - held.y];
        if (Math.hypot(dx, dy) >= STILL_PX) held.moved = true;
        if (held.moved)
          setMoved({
            ...held.pose,
            x: held.pose.x - dx / held.pose.scale,
            y: held.pose.y + dy / held.pose.scale,
          });
      }}
      onPointerUp={(event) => {
        const held = down.current;
        down.current = null;
        if (held && !held.moved) onPick?.(under(at(event)));
      }}
      onPointerLeave={() => onHover?.(null)}
      onDoubleClick={() => setMoved(null)}
      onKeyDown={(event) => {
        const step = 40 / pose.scale;
        const moves: Record<string, () => void> = {
          ArrowLeft: () => setMoved({ ...pose, x: pose.x - step }),
          ArrowRight: () => setMoved({ ...pose, x: pose.x + step }),
          ArrowUp: () => setMoved({ ...pose, y: pose.y + step }),
          ArrowDown: () => setMoved({ ...pose, y: pose.y - step }),
          '+': () => zoom(1.2),
          '=': () => zoom(1.2),
          '-': () => zoom(1 / 1.2),
          '0': () => setMoved(null),
        };
        const move = moves[event.key];
        if (!move) return;
        event.preventDefault();
        move();
      }}
    />
  );
}

type Shown = { pose: Pose; upTo: number | null; marked: number | null; travels: boolean };

function draw(
  context: CanvasRenderingContext2D,
  beads: Beads,
  { pose, upTo, marked, travels }: Shown,
): void {
  const { canvas } = context;
  const ratio = window.devicePixelRatio || 1;
  const [width, height] = [canvas.clientWidth, canvas.clientHeight];
  canvas.width = width * ratio;
  canvas.height = height * ratio;
  context.scale(ratio, ratio);
  context.lineCap = 'round';
  const x = (mm: number) => width / 2 + (mm - pose.x) * pose.scale;
  const y = (mm: number) => height / 2 - (mm - pose.y) * pose.scale;
  const line = (from: Float32Array, i: number) => {
    context.moveTo(x(from[i]!), y(from[i + 1]!));
    context.lineTo(x(from[i + 3]!), y(from[i + 4]!));
  };
  // A rim in the ground's colour keeps neighbouring beads apart.
  const ground = getComputedStyle(canvas.parentElement ?? document.body).backgroundColor;
  const { strokes, share, move } = beads;
  for (let k = 0; k < beads.count; k++) {
    if (upTo !== null && move[k]! > upTo) break;
    const at = k * STROKE_NUMBERS;
    const bead = Math.max(1, strokes[at + 6]! * pose.scale);
    context.beginPath();
    line(strokes, at);
    context.lineWidth = bead;
    context.strokeStyle = ground;
    context.stroke();
    context.lineWidth = bead * 0.88;
    context.strokeStyle = share[k]! < 0 ? WOOD : css(scaleColour(share[k]!));
    context.stroke();
  }
  const ink = getComputedStyle(canvas).color;
  if (travels) {
    context.beginPath();
    for (let k = 0; k < beads.travelMove.length; k++) {
      if (upTo !== null && beads.travelMove[k]! > upTo) break;
      line(beads.travels, k * 6);
    }
    context.strokeStyle = ink;
    context.globalAlpha = 0.5;
    context.lineWidth = 1;
    context.setLineDash([4, 4]);
    context.stroke();
    context.setLineDash([]);
    context.globalAlpha = 1;
    context.fillStyle = ink;
    for (let k = 0; k < beads.retractions.length; k += 3) {
      context.beginPath();
      context.arc(x(beads.retractions[k]!), y(beads.retractions[k + 1]!), 2.5, 0, 7);
      context.fill();
    }
  }
  const here = marked === null ? -1 : move.indexOf(marked);
  if (here >= 0) {
    context.beginPath();
    line(strokes, here * STROKE_NUMBERS);
    context.lineWidth = Math.max(3, strokes[here * STROKE_NUMBERS + 6]! * pose.scale);
    context.strokeStyle = MARK;
    context.stroke();
  }
}
