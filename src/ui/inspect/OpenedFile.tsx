'use client';
// One file, open: its picture at the left, what is known of it at the right.
import { useEffect, useRef, useState, type ReactNode } from 'react';
import type { Bench } from '@/core/bench/bench';
import { roundArea } from '@/core/deposit/bead';
import type { Told } from '@/core/gcode/recognise';
import { short } from '@/core/numbers';
import { isBlind } from '@/core/ladders/proof/sets';
import { leadAxis } from '@/core/plan/axes';
import type { Answer } from '@/core/result';
import type { MoveFacts } from '@/core/view/opened';
import { later } from '../common/later';
import { Problems } from '../common/Problems';
import { FileCheck } from '../print/FileCheck';
import { Keep, MadeHere, MakeLadder } from './FileActs';
import { Heights } from './Heights';
import { LayerTable } from './LayerTable';
import { Look, type Range } from './Look';
import { TextView } from './TextView';
import type { OpenState } from './useOpened';

// Forms are loaded only by who takes a bench from a file.
const NewBench = later('The form for a bench', () =>
  import('../bench/NewBench').then((part) => part.NewBench),
);

/** One of the user’s own by its name; a usual machine with all that it is. */
export type Choice = { id: number | null; title: string; bench?: Bench };
type Named = { id: number; name: string };
/** What a bench from a file can be joined with, and how it is made. */
export type BenchForms = {
  machines: Named[];
  filaments: Named[];
  makeBench: (bench: unknown) => Promise<Answer<number>>;
};

type Open = Extract<OpenState, { phase: 'open' }>;

const TABS = {
  check: 'File check',
  heights: 'By height',
  layers: 'Layers',
  text: 'Text',
  bench: 'A bench from it',
} as const;
type Tab = keyof typeof TABS;

type Props = BenchForms & {
  state: Open;
  choice: Choice;
  bench: Bench;
  /** Whether a proof of it has been scored: until then it stays blind. */
  scored: boolean;
  picker: ReactNode;
  startLine: number | null;
  /** Whether the program has this file already. */
  own: boolean;
  close: () => void;
};

