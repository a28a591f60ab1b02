'use client';
// A sliced file becomes a ladder: the print with its sections at the left, what climbs in them at the right.
import { useEffect, useMemo, useState } from 'react';
import type { Bench } from '@/core/bench/bench';
import { settingInfo } from '@/core/bench/settings';
import { mendOf, type Found } from '@/core/graft/obstacles';
import type { Climbs, Wish } from '@/core/graft/recipe';
import type { Opened } from '@/core/graft/workbench';
import { short } from '@/core/numbers';
import type { Problem } from '@/core/result';
import { ActButton, type Outcome } from '../common/ActButton';
import { wrongProblem } from '../common/NumberBox';
import { PrintWithRows } from '../common/PrintWithRows';
import { Problems } from '../common/Problems';
import { ReadingProgress } from '../common/ReadingProgress';
import { RgbaCanvas } from '../common/RgbaCanvas';
import { Boundaries } from './Boundaries';
import { draftOf, heightsFor, toWish, withCandidate, withHeights, type Draft } from './draft';
import { Evidence } from './Evidence';
import { Heights } from './Heights';
import { Obstacles } from './Obstacles';
import { OwnBlocks } from './OwnBlocks';
import { Strip } from './Strip';
import { useGraft } from './useGraft';
import { WhatClimbs } from './WhatClimbs';
import { counted } from '../common/format';

type Props = {
  keptId: number;
  name: string;
  bench: Bench;
  /** What was asked for before, for this bench or another one. */
  before: Wish | null;
  make: (wish: Wish) => Promise<Outcome>;
};

export function GraftScreen({ keptId, name, bench, before, make }: Props) {
  const { state, tried, ask, stop, again } = useGraft(keptId, name, bench);
  if (state.phase === 'open')
    return (
      <Workplace
        opened={state.opened}
        {...{ tried, ask, before, make, bench }}
        keep={`graft ${keptId}`}
      />
    );
  return (
    <main className="mx-auto max-w-3xl px-4 py-8">
      <h1 className="mb-4 break-all">{name}</h1>
      {state.phase === 'reading' && (
        <ReadingProgress title="Looking for its sections" share={state.share} stop={stop} />
      )}
      {state.phase === 'failed' && <Problems problems={state.problems} />}
      {(state.phase === 'stopped' || state.phase === 'failed') && (
        <button type="button" className="btn-quiet mt-4" onClick={again}>
          Read it again
        </button>
      )}
    </main>
  );
}

type WorkplaceProps = Pick<Props, 'before' | 'make' | 'bench'> &
  Pick<ReturnType<typeof useGraft>, 'tried' | 'ask'> & { opened: Opened; keep: string };

/** What was set here before, in this browser; a page opened again is where it was. */
function keptDraft(key: string, opened: Opened): Draft | null {
  try {
    const draft = JSON.parse(sessionStorage.getItem(key) ?? 'null') as Draft | null;
    // One of an older program may lack something, or speak of another machine.
    const fits = opened.offered.some(({ setting }) => setting === draft?.setting);
    return draft && fits && Array.isArray(draft.heights) && draft.mends && draft.ways
      ? draft
      : null;
  } catch {
    return null;
  }
}

