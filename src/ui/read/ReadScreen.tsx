'use client';
// Scoring a print: one hand on a phone, a keyboard on a laptop. Rung by rung, or one criterion over all.
import Link from 'next/link';
import { useLayoutEffect, useState } from 'react';
import type { Setting } from '@/core/bench/settings';
import type { Named } from '@/core/view/shared-axis';
import type { Score } from '@/core/reading/types';
import { BEST_ROWS } from '@/core/ladders/types';
import { placeOf, type Cells } from '@/core/view/cells';
import { isMixed } from '@/core/view/in-order';
import { liesWide } from '../common/PrintWithCells';
import { Term } from '../common/Term';
import { AllCells, AllScores } from './AllScores';
import { AwakeNote } from './AwakeNote';
import { BestRows } from './BestRows';
import type { ShownStrip } from '../common/LookStrip';
import { ByCriterion } from './ByCriterion';
import { ByRung } from './ByRung';
import type { Focus, Mode, Place, ReadCriterion } from './types';
import { MeasureForm, type MeasureField } from './MeasureForm';
import { PhotoButtons, PhotoRow, usePhotos, type PrintPhotos } from './Photos';
import { ScorePad } from './ScorePad';
import { cell, useReading, type KeptReading } from './useReading';

type Props = {
  ladderId: number;
  /** Where the picture of the print is. */
  picture: string;
  simulated: boolean;
  view: 'front' | 'top';
  rungs: Named[];
  cells: Cells | null;
  height: number;
  width: number;
  stretch: number;
  criteria: ReadCriterion[];
  kept: KeptReading;
  place: Omit<Place, 'over'>;
  measures: MeasureField[];
  /** Whether the best row of a column may be tapped instead. */
  tapped: boolean;
  photos: PrintPhotos;
  /** Straightened pictures of the print. */
  looks: readonly ShownStrip[];
  readingId: number;
  /** Half of it came scored, by the simulated machine's own eye. */
  half: boolean;
  /** What the print tells. */
  finds: readonly Setting[];
};

const RUNG_MODES: Mode[] = ['rung', 'criterion'];
const CELL_MODES: Mode[] = ['rung', 'criterion', 'best'];
const CELL_WORDS: Record<Mode, string> = {
  rung: 'by cell',
  criterion: 'by criterion',
  best: 'best rows',
};