export function OpenedFile({
  state,
  choice,
  bench,
  scored,
  picker,
  startLine,
  own,
  close,
  makeBench,
  ...shelves
}: Props) {
  const { name, source, overview, remote } = state;
  const { layers, plan } = overview;
  const [tab, setTab] = useState<Tab>('check');
  const [range, setRange] = useState<Range>({ first: 0, last: Math.max(0, layers.z.length - 1) });
  const [move, setMove] = useState<MoveFacts | null>(null);
  const [line, setLine] = useState<number | null>(null);
  const [told, setTold] = useState<Told[] | null>(null);
  const begun = useRef(false);
  const [lifted, setLifted] = useState(false);

  /** Shows a move: its layer on top of the picture, its line in the text. */
  const show = (facts: MoveFacts | null, at: number | null) => {
    setMove(facts);
    setLine(at);
    if (facts && facts.layer >= 0 && facts.layer !== range.last)
      setRange(({ first }) => ({ first: Math.min(first, facts.layer), last: facts.layer }));
  };
  const goToLine = (at: number) => void remote.moveAtLine(at).then((facts) => show(facts, at));
  const goToMove = (index: number | null) => {
    if (index === null) return setMove(null);
    void remote.move(index).then((facts) => facts && show(facts, facts.line));
  };
  const toText = (at: number) => {
    setTab('text');
    goToLine(at);
  };
  useEffect(() => {
    if (begun.current || startLine === null) return;
    begun.current = true;
    setTab('text');
    goToLine(startLine);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when the file stands
  }, []);
  useEffect(() => {
    if (tab === 'bench' && !told) void remote.told().then(setTold);
  }, [tab, told, remote]);

  const { filament } = bench;
  if (plan && isBlind(plan) && !scored && !lifted)
    return (
      <main className="mx-auto max-w-3xl px-4 py-8">
        <h1 className="break-all">{name}</h1>
        <p className="border-warning my-4 border-l-4 pl-4 text-lg">
          This proof is blind: its moves, heights and text show which part has which values. Score
          both parts first, and you see what is there, not what you hope for.
        </p>
        <div className="flex flex-wrap gap-2">
          <button type="button" className="btn-quiet" onClick={() => setLifted(true)}>
            Show it all the same: it gives away which part is which
          </button>
          <button type="button" className="btn-main" onClick={close}>
            Open another
          </button>
        </div>
      </main>
    );
  return (
    <main className="flex flex-col px-4 py-3 lg:h-[calc(100dvh-4rem)] lg:px-7">
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        <h1 className="min-w-0 text-xl break-all">{name}</h1>
        <span className="soft">
          {size(overview.bytes)}, {overview.lines} lines
        </span>
        <span className="flex-1" />
        {picker}
        {!own && <Keep name={name} source={source} benchId={choice.id} />}
        {!plan && <MakeLadder name={name} source={source} benchId={choice.id} />}
        <button type="button" className="btn-quiet btn-sm" onClick={close}>
          Open another
        </button>
      </div>
      {plan && !own && (
        <MadeHere name={name} source={source} title={plan.file} rungs={plan.rungs.length} />
      )}
      <Problems problems={overview.planProblems} />
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)]">
        <div className="flex h-[75dvh] min-h-0 flex-col lg:h-auto [&>*]:flex-1">
          <Look
            remote={remote}
            overview={overview}
            bed={bench.machine.bed}
            rungUnit={plan ? (leadAxis(plan)?.unit ?? '') : ''}
            range={range}
            onRange={setRange}
            move={move}
            onMove={goToMove}
          />
        </div>
        <div className="flex min-h-0 flex-col">
          <div
            role="tablist"
            aria-label="About the file"
            className="border-base-300 mb-3 flex overflow-x-auto border-b"
          >
            {(Object.keys(TABS) as Tab[]).map((one) => (
              <button
                key={one}
                type="button"
                role="tab"
                aria-selected={tab === one}
                className={`min-h-11 border-b-[3px] px-3 whitespace-nowrap ${tab === one ? 'border-primary' : 'text-neutral border-transparent'}`}
                onClick={() => setTab(one)}
              >
                {TABS[one]}
              </button>
            ))}
          </div>
          <div
            role="tabpanel"
            aria-label={TABS[tab]}
            className={`min-h-0 flex-1 lg:overflow-y-auto ${tab === 'text' || tab === 'layers' ? 'h-[70dvh] lg:h-auto' : ''}`}
          >
            {tab === 'check' && (
              <FileCheck
                audit={overview.audit}
                times={overview.times}
                bench={bench}
                lineAs={(at) => (
                  <button type="button" className="underline" onClick={() => toText(at)}>
                    line {at}:
                  </button>
                )}
              />
            )}
            {tab === 'heights' && (
              <Heights
                tracks={overview.tracks}
                height={overview.audit.z?.high ?? 0}
                rungs={plan?.rungs ?? []}
                onLine={toText}
              />
            )}
            {tab === 'layers' && (
              <LayerTable
                layers={layers}
                gramsPerMm={(roundArea(filament.diameter) * filament.density) / 1000}
                chosen={range.last}
                onLayer={(at) =>
                  setRange(({ first }) => ({ first: Math.min(first, at), last: at }))
                }
              />
            )}
            {tab === 'text' && (
              <TextView remote={remote} overview={overview} chosen={line} onChoose={goToLine} />
            )}
            {tab === 'bench' &&
              (told ? (
                <NewBench make={makeBench} told={told} onLine={toText} {...shelves} />
              ) : (
                <div className="skeleton h-40" />
              ))}
          </div>
        </div>
      </div>
    </main>
  );
}

const size = (bytes: number): string =>
  bytes < 1e6 ? `${short(bytes / 1e3, 0)} kB` : `${short(bytes / 1e6, 1)} MB`;
