'use client';
// A straightened picture on the shared axis: each rung's strip beside the print, and one measure of all rungs as marks.
import Link from 'next/link';
import { useState } from 'react';
import type { Criterion } from '@/core/criteria';
import { headlineOf, inFigures, inWords, sentenceOf } from '@/core/loupe/headline';
import { againstOther } from '@/core/loupe/both-sides';
import type { KeptLook, MeasureKept, MovedPlace } from '@/core/loupe/kept';
import { MEASURES, type MeasureName } from '@/core/loupe/measures';
import { countable, countsUsually } from '@/core/loupe/scoring';
import type { OnSharedAxis } from '@/core/view/shared-axis';
import { ActButton, type Outcome } from '../common/ActButton';
import { short } from '@/core/numbers';
import type { ShownStrip } from '../common/LookStrip';
import { PrintPicture } from '../common/PrintPicture';
import { PrintWithRows } from '../common/PrintWithRows';
import { Problems } from '../common/Problems';
import type { LoupePicture, ShownLook } from './LoupeScreen';
import { OnPicture } from './OnPicture';
import { Strip } from './Strip';

type Props = {
  drawing: string;
  stands: OnSharedAxis;
  layer: number;
  chosen: LoupePicture;
  look: ShownLook;
  /** What was found on a picture of the print's other side. */
  behind: KeptLook | null;
  ladderId: number;
  criteria: readonly Criterion[];
  count: (names: MeasureName[]) => Promise<Outcome>;
  move: (moved: MovedPlace[]) => Promise<Outcome>;
  /** The picture that is shown, straightened, and others of this ladder. */
  strip: ShownStrip | null;
  others: readonly ShownStrip[];
  again: () => void;
};

type Group = { key: string; name: MeasureName; axis?: 'x' | 'y'; all: MeasureKept[] };

/** Measures in the order in which they were taken, those of a pair of lines apart by axis. */
function groupsOf(measures: readonly MeasureKept[]): Group[] {
  const groups = new Map<string, Group>();
  for (const one of measures) {
    const key = `${one.name} ${one.axis ?? ''}`;
    const group = groups.get(key) ?? {
      key,
      name: one.name,
      ...(one.axis ? { axis: one.axis } : {}),
      all: [],
    };
    group.all.push(one);
    groups.set(key, group);
  }
  return [...groups.values()];
}

export function Measured(props: Props) {
  const { drawing, stands, layer, look, strip, again } = props;
  const { found } = look;
  const groups = groupsOf(found.measures);
  const labelOf = (rung: number) => stands.rungs.find(({ index }) => index === rung)?.name ?? '';
  // What tells one rung from another stands first.
  const first =
    groups.find(
      ({ name, all }) =>
        countsUsually(name, props.criteria) && headlineOf(name, all, layer, labelOf).rung !== null,
    ) ??
    groups.find(({ all }) => all.some(({ told }) => told)) ??
    groups[0];
  const [shown, setShown] = useState(first?.key ?? '');
  const [light, setLight] = useState({ brightness: 100, contrast: 100 });
  const group = groups.find(({ key }) => key === shown) ?? first;
  const head = group && headlineOf(group.name, group.all, layer, labelOf);
  const best = group?.all.find(({ rung }) => rung === head?.rung);
  const scale = group ? scaleOf(group, layer) : null;
  const filter = `brightness(${light.brightness}%) contrast(${light.contrast}%)`;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-6 lg:grid-cols-[auto_minmax(20rem,1fr)]">
      <section aria-label="Rungs on the picture" className="max-lg:order-2">
        <PrintWithRows
          height={stands.height}
          width={stands.width}
          stretch={stands.stretch}
          rungs={stands.rungs}
          rowsOnPhone
          beside="clamp(20rem, 30vw, 40rem)"
          className="[--room:calc(100vw-2rem)] [--tall:calc(100dvh-13rem)] lg:[--room:calc(100vw-28rem)]"
          picture={<PrintPicture src={drawing} />}
          row={(rung) => (
            <div className="flex h-full w-full items-center gap-3 py-px">
              {strip && (
                <Strip
                  rung={rung}
                  rungs={stands.rungs}
                  look={strip}
                  others={props.others}
                  filter={filter}
                />
              )}
              <span className="w-16 shrink-0 font-semibold max-lg:text-sm">{rung.label}</span>
              {group && scale && (
                <Mark
                  one={group.all.find((taken) => taken.rung === rung.index)}
                  scale={scale}
                  best={rung.index === head?.rung}
                />
              )}
            </div>
          )}
        />
        {group && (
          <OnPicture
            key={group.key}
            picture={props.chosen}
            found={found}
            all={group.all}
            labelOf={labelOf}
            move={props.move}
          />
        )}
      </section>
      <section aria-label="Measured on this picture" className="max-w-xl space-y-4">
        <p className="soft">Measured on this picture</p>
        {group && head && (
          <h2 className="text-base-content text-3xl leading-tight font-semibold text-balance">
            {sentenceOf(group.name, layer, head)}
          </h2>
        )}
        {best && (
          <p>
            {inWords(best)}
            {group?.name === 'layer-pitch' &&
              best.also?.layers &&
              ` from ${best.also.layers} layers`}
            .
          </p>
        )}
        {group && props.behind && (
          <OtherSide group={group} here={found} there={props.behind} labelOf={labelOf} />
        )}
        <p className="soft">
          Straightened by four corners; {Math.round(found.pxPerMm ?? 0)} pixels a millimetre
          {found.bulge !== null && found.bulge !== 0 && '; the bulge of the lens taken out'}. The
          bars cover the true value in 8 of 10 cases.
        </p>
        <Problems problems={found.problems} />
        <ul className="border-base-300 border-t" aria-label="Measures">
          {groups.map(({ key, name, axis, all }) => (
            <li key={key} className="border-base-300 border-b">
              <label className="flex min-h-11 cursor-pointer items-center gap-3 py-1">
                <input
                  type="radio"
                  name="measure"
                  className="radio radio-sm h-6 w-6"
                  checked={key === group?.key}
                  onChange={() => setShown(key)}
                />
                <b className="w-44 font-semibold">
                  {MEASURES[name].title}
                  {axis && ` in ${axis}`}
                </b>
                <span className="flex-1">{headlineOf(name, all, layer, labelOf).text}</span>
              </label>
              {key === group?.key && <Untold all={all} labelOf={labelOf} />}
            </li>
          ))}
        </ul>
        {group && <Numbers all={group.all} labelOf={labelOf} />}
        <Counting {...props} />
        <div className="flex flex-wrap gap-x-6 gap-y-2">
          {(['brightness', 'contrast'] as const).map((what) => (
            <label key={what} className="flex min-h-11 flex-1 basis-48 items-center gap-3">
              <span className="w-24">{what === 'brightness' ? 'Brightness' : 'Contrast'}</span>
              <input
                type="range"
                className="range range-sm h-6"
                min={40}
                max={250}
                value={light[what]}
                onChange={({ target }) => setLight({ ...light, [what]: Number(target.value) })}
              />
            </label>
          ))}
        </div>
        <button type="button" className="btn-quiet" onClick={again}>
          Place the corners again
        </button>
      </section>
    </div>
  );
}

