'use client';
// The picture of the file with everything that steers it: which view, which layers, how coloured, up to where.
import { ChevronFirst, ChevronLast, ChevronLeft, ChevronRight } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { Bed } from '@/core/bench/machine';
import { MOVE } from '@/core/gcode/trace';
import { short } from '@/core/numbers';
import type { Beads } from '@/core/view/beads';
import type { MoveFacts, Overview } from '@/core/view/opened';
import { QUANTITIES, QUANTITY_NAMES, type Quantity } from '@/core/view/quantity';
import { later } from '../common/later';
import { duration } from '../common/format';
import { ColourScale } from './ColourScale';
import { FlatLayer } from './FlatLayer';
import { LayerAxis } from './LayerAxis';
import type { Remote } from './useOpened';

const Space = later('The view in space', () => import('./Space').then((part) => part.Space));

export type Range = { first: number; last: number };

type Props = {
  remote: Remote;
  overview: Overview;
  bed: Bed;
  /** Unit of the rung value, when the file carries a plan. */
  rungUnit: string;
  range: Range;
  onRange: (range: Range) => void;
  /** The chosen move. */
  move: MoveFacts | null;
  onMove: (index: number | null) => void;
};

const KINDS: Record<number, string> = {
  [MOVE.travel]: 'travel',
  [MOVE.extrude]: 'stroke',
  [MOVE.retract]: 'retracts',
  [MOVE.restart]: 'pushes',
  [MOVE.home]: 'homing',
};

