'use client';
// Any file, looked through before it is sent: passport, picture, commands by height, layers, text.
import dynamic from 'next/dynamic';
import { useEffect, useRef, useState } from 'react';
import { useRouter } from 'next/navigation';
import type { Bench } from '@/core/bench/bench';
import { roundArea } from '@/core/deposit/bead';
import type { Told } from '@/core/gcode/recognise';
import { short } from '@/core/numbers';
import { problem, type Answer, type Problem } from '@/core/result';
import { leadAxis } from '@/core/plan/axes';
import type { MoveFacts } from '@/core/view/opened';
import { ActButton, type Outcome } from '../common/ActButton';
import { Problems } from '../common/Problems';
import { Passport } from '../print/Passport';
import { Heights } from './Heights';
import { LayerTable } from './LayerTable';
import { Look, type Range } from './Look';
import { OpenHere } from './OpenHere';
import { useDrop } from './useDrop';
import { TextView } from './TextView';
import { useOpened, type OpenState } from './useOpened';

// Forms are loaded only by who takes a bench from a file.
const NewBench = dynamic(() => import('../bench/NewBench').then((part) => part.NewBench), {
  ssr: false,
});

export type Choice = { id: number | null; title: string; bench: Bench };
type Named = { id: number; name: string };

type Props = {
  choices: Choice[];
  chosen: number;
  /** A file that the program has, opened at once. */
  start: { url: string; name: string; line: number | null } | null;
  machines: Named[];
  filaments: Named[];
  makeBench: (bench: unknown) => Promise<Answer<number>>;
};

type Open = Extract<OpenState, { phase: 'open' }>;

export function ThroughScreen({ choices, chosen, start, ...forms }: Props) {
  const [at, setAt] = useState(Math.max(0, Math.min(chosen, choices.length - 1)));
  const { state, open, again, stop, fail } = useOpened();
  const choice = choices[at]!;
  const over = useDrop((file) => void open(file, file.name, choice.bench));

  // A file named in the address is fetched once, when the screen opens.
  useEffect(() => {
    if (!start) return;
    const leaving = new AbortController();
    fetch(start.url, { signal: leaving.signal })
      .then(async (got) => {
        if (!got.ok) throw new Error(`the program answered ${got.status}`);
        await open(await got.blob(), start.name, choice.bench);
      })
      .catch((error: Error) => {
        if (leaving.signal.aborted) return;
        fail([
          problem(
            start.name,
            `It could not be fetched (${error.message}).`,
            'Load the page again.',
          ),
        ]);
      });
    return () => leaving.abort();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the address does not change under the screen
  }, []);

  const picker = (
    <label className="flex min-w-0 items-center gap-2">
      <span className="soft">for</span>
      <select
        className="select select-sm w-auto min-w-0"
        aria-label="Looked at for"
        value={at}
        onChange={({ target }) => {
          const next = Number(target.value);
          setAt(next);
          void again(choices[next]!.bench);
        }}
      >
        {choices.map(({ title }, i) => (
          <option key={i} value={i}>
            {title}
          </option>
        ))}
      </select>
    </label>
  );
  if (state.phase === 'open')
    return (
      <Opened
        key={state.name + state.source.size}
        state={state}
        choice={choice}
        picker={picker}
        startLine={start?.line ?? null}
        own={start !== null && state.name === start.name}
        close={stop}
        {...forms}
      />
    );
  return (
    <main className="mx-auto max-w-3xl px-4 py-8">
      <h1>See through a file</h1>
      <p className="mt-2 mb-4">
        What it heats, moves, changes and leaves behind, every move that it makes and how long it
        takes: before it is sent to a machine.
      </p>
      {state.phase === 'reading' || (start && state.phase === 'none') ? (
        <div role="status" className="bg-base-200 rounded p-6">
          <p className="mb-3 text-xl font-semibold break-all">
            {state.phase === 'reading' ? state.name : start!.name}
          </p>
          <progress
            className="progress progress-primary mb-4 w-full"
            value={state.phase === 'reading' ? state.share : 0}
            max={1}
            aria-label="How far it is read"
          />
          <button type="button" className="btn-quiet" onClick={stop}>
            Stop
          </button>
        </div>
      ) : (
        <>
          {state.phase === 'failed' && <Problems problems={state.problems} />}
          <div className="mb-3">{picker}</div>
          <OpenHere over={over} onFile={(file) => void open(file, file.name, choice.bench)} />
        </>
      )}
    </main>
  );
}