/** Measures that depend on how light falls on a side are told against the other side. */
const BY_SIDE: readonly MeasureName[] = ['gloss'];

function OtherSide({
  group: { name, all },
  here,
  there,
  labelOf,
}: {
  group: Group;
  here: KeptLook;
  there: KeptLook;
  labelOf: (rung: number) => string;
}) {
  if (!BY_SIDE.includes(name)) return null;
  const against = againstOther(name, all, there.measures);
  if (!against) return null;
  const apart = Math.abs(against.value) > against.spread;
  const most = against.rungs.reduce((a, b) => (Math.abs(b.value) > Math.abs(a.value) ? b : a));
  return (
    <p>
      {apart
        ? `The ${here.side} shines ${against.value > 0 ? 'more' : 'less'} than the ${there.side}: `
        : `Front and back shine alike: `}
      {inFigures({ ...against, value: Math.abs(against.value) })} of the face between them
      {apart &&
        `, most at ${labelOf(most.rung)} (${short(most.here, 3)} and ${short(most.there, 3)})`}
      .
    </p>
  );
}

/** What else is told beside a measure's value. */
const BESIDE: Record<string, string> = {
  jitter: 'jitter, mm',
  layers: 'layers',
  face: 'face, share',
  banding: 'banding, share',
  share: 'highlights, share',
  contrast: 'their contrast',
  length: 'length, mm',
  cover: 'covered, share',
  evenness: 'unevenness, mm',
  hz: 'Hz',
  fade: 'fading, mm',
  droop: 'droop of the lean, mm',
  grain: 'grain, share',
  out: 'standing out, mm',
  cut: 'cut, mm',
};