export function Look({ remote, overview, bed, rungUnit, range, onRange, move, onMove }: Props) {
  const names = QUANTITY_NAMES.filter((name) => overview.scales[name]);
  const [flat, setFlat] = useState(false);
  const [noSpace, setNoSpace] = useState(false);
  const [name, setName] = useState<Quantity>(names[0] ?? 'speed');
  const [travels, setTravels] = useState(false);
  const [stepping, setStepping] = useState(false);
  const [hover, setHover] = useState<{ facts: MoveFacts; text: string } | null>(null);
  const [beads, setBeads] = useState<{ key: string; beads: Beads } | null>(null);
  const asFlat = flat || noSpace;
  const first = asFlat ? range.last : range.first;
  const colour = overview.scales[name] ? name : (names[0] ?? 'speed');
  const key = `${first} ${range.last} ${colour}`;
  const shown = beads?.beads ?? null;
  const fresh = beads?.key === key;

  // The worker cuts the strokes of the range out; the newest answer counts.
  useEffect(() => {
    let current = true;
    void remote.beads(first, range.last, colour).then((got) => {
      if (current) setBeads({ key: `${first} ${range.last} ${colour}`, beads: got });
    });
    return () => {
      current = false;
    };
  }, [remote, overview, first, range.last, colour]);

  const onHover = (index: number | null) => {
    if (index === null) return setHover(null);
    void remote.move(index).then(async (facts) => {
      if (!facts) return;
      const [text] = await remote.lines(facts.line, 1);
      setHover({ facts, text: text ?? '' });
    });
  };
  const told = hover?.facts ?? move;
  const scale = overview.scales[colour];
  const upTo = stepping && move ? move.move : null;
  const view = shown && {
    beads: shown,
    upTo,
    marked: move?.move ?? null,
    travels,
    onHover,
    onPick: onMove,
  };
  const stepTo = (index: number) => {
    setStepping(true);
    onMove(Math.min(overview.moves - 1, Math.max(0, index)));
  };
  return (
    <section aria-label="Preview" className="flex min-h-0 flex-col">
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        <div role="radiogroup" aria-label="View" className="flex">
          {['3D', 'One layer'].map((label, i) => (
            <button
              key={label}
              type="button"
              role="radio"
              aria-checked={asFlat === (i === 1)}
              disabled={i === 0 && noSpace}
              className={`min-h-10 border-b-2 px-2 ${asFlat === (i === 1) ? 'border-primary font-medium' : 'text-neutral border-transparent'}`}
              onClick={() => setFlat(i === 1)}
            >
              {label}
            </button>
          ))}
        </div>
        <button
          type="button"
          aria-pressed={travels}
          className={`btn btn-sm ml-auto font-normal ${travels ? 'btn-chosen' : 'btn-ghost'}`}
          onClick={() => setTravels(!travels)}
        >
          {travels ? '✓ Travel is shown' : 'Show travel'}
        </button>
      </div>
      <div className="flex min-h-0 flex-1">
        <LayerAxis z={overview.layers.z} range={range} single={asFlat} onRange={onRange} />
        <div
          className={`sheet relative min-h-64 min-w-0 flex-1 overflow-hidden rounded ${fresh ? '' : 'opacity-80'}`}
        >
          {view &&
            (asFlat ? (
              <FlatLayer {...view} />
            ) : (
              <Space
                {...view}
                bed={bed}
                box={overview.audit.box}
                height={overview.audit.z?.high ?? 0}
                onNoSpace={() => setNoSpace(true)}
              />
            ))}
          {scale && (
            <ColourScale
              chosen={colour}
              names={names}
              scales={overview.scales}
              unitOf={(one) => (one === 'rung' ? rungUnit : QUANTITIES[one].unit)}
              onChoose={setName}
            />
          )}
          {noSpace && (
            <p className="soft absolute top-2 left-3">
              This browser can’t show 3D (no WebGL 2), so layers are shown one by one.
            </p>
          )}
          {shown && shown.first > first && (
            <p className="bg-base-100/90 absolute bottom-2 left-3 rounded px-2 text-sm">
              Layers {shown.first + 1} to {range.last + 1}: more strokes than can be drawn at once.
              Move the range to see others.
            </p>
          )}
          {overview.strokes === 0 && (
            <p className="absolute inset-0 grid place-items-center p-6 text-center">
              This file extrudes nothing, so there is nothing to show.
            </p>
          )}
        </div>
      </div>
      <div className="mt-1 flex min-h-12 items-center gap-1">
        <StepButton
          label="Show all layers"
          Icon={ChevronLast}
          flip
          off={!stepping}
          act={() => {
            setStepping(false);
            onMove(null);
          }}
        />
        <StepButton
          label="Previous move"
          Icon={ChevronLeft}
          act={() => stepTo((move?.move ?? 0) - 1)}
        />
        <StepButton
          label="Next move"
          Icon={ChevronRight}
          act={() => stepTo((move?.move ?? -1) + 1)}
        />
        <StepButton
          label="First move of this layer"
          Icon={ChevronFirst}
          act={() =>
            void remote
              .moveAtLine(overview.layers.line[range.last] ?? 1)
              .then((at) => at && stepTo(at.move))
          }
        />
        <p className="min-w-0 flex-1 pl-2 text-sm leading-tight" aria-live="polite">
          {told ? (
            <>
              <span className="block font-mono text-[13px] break-all">
                line {told.line}
                {hover && `: ${hover.text}`}
              </span>
              <span className="text-neutral block">{factsOf(told)}</span>
            </>
          ) : (
            <span className="text-neutral">
              Point at a stroke to see its line; press it to go there.
            </span>
          )}
        </p>
      </div>
    </section>
  );
}

function factsOf({ kind, length, width, asked, reached, after }: MoveFacts): string {
  const parts = [KINDS[kind] ?? ''];
  if (length > 0) parts.push(`${short(length, 1)} mm`);
  if (width !== null) parts.push(`${short(width, 2)} mm wide`);
  if (reached > 0) {
    const full = reached > asked * 0.99;
    parts.push(
      full ? `${short(asked, 0)} mm/s` : `reaches ${short(reached, 0)} of ${short(asked, 0)} mm/s`,
    );
  }
  parts.push(`after ${duration(after)}`);
  return parts.join(' · ');
}

type StepProps = {
  label: string;
  Icon: typeof ChevronLeft;
  flip?: boolean;
  off?: boolean;
  act: () => void;
};

const StepButton = ({ label, Icon, flip, off, act }: StepProps) => (
  <button
    type="button"
    className="btn btn-ghost btn-square btn-sm"
    aria-label={label}
    title={label}
    disabled={off}
    onClick={act}
  >
    <Icon size={18} aria-hidden className={flip ? 'rotate-90' : ''} />
  </button>
);