function Workplace({ opened, tried, ask, before, make, bench, keep }: WorkplaceProps) {
  const [draft, setDraft] = useState<Draft>(() => {
    const key = before ? `${keep} ${JSON.stringify(before.rows)}` : keep;
    return keptDraft(key, opened) ?? draftOf(opened, before, bench);
  });
  const [stopped, setStopped] = useState<Problem[]>([]);
  const change = (patch: Partial<Draft>) => {
    setStopped([]);
    setDraft((now) => ({ ...now, ...patch }));
  };
  const wanted = useMemo(() => toWish(draft, opened, bench), [draft, opened, bench]);
  useEffect(() => {
    const key = before ? `${keep} ${JSON.stringify(before.rows)}` : keep;
    sessionStorage.setItem(key, JSON.stringify(draft));
    if (wanted.ok) ask(wanted.value);
  }, [draft, wanted, ask, keep, before]);

  const heights = heightsFor(draft, wanted);
  const rows = wanted.ok ? wanted.value.rows : [];
  const candidate = draft.candidate === null ? null : opened.candidates[draft.candidate];
  const setting = settingInfo(draft.setting);
  const problems = wanted.ok ? (tried?.problems ?? []) : wanted.problems;
  const rungs = heights.map((from, index) => ({
    index,
    z: { from, to: heights[index + 1] ?? opened.height },
  }));
  const found = tried?.obstacles ?? [];
  const lifted = found
    .filter((one) => one.kind !== 'slowed' && mendOf(one, draft.mends) !== 'leave')
    .reduce((sum, { lines }) => sum + lines.length, 0);
  const rewrites =
    draft.mends.slowed === 'hold' ||
    (wanted.ok &&
      rows.some(({ set }) =>
        Object.keys(set).some((one) => wanted.value.ways[one as Climbs] === 'moves'),
      ));
  return (
    <main className="grid grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-6 px-4 py-6 lg:grid-cols-[auto_minmax(22rem,1fr)] lg:px-7 lg:py-5">
      <section
        aria-label="Drawing"
        className="self-start max-lg:overflow-x-auto lg:sticky lg:top-4"
      >
        <PrintWithRows
          height={opened.height}
          width={opened.width}
          rungs={rungs}
          className="[--beside:9.5rem] [--room:calc(100vw-2rem)] [--tall:50dvh] lg:[--beside:23.5rem] lg:[--room:calc(100vw-27.5rem)] lg:[--tall:calc(100dvh-8.5rem)]"
          picture={
            tried ? (
              <RgbaCanvas picture={tried.picture} label="The print from the front, to scale" />
            ) : (
              <div className="skeleton h-full" />
            )
          }
          settling={({ index }) => tried?.sections[index]?.settles ?? 0}
          row={({ index }) => {
            const set = rows[index]?.set ?? {};
            const section = tried?.sections[index];
            return (
              <div className="flex w-full items-center gap-3 pl-[5.5rem] max-lg:pl-[3.5rem]">
                <strong className="text-lg whitespace-nowrap lg:text-xl">
                  {Object.entries(set)
                    .map(([one, value]) => `${short(value, 4)} ${settingInfo(one as never).unit}`)
                    .join(' · ')}
                </strong>
                <span className="soft ml-auto hidden whitespace-nowrap lg:inline">
                  from {short(heights[index]!, 2)} mm
                  {section && section.command !== '' && section.command.length < 24
                    ? ` · ${section.command}`
                    : ''}
                </span>
              </div>
            );
          }}
          over={
            <>
              <div
                className="pointer-events-none absolute inset-y-0 w-12 lg:w-20"
                style={{ left: `calc(2.75rem + ${opened.width + 2} * var(--mm))` }}
              >
                <Strip
                  tops={opened.strip.top}
                  plastic={opened.strip.plastic}
                  odd={candidate?.odd ?? []}
                  height={opened.height}
                />
              </div>
              <Boundaries
                heights={heights}
                height={opened.height}
                tops={opened.strip.top}
                onMove={(index, height) =>
                  change(
                    withHeights(
                      draft,
                      heights.map((one, i) => (i === index ? height : one)),
                    ),
                  )
                }
                onRemove={(index) =>
                  heights.length > 1 &&
                  change(
                    withHeights(
                      draft,
                      heights.filter((_, i) => i !== index),
                    ),
                  )
                }
              />
            </>
          }
        />
        <p className="soft mt-3 max-w-xl">
          Bars: plastic of each layer
          {candidate && candidate.odd.length > 0
            ? '; dark ones are like no other section, as figures and a cap are'
            : ''}
          .
          {setting.settlesS > 0 &&
            ` Hatched: what prints while the ${setting.title} still settles, about ${setting.settlesS} s.`}
        </p>
      </section>
      <section className="max-w-2xl">
        <Evidence
          opened={opened}
          draft={draft}
          heights={heights}
          onCandidate={(index) => change(withCandidate(draft, opened, index))}
        />
        <WhatClimbs
          draft={draft}
          opened={opened}
          bench={bench}
          count={heights.length}
          onChange={change}
        />
        {(tried?.hasty ?? 0) > 0 && (
          <p className="border-warning mt-3 border-l-4 pl-3">
            {tried!.hasty === 1 ? 'One section prints' : `${tried!.hasty} sections print`} so
            quickly that the {setting.title} drifts through most of it: choose fewer and taller
            ones.
          </p>
        )}
        <Problems problems={[...problems, ...stopped]} />
        <div className="mt-4 flex flex-wrap gap-2">
          <ActButton
            className="btn-main"
            needs="change"
            working="Generating"
            act={async () => {
              const wrong = wrongProblem();
              const now = toWish(draft, opened, bench);
              if (wrong || !now.ok) {
                setStopped(wrong ? [wrong] : []);
                return;
              }
              return make(withMends(now.value, tried?.obstacles ?? []));
            }}
          >
            Generate file
          </ActButton>
        </div>
        <Obstacles
          found={found}
          mends={draft.mends}
          onMend={(kind, mend) => change({ mends: { ...draft.mends, [kind]: mend } })}
        />
        <Heights draft={draft} heights={heights} opened={opened} onChange={change} />
        <OwnBlocks
          opened={opened}
          own={draft.ownBlocks}
          machine={bench.machine.name}
          onChange={(ownBlocks) => change({ ownBlocks })}
        />
        <section className="rule-above">
          <h2>Everything else</h2>
          <p>
            {rewrites
              ? 'Of moves in the sections only the numbers change; all else stays byte for byte.'
              : `${counted(opened.lines - lifted)} lines stay byte for byte.`}{' '}
            Taking the ladder out again gives the original, which is kept with this bench.
          </p>
        </section>
      </section>
    </main>
  );
}

/** With what is done about each obstacle, said or not. */
const withMends = (wish: Wish, found: readonly Found[]): Wish => ({
  ...wish,
  mends: {
    ...wish.mends,
    ...Object.fromEntries(found.map((one) => [one.kind, mendOf(one, wish.mends)])),
  },
});