/** All numbers of one measure, to be looked up. */
function Numbers({
  all,
  labelOf,
}: {
  all: readonly MeasureKept[];
  labelOf: (rung: number) => string;
}) {
  const beside = Object.keys(BESIDE).filter((key) =>
    all.some(({ also }) => also?.[key] !== undefined),
  );
  return (
    <details>
      <summary className="min-h-11 cursor-pointer leading-[2.75rem]">All numbers</summary>
      <div className="overflow-x-auto" tabIndex={0}>
        <table className="table-sm table w-auto">
          <thead>
            <tr>
              <th scope="col">rung</th>
              <th scope="col">{all[0]?.unit}</th>
              {beside.map((key) => (
                <th key={key} scope="col">
                  {BESIDE[key]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {all.map((one) => (
              <tr key={one.rung}>
                <th scope="row">{labelOf(one.rung)}</th>
                <td>{inFigures(one)}</td>
                {beside.map((key) => (
                  <td key={key}>{one.also?.[key] === undefined ? '' : short(one.also[key], 3)}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  );
}

/** Which measures count as a reading, and whether they do. */
function Counting({ look, ladderId, criteria, count }: Props) {
  const told = countable(look.found.measures, criteria);
  const [chosen, setChosen] = useState<readonly MeasureName[]>(
    look.counted ?? told.filter((name) => countsUsually(name, criteria)),
  );
  if (told.length === 0)
    return <p className="soft">Nothing that was measured here tells one rung from another.</p>;
  const counts = look.counted !== null;
  const changed =
    counts && told.some((name) => look.counted!.includes(name) !== chosen.includes(name));
  return (
    <section aria-label="Counted" className="rule-above space-y-3">
      <h3 className="font-semibold">
        {counts ? 'Counted as a reading of its own' : 'Not counted yet'}
      </h3>
      <ul className="flex flex-wrap gap-x-6">
        {told.map((name) => (
          <li key={name}>
            <label className="flex min-h-11 cursor-pointer items-center gap-2">
              <input
                type="checkbox"
                className="checkbox h-6 w-6"
                checked={chosen.includes(name)}
                onChange={({ target }) =>
                  setChosen(
                    told.filter((one) => (one === name ? target.checked : chosen.includes(one))),
                  )
                }
              />
              {MEASURES[name].title}
            </label>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap items-center gap-3">
        {(!counts || changed) && chosen.length > 0 && (
          <ActButton className="btn-main" working="Counting …" act={() => count([...chosen])}>
            {counts ? 'Count these instead' : 'Count these as a reading'}
          </ActButton>
        )}
        {counts && (
          <>
            <Link href={`/ladder/${ladderId}/finding`} className="btn-quiet">
              To the finding
            </Link>
            <ActButton act={() => count([])}>Take them out of the finding</ActButton>
          </>
        )}
      </div>
    </section>
  );
}

/** Why rungs could not be told, each reason once. */
function Untold({
  all,
  labelOf,
}: {
  all: readonly MeasureKept[];
  labelOf: (rung: number) => string;
}) {
  const reasons = new Map<string, string[]>();
  for (const { told, why = '', rung } of all)
    if (!told) reasons.set(why, [...(reasons.get(why) ?? []), labelOf(rung)]);
  if (reasons.size === 0) return null;
  return (
    <ul className="soft pb-2 pl-9 text-sm">
      {[...reasons].map(([why, rungs]) => (
        <li key={why}>
          {rungs.length === all.length ? 'On every rung' : rungs.join(', ')}: {why}
        </li>
      ))}
    </ul>
  );
}

type Scale = { low: number; high: number; asked: number | null };

function scaleOf({ name, all }: Group, layer: number): Scale | null {
  const told = all.filter(({ value }) => value !== null);
  if (told.length === 0) return null;
  const asked = name === 'layer-pitch' ? layer : name === 'line-up' ? 0 : null;
  const ends = told.flatMap(({ value, spread }) => [value! - spread!, value! + spread!]);
  const [low, high] = [Math.min(...ends, asked ?? Infinity), Math.max(...ends, asked ?? -Infinity)];
  const room = (high - low) * 0.06 || Math.abs(high) * 0.1 || 1;
  return { low: low - room, high: high + room, asked };
}

/** A number of one rung as a mark, with a line as long as its range. */
function Mark({ one, scale, best }: { one: MeasureKept | undefined; scale: Scale; best: boolean }) {
  const { low, high, asked } = scale;
  const at = (value: number) => `${((value - low) / (high - low)) * 100}%`;
  const told = one && one.value !== null;
  return (
    <div className="flex h-full min-w-0 flex-1 items-center gap-3">
      <div className="relative h-full min-w-12 flex-1" aria-hidden>
        {asked !== null && (
          <i className="bg-base-300 absolute inset-y-0 w-px" style={{ left: at(asked) }} />
        )}
        {told && (
          <>
            <i
              className="bg-base-content absolute top-1/2 h-px"
              style={{
                left: at(one.value! - one.spread!),
                width: `${((2 * one.spread!) / (high - low)) * 100}%`,
              }}
            />
            <i
              className={`absolute top-1/2 h-4 w-1.5 -translate-x-1/2 -translate-y-1/2 ${best ? 'bg-primary' : 'bg-base-content'}`}
              style={{ left: at(one.value!) }}
            />
          </>
        )}
      </div>
      <span className={`w-28 shrink-0 text-sm max-lg:w-24 max-lg:text-xs ${told ? '' : 'soft'}`}>
        {one ? inFigures(one) : ''}
      </span>
    </div>
  );
}