const TABS = {
  passport: 'Passport',
  heights: 'By height',
  layers: 'Layers',
  text: 'Text',
  bench: 'A bench from it',
} as const;
type Tab = keyof typeof TABS;

type OpenedProps = Omit<Props, 'choices' | 'chosen' | 'start'> & {
  state: Open;
  choice: Choice;
  picker: React.ReactNode;
  startLine: number | null;
  /** Whether the program has this file already. */
  own: boolean;
  close: () => void;
};

function Opened({
  state,
  choice,
  picker,
  startLine,
  own,
  close,
  makeBench,
  ...shelves
}: OpenedProps) {
  const { name, source, overview, remote } = state;
  const { layers, plan } = overview;
  const [tab, setTab] = useState<Tab>('passport');
  const [range, setRange] = useState<Range>({ first: 0, last: Math.max(0, layers.z.length - 1) });
  const [move, setMove] = useState<MoveFacts | null>(null);
  const [line, setLine] = useState<number | null>(null);
  const [told, setTold] = useState<Told[] | null>(null);
  const begun = useRef(false);

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

  const { filament } = choice.bench;
  return (
    <main className="flex flex-col px-4 py-3 lg:h-[calc(100dvh-4rem)] lg:px-7">
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        <h1 className="min-w-0 truncate text-xl">{name}</h1>
        <span className="soft">
          {size(overview.bytes)}, {overview.lines} lines
        </span>
        <span className="flex-1" />
        {picker}
        {!own && <Keep name={name} source={source} benchId={choice.id} />}
        <button type="button" className="btn-quiet btn-sm" onClick={close}>
          Open another
        </button>
      </div>
      {plan && !own && (
        <Recognised name={name} source={source} title={plan.file} rungs={plan.rungs.length} />
      )}
      <Problems problems={overview.planProblems} />
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)]">
        <div className="flex h-[75dvh] min-h-0 flex-col lg:h-auto [&>*]:flex-1">
          <Look
            remote={remote}
            overview={overview}
            bed={choice.bench.machine.bed}
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
            {tab === 'passport' && (
              <Passport
                audit={overview.audit}
                times={overview.times}
                bench={choice.bench}
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

/** Sends the file to a route of the program. @returns what it answers */
async function send(
  url: string,
  source: Blob,
): Promise<{ href: string } | { problems: Problem[] }> {
  try {
    const answer = await fetch(url, { method: 'POST', body: source });
    return (await answer.json()) as { href: string } | { problems: Problem[] };
  } catch {
    return {
      problems: [
        problem(
          'file',
          'The program did not answer.',
          'See whether it still runs, then try again.',
        ),
      ],
    };
  }
}

function Keep({ name, source, benchId }: { name: string; source: Blob; benchId: number | null }) {
  const [kept, setKept] = useState<number | null>(null);
  if (benchId === null) return null;
  if (kept === benchId) return <span className="soft">kept with this bench</span>;
  return (
    <ActButton
      className="btn-quiet btn-sm"
      act={async (): Promise<Outcome> => {
        const answer = await send(
          `/kept?bench=${benchId}&name=${encodeURIComponent(name)}`,
          source,
        );
        if ('problems' in answer) return { ok: false, problems: answer.problems };
        setKept(benchId);
        return { ok: true };
      }}
    >
      Keep with this bench
    </ActButton>
  );
}

/** A file of ours carries its plan: it can be read wherever it is found. */
function Recognised({
  name,
  source,
  title,
  rungs,
}: {
  name: string;
  source: Blob;
  title: string;
  rungs: number;
}) {
  const router = useRouter();
  return (
    <div className="border-primary mb-3 flex flex-wrap items-center gap-x-4 gap-y-1 border-l-4 py-1 pl-4">
      <p>
        This is a ladder of ours with {rungs} {rungs === 1 ? 'rung' : 'rungs'}
        {title !== name && `, made as ${title}`}. Is it printed?
      </p>
      <ActButton
        className="btn-quiet btn-sm"
        act={async (): Promise<Outcome> => {
          const answer = await send('/adopt', source);
          if ('problems' in answer) return { ok: false, problems: answer.problems };
          router.push(answer.href);
          return { ok: true };
        }}
      >
        Read its print
      </ActButton>
    </div>
  );
}
