// Four kinds of machine, drawn: what moves, where filament is fed from, how many nozzles there are, how the bed lies.
import type { MachinePreset } from '@/core/bench/presets';

const frame = 'stroke-base-content fill-none';
const wood = 'fill-secondary';
const hot = 'fill-primary';

/** A nozzle that points down at a place. */
const nozzle = (x: number, y: number) => <path d={`M${x - 3} ${y}h6l-3 5z`} className={hot} />;
/** A way that something moves. */
const moves = (x: number, y: number, turned = 0) => (
  <path
    d="M-8 0H8M-5-3l-3 3 3 3M5-3l3 3-3 3"
    transform={`translate(${x} ${y}) rotate(${turned})`}
    className="stroke-primary fill-none"
    strokeWidth={1.5}
  />
);

const SKETCHES: Record<MachinePreset, React.ReactNode> = {
  heron: (
    <>
      <path d="M14 62V8H82V62M14 24H82" className={frame} strokeWidth={2} />
      <rect x={24} y={52} width={48} height={5} className={wood} />
      {moves(48, 64)}
      <rect x={42} y={20} width={12} height={12} className={wood} />
      {nozzle(48, 32)}
      <rect x={8} y={28} width={10} height={10} className={wood} />
      <path d="M13 28C14 2 44 0 48 20" className="stroke-primary fill-none" strokeWidth={1.5} />
    </>
  ),
  wren: (
    <>
      <rect x={10} y={6} width={76} height={58} className={frame} strokeWidth={2} />
      <path d="M10 20H86" className={frame} strokeWidth={2} />
      <rect x={24} y={52} width={48} height={5} className={wood} />
      <rect x={40} y={14} width={16} height={18} className={wood} />
      <circle cx={48} cy={21} r={4} className={frame} strokeWidth={1.5} />
      {nozzle(48, 32)}
      {moves(70, 28)}
    </>
  ),
  otter: (
    <>
      <path d="M14 62V8H82V62M14 22H82" className={frame} strokeWidth={2} />
      <rect x={22} y={52} width={52} height={5} className={wood} />
      <rect x={32} y={16} width={13} height={16} className={wood} />
      <rect x={51} y={16} width={13} height={16} className={wood} />
      {nozzle(38.5, 32)}
      {nozzle(57.5, 32)}
    </>
  ),
  newt: (
    <>
      <path d="M18 64L30 8H66L78 64" className={frame} strokeWidth={2} />
      <ellipse cx={48} cy={54} rx={28} ry={7} className={wood} />
      <path d="M45 54h6M48 51v6" className="stroke-base-content" strokeWidth={1.5} />
      <path d="M24 34L48 28 72 34M40 14L48 28 56 14" className={frame} strokeWidth={1.5} />
      {nozzle(48, 29)}
    </>
  ),
};

export function MachineSketch({ preset }: { preset: MachinePreset }) {
  return (
    <svg viewBox="0 0 96 70" className="h-auto w-24 shrink-0" aria-hidden>
      {SKETCHES[preset]}
    </svg>
  );
}