export function ReadScreen(props: Props) {
  const { ladderId, picture, rungs, cells, criteria, height, width } = props;
  const wide = cells !== null && liesWide({ height, width });
  const mixed = !cells && isMixed(rungs);
  /** What is further up on the screen: the rung above, or where values are mixed the one before. */
  const up = mixed ? -1 : 1;
  const modes = props.tapped ? CELL_MODES : RUNG_MODES;
  const reading = useReading(props.readingId, props.kept);
  const photos = usePhotos(props.photos);
  const [place, setPlace] = useState<Place>({ ...props.place, over: false });
  const [follow, setFollow] = useState(0);
  const total = rungs.length * criteria.length;

  const go = (patch: Partial<Place>) => {
    const next = { ...place, over: false, ...patch };
    next.rung = Math.min(rungs.length - 1, Math.max(0, next.rung));
    next.criterion = Math.min(criteria.length - 1, Math.max(0, next.criterion));
    if (JSON.stringify(next) !== JSON.stringify(place)) setPlace(next);
  };
  /** The cell after one: across the rung's criteria, or up the criterion's rungs; over after the last. */
  const after = (rung: number, criterion: number): Place => {
    const [r, c] = [rungs.length - 1, criteria.length - 1];
    const { mode } = place;
    if (rung === r && criterion === c) return { rung, criterion, mode, over: true };
    const next =
      mode === 'criterion'
        ? rung < r
          ? { rung: rung + 1, criterion }
          : { rung: 0, criterion: criterion + 1 }
        : criterion < c
          ? { rung, criterion: criterion + 1 }
          : { rung: rung + 1, criterion: 0 };
    return { ...next, mode, over: false };
  };
  /** Scores a cell and goes on to the one after it, for taps and keys alike. */
  const score = (rung: number, criterion: number, value: Score | null) => {
    const isScored = (at: Place) =>
      reading.state[cell(at.rung, criteria[at.criterion]!.name)] !== undefined;
    const again = isScored({ ...place, rung, criterion });
    let next = after(rung, criterion);
    // On the first way through, what has a score already is passed over.
    while (!again && !next.over && isScored(next)) next = after(next.rung, next.criterion);
    const { over: _over, ...kept } = next;
    reading.score(
      { rung, criterion: criteria[criterion]!.name, score: value },
      JSON.stringify(kept),
    );
    setPlace(next);
  };
  /** After the last cell a key scores nothing: the foot is not to be overwritten. */
  const press = (value: Score | null) => {
    if (!place.over && place.mode !== 'best') score(place.rung, place.criterion, value);
  };
  const best = reading.measured[BEST_ROWS] ?? [];
  /** The best row of its column; chosen again, it is none. Goes on to the next column. */
  const choose = (rung: number) => {
    const { column } = placeOf(cells!, rung);
    const others = best.filter((one) => placeOf(cells!, one).column !== column);
    const on = !best.includes(rung);
    reading.measure(BEST_ROWS, on ? [...others, rung].sort((a, b) => a - b) : others);
    const { row } = placeOf(cells!, rung);
    go({ mode: 'best', rung: (on && cells!.rung[row]![column + 1]) || rung });
  };
  const undo = () => {
    const last = reading.undo();
    const criterion = criteria.findIndex(({ name }) => name === last?.criterion);
    if (last && criterion !== -1) go({ rung: last.rung, criterion });
  };

  // Taps of another tab that the program had not got when it made this page: they have gone on from where it stands.
  useLayoutEffect(() => {
    const waiting = reading.placeWaiting();
    // eslint-disable-next-line react-hooks/set-state-in-effect -- the browser knows it, the server does not
    if (waiting !== null) setPlace((known) => ({ ...known, ...(JSON.parse(waiting) as Place) }));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- as it was when the page came
  }, []);

  // Before it is painted: whoever sees the screen may press at once.
  useLayoutEffect(() => {
    /** To the cell above, below or beside this one, on the print. */
    const move = (rows: number, columns: number) => {
      const { row, column } = placeOf(cells!, place.rung);
      const rung = cells!.rung[row + rows]?.[column + columns];
      if (rung !== undefined) go({ rung });
    };
    const onKey = (event: KeyboardEvent) => {
      if (event.altKey || event.metaKey || (event.ctrlKey && event.key !== 'z')) return;
      const target = event.target as HTMLElement;
      if (target.closest('select, textarea, dialog, [type=text]')) return;
      const arrows: Record<string, () => void> = cells
        ? {
            ArrowUp: () => move(1, 0),
            ArrowDown: () => move(-1, 0),
            ArrowLeft: () => move(0, -1),
            ArrowRight: () => move(0, 1),
            c: () => go({ criterion: (place.criterion + 1) % criteria.length }),
            b: () => props.tapped && choose(place.rung),
          }
        : {
            ArrowUp: () => go({ rung: place.rung + up }),
            ArrowDown: () => go({ rung: place.rung - up }),
            ArrowLeft: () => go({ criterion: place.criterion - 1 }),
            ArrowRight: () => go({ criterion: place.criterion + 1 }),
          };
      const acts: Record<string, () => void> = {
        ...arrows,
        x: () => press(null),
        m: () => go({ mode: modes[(modes.indexOf(place.mode) + 1) % modes.length]! }),
        u: undo,
        z: () => event.ctrlKey && undo(),
      };
      if (/^[0-4]$/.test(event.key)) press(Number(event.key) as Score);
      else if (acts[event.key]) acts[event.key]!();
      else return;
      event.preventDefault();
      setFollow((count) => count + 1);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });

  /** To the rung or criterion beside this one. */
  const step = (by: 1 | -1) =>
    go(
      place.mode === 'criterion' ? { criterion: place.criterion + by } : { rung: place.rung + by },
    );
  const last =
    place.mode === 'best' ||
    (place.mode === 'rung'
      ? place.rung === rungs.length - 1
      : place.criterion === criteria.length - 1);
  const finding = `/ladder/${ladderId}/finding`;
  const rung = rungs[place.rung]!;
  const nth = 1 + rungs.filter(({ z }) => z.from < rung.z.from).length;
  const at = cells && placeOf(cells, place.rung);
  const where = at
    ? cells.rows.length === 1
      ? `${at.column + 1} of ${cells.columns.length} from the left`
      : `row ${at.row + 1} of ${cells.rows.length} from the ${props.view === 'top' ? 'front' : 'bottom'}, column ${at.column + 1} of ${cells.columns.length} from the left`
    : mixed
      ? `${rung.index + 1} of ${rungs.length}, in the order of the value`
      : `rung ${nth} of ${rungs.length} from the ${props.view === 'top' ? 'front' : 'bottom'}`;
  const focus: Focus = {
    place,
    rungs,
    cells,
    criteria,
    picture,
    simulated: props.simulated,
    height,
    width,
    stretch: props.stretch,
    looks: props.looks,
    state: reading.state,
    follow,
    score,
    go,
    best,
    choose,
  };
  return (
    <main
      className={`stage pt-1 pb-0 lg:pt-2 ${
        wide
          ? 'stage-over gap-y-3'
          : 'gap-y-0 lg:[--around:14rem] lg:[--gap:3rem] lg:[--panel:26rem]'
      }`}
    >
      <h1 className="sr-only">Score</h1>
      <section className="stage-print max-lg:hidden" aria-label="All scores">
        {cells ? <AllCells {...focus} /> : <AllScores {...focus} />}
      </section>

      <section
        className={`flex min-h-[calc(100dvh-9.5rem)] min-w-0 flex-col lg:min-h-0 ${wide ? 'max-w-xl lg:max-w-none' : 'max-w-xl'}`}
        aria-label="Score"
      >
        <div className="flex items-center gap-3">
          <div
            className={`min-w-0 flex-1 ${cells && !wide ? '' : 'lg:flex lg:items-center lg:gap-3'}`}
          >
            <p
              className={`leading-tight font-semibold lg:whitespace-nowrap ${cells ? 'lg:text-3xl' : 'lg:text-4xl'} ${place.mode === 'rung' && !cells ? 'text-3xl' : 'text-2xl'}`}
            >
              {place.mode === 'rung'
                ? rung.name
                : place.mode === 'best'
                  ? 'Best of each column'
                  : criteria[place.criterion]!.name}
            </p>
            <p className="soft leading-tight">
              {place.mode === 'rung'
                ? `${rung.mark ? `marked ${rung.mark}, ` : ''}${where}`
                : place.mode === 'best'
                  ? `${best.length} of ${cells!.columns.length} chosen`
                  : `${place.criterion + 1} of ${criteria.length}`}
            </p>
          </div>
          <PhotoButtons take={photos.take} />
          <button
            type="button"
            className="btn btn-ghost btn-sm font-normal max-lg:h-11 max-lg:px-2"
            disabled={!reading.canUndo}
            onClick={undo}
          >
            Undo
          </button>
        </div>
        <div className="mt-1 flex items-center gap-3 lg:mt-0">
          <progress
            className="progress progress-primary flex-1"
            value={reading.count}
            max={total}
            aria-label={`${reading.count} of ${total} scored`}
          />
          <span className="soft">
            {reading.count} / {total}
          </span>
          <div className="join" role="group" aria-label="Order">
            {modes.map((mode) => (
              <button
                key={mode}
                type="button"
                aria-pressed={place.mode === mode}
                className={`btn btn-sm join-item font-normal ${place.mode === mode ? 'btn-chosen' : 'btn-ghost'}`}
                onClick={() => go({ mode })}
              >
                {cells ? CELL_WORDS[mode] : `by ${mode}`}
              </button>
            ))}
          </div>
        </div>
        <AwakeNote />
        {props.half && reading.count < total && (
          <p className="border-secondary my-2 border-l-4 pl-3 leading-tight">
            Every second rung was scored for you, by the simulated machine’s own eye. Score the
            others, and{' '}
            <Link href={finding} className="underline">
              the finding
            </Link>{' '}
            becomes surer with each.
          </p>
        )}
        <PhotoRow {...photos} />
        {place.mode === 'best' ? (
          <BestRows {...focus} />
        ) : place.mode === 'rung' ? (
          <ByRung {...focus} />
        ) : (
          <ByCriterion {...focus} />
        )}
        <div className="bg-base-100 sticky bottom-0 mt-auto py-2">
          {place.over && (
            <p role="status" className="mb-2 font-semibold">
              That was the last one. {reading.count} of {total} are scored.
            </p>
          )}
          {place.mode !== 'best' && <ScorePad {...focus} />}
          <div className="grid grid-cols-2 gap-2 lg:grid-cols-[1fr_1fr_2fr]">
            <button type="button" className="btn-quiet h-12 px-2" onClick={() => step(-1)}>
              {place.mode === 'rung' && !cells && !mixed ? 'Rung below' : 'Previous'}
            </button>
            {!(last || place.over) && (
              <Link href={finding} className="btn-quiet h-12 px-2 max-lg:hidden">
                Finding
              </Link>
            )}
            {last || place.over ? (
              <Link href={finding} className="btn-main h-12 px-2 lg:col-span-2">
                See the finding
              </Link>
            ) : (
              <button
                type="button"
                className="btn lg:btn-primary max-lg:border-base-300 h-12 px-2 font-medium shadow-none max-lg:bg-transparent max-lg:font-normal"
                onClick={() => step(1)}
              >
                {place.mode === 'rung' && !cells && !mixed ? 'Rung above' : 'Next'}
              </button>
            )}
          </div>
        </div>
        <p className="soft max-lg:hidden">
          Keys: 0 to 4 score, x can’t tell, arrows move,
          {cells && ' c next criterion,'}
          {props.tapped && ' b best of its column,'} u undo, m switches between by rung and by
          criterion.
        </p>
        {props.finds.map((one) => (
          <Term key={one} of={one} />
        ))}
      </section>
      {props.measures.length > 0 && (
        <details className="rule-above col-span-full">
          <summary className="min-h-11 cursor-pointer text-lg leading-[2.75rem]">
            Measure instead, or as well
          </summary>
          <MeasureForm
            measures={props.measures}
            measured={reading.measured}
            keep={reading.measure}
          />
        </details>
      )}
    </main>
  );
}
