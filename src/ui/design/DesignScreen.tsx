'use client';
// Few inputs; drawing, figures and warnings answer while typing.
import { useEffect, useRef, useState } from 'react';
import type { Problem } from '@/core/result';
import type { Bench } from '@/core/bench/bench';
import type { Setting } from '@/core/bench/settings';
import { short } from '@/core/numbers';
import { isBlind } from '@/core/ladders/proof/sets';
import type { Field, LadderKind } from '@/core/ladders/types';
import { LONG_MINUTES } from '@/core/plan/limits';
import type { PlannedRung } from '@/core/plan/plan';
import type { Named } from '@/core/view/shared-axis';
import type { Outcome as ActOutcome } from '../common/ActButton';
import { Problems } from '../common/Problems';
import { wrongProblem } from '../common/NumberBox';
import { useKept } from '../common/useKept';
import { ActButton } from '../common/ActButton';
import { duration } from '../common/format';
import { RgbaCanvas } from '../common/RgbaCanvas';
import { fitting, liesWide, PrintWithCells } from '../common/PrintWithCells';
import { PrintWithStrips } from '../common/PrintWithStrips';
import { PrintWithRows } from '../common/PrintWithRows';
import { Advice } from './Advice';
import { Costs, Saving } from './Costs';
import { Figures } from './Figures';
import { Preview } from './Preview';
import { Term } from '../common/Term';
import { FeedDrawing } from '../common/FeedDrawing';
import { FieldInput } from './FieldInput';
import { Sentence } from './Sentence';
import { useDesign } from './useDesign';
import type { DesignView } from '@/core/view/designer';
import { AIR } from '@/core/view/shared-axis';
import type { Standing } from '@/core/view/standing';

type Spec = Record<string, number>;
/** Where rungs stand, and their drawing once it is there; what only the file can tell of a rung comes later. */
type Drawn = Pick<DesignView, 'view' | 'height' | 'stretch' | 'cells' | 'strips'> & {
  picture: DesignView['picture'] | null;
  width: number;
  rungs: (Named<PlannedRung> & Partial<DesignView['rungs'][number]>)[];
};
type Props = {
  kind: {
    id: string;
    sentence: string;
    fields: Record<string, Field>;
    feeds: LadderKind['feeds'];
  };
  reason: string;
  /** What its print tells. */
  finds: readonly Setting[];
  bench: Bench;
  ladderId: number;
  /** As the program keeps it, and what its kind would have for inputs that it does not speak of. */
  kept: KeptSpec;
  usual: Spec;
  /** The place that is kept for its drawing. */
  standing: Standing | null;
  make: (spec: Spec) => Promise<ActOutcome>;
};

/** Longer commands have no room beside their rung; looking through shows them. */
const LONGEST_COMMAND = 16;

type KeptSpec = { revision: number; spec: Spec };
type Patch = { id: string; patch: Spec };

const patched = ({ revision, spec }: KeptSpec, { patch }: Patch): KeptSpec => ({
  revision,
  spec: { ...spec, ...patch },
});

/** More rungs than this stand too close to be pressed one by one. */
const MOST_PRESSED = 14;
/** Height that a line of text needs, px, and the width of a drawing on a phone. */
const [LINE_PX, PHONE_PX] = [18, 214];

export function DesignScreen({ kind, reason, bench, ladderId, kept, usual, ...props }: Props) {
  const { doc, send } = useKept<KeptSpec, Patch>(`/ladders/${ladderId}/spec`, kept, patched);
  const [odd, setOdd] = useState<Spec>({});
  /** What is kept, with what was typed and lies outside of what may be: that is shown, and not kept. */
  const spec = { ...usual, ...doc.spec, ...odd };
  const [stopped, setStopped] = useState<Problem[]>([]);
  const [chosen, setChosen] = useState<number | null>(null);
  const [looking, setLooking] = useState(false);
  const [weighing, setWeighing] = useState(false);
  const { outcome, draft, late, costs, askCosts, wish, layer } = useDesign(kind.id, bench, spec);
  const [lastGood, setLastGood] = useState<DesignView | null>(null);
  if (outcome?.ok && outcome !== lastGood) setLastGood(outcome);

  const change = (patch: Spec) => {
    const fits = Object.entries(patch).filter(([key, value]) => within(kind.fields[key], value));
    const rest = Object.entries(odd).filter(([key]) => patch[key] === undefined);
    const out = Object.entries(patch).filter(([key, value]) => !within(kind.fields[key], value));
    setOdd(Object.fromEntries([...rest, ...out]));
    setStopped([]);
    if (fits.length > 0) send({ patch: Object.fromEntries(fits) });
  };
  // Whatever changed the inputs, here or in another tab, the drawing follows.
  const wanted = JSON.stringify(spec);
  const drawnFor = useRef(wanted);
  useEffect(() => {
    if (drawnFor.current === wanted) return;
    drawnFor.current = wanted;
    wish(JSON.parse(wanted) as Spec);
  });

  const minutes = lastGood?.minutes ?? 0;
  const costly = weighing || minutes > LONG_MINUTES;
  useEffect(() => askCosts(costly));

  const problems = outcome && !outcome.ok ? outcome.problems : [];
  const wrong = new Set(problems.map(({ where }) => where.split('.').at(-1)!));
  const view = lastGood;
  /** What is drawn: the form as soon as it is known, the file's own drawing when it is made. */
  const latest = draft ?? view;
  const drawn: Drawn | null = latest
    ? { ...latest, width: latest.picture.width / latest.picture.pxPerMm - 2 * AIR }
    : props.standing && { ...props.standing, picture: null };
  const wide = drawn?.cells != null && liesWide(drawn);
  const picture = drawn?.picture ? (
    <RgbaCanvas picture={drawn.picture} label={told(drawn.view)} />
  ) : (
    <div
      className={problems.length > 0 ? 'bg-base-200 rounded' : 'skeleton'}
      role="img"
      aria-label={problems.length > 0 ? 'Nothing can be drawn yet' : 'The drawing is being made'}
    />
  );
  const settles = drawn?.rungs.some((rung) => (rung.settles ?? 0) > 0) ?? false;
  const marks = view ? view.marks : props.standing?.marks;
  // What sets a part says which part it is.
  const blind = isBlind({ kind: kind.id, spec });
  const folded = Object.entries(kind.fields).filter(([, field]) => field.folded);
  return (
    <main className={`stage ${wide ? 'stage-over' : 'lg:[--beside:10.5rem]'}`}>
      <h1 className="sr-only">Design</h1>
      <section
        aria-label="Drawing"
        className={`stage-print max-lg:order-2 ${problems.length > 0 ? 'opacity-50' : ''}`}
      >
        {kind.feeds ? (
          <FeedDrawing mark={spec[kind.feeds.mark]!} length={spec[kind.feeds.length]!} />
        ) : drawn?.strips ? (
          <PrintWithStrips strips={drawn.strips} picture={picture} />
        ) : drawn?.cells ? (
          <PrintWithCells
            cells={drawn.cells}
            height={drawn.height}
            width={drawn.width}
            stretch={drawn.stretch}
            picture={picture}
            row={({ index, name, from, to }) => {
              const [rung] = drawn.cells!.rung[index]!;
              const said = (
                <strong className="pl-3 whitespace-nowrap" style={fitting({ from, to })}>
                  {name}
                </strong>
              );
              // Rows of a wide print are too low to be pressed, and are only read.
              if (wide) return said;
              return (
                <button
                  type="button"
                  aria-pressed={chosen === rung}
                  onClick={() => {
                    setChosen(rung!);
                    setLooking(true);
                  }}
                  className={`flex h-full min-h-6 w-full items-center rounded-sm text-left ${
                    chosen === rung ? 'bg-accent text-accent-content' : 'hover:bg-base-200'
                  }`}
                >
                  {said}
                </button>
              );
            }}
          />
        ) : drawn ? (
          <PrintWithRows
            height={drawn.height}
            width={drawn.width}
            stretch={drawn.stretch}
            rungs={drawn.rungs}
            picture={picture}
            settling={({ settles = 0 }) => settles}
            row={(rung) => {
              const facts = (
                <span className="whole-or-not">
                  <RungFacts rung={rung} drawn={drawn} blind={blind} />
                </span>
              );
              // Rows too low to be pressed are only read.
              return drawn.rungs.length > MOST_PRESSED ? (
                <div className="flex h-full w-full items-center gap-3 pl-3">{facts}</div>
              ) : (
                <button
                  type="button"
                  aria-pressed={chosen === rung.index}
                  onClick={() => {
                    setChosen(rung.index);
                    setLooking(true);
                  }}
                  className={`flex h-full min-h-6 w-full items-center gap-3 rounded-sm pl-3 text-left ${
                    chosen === rung.index ? 'bg-accent text-accent-content' : 'hover:bg-base-200'
                  }`}
                >
                  {facts}
                </button>
              );
            }}
          />
        ) : (
          <div className="h-40 w-(--room) max-w-full lg:h-(--tall) [&>*]:h-full">{picture}</div>
        )}
      </section>

      <section
        className={wide ? 'grid items-start gap-x-12 lg:grid-cols-2' : 'max-w-2xl'}
        aria-label="Inputs"
      >
        <div>
          <Sentence
            sentence={kind.sentence}
            fields={kind.fields}
            spec={spec}
            wrong={wrong}
            onChange={(key, value) => change({ [key]: value })}
          />
          <p className="soft mt-3">
            {reason}
            {settles && ' Hatched: what prints while the value still settles.'}
            {marks && ` ${marks}`}
          </p>
          {props.finds.map((one) => (
            <Term key={one} of={one} />
          ))}
        </div>
        <div>
          <Figures view={view} dimmed={problems.length > 0} late={late} />
          <Advice problems={problems} warnings={outcome?.warnings ?? []} onPatch={change} />
          {costs?.offer && <Saving offer={costs.offer} onPatch={change} />}
          <div className="mt-5 flex flex-wrap gap-2">
            <ActButton
              className="btn-main"
              working="Generating the file …"
              act={async () => {
                const wrong = wrongProblem();
                setStopped(wrong ? [wrong] : []);
                return wrong ? { ok: true } : props.make(spec);
              }}
            >
              Generate file
            </ActButton>
            <button
              type="button"
              className="btn-quiet"
              aria-expanded={looking}
              onClick={() => setLooking(!looking)}
            >
              Preview
            </button>
          </div>
          <Problems problems={stopped} />
          <details className="rule-above">
            <summary className="min-h-11 cursor-pointer leading-[2.75rem]">More settings</summary>
            <div className="grid gap-x-8 gap-y-1 sm:grid-cols-2">
              {folded.map(([key, field]) => (
                <label
                  key={key}
                  className="border-base-300 flex min-h-11 items-center gap-2 border-b"
                >
                  <span className="flex-1">{field.label}</span>
                  <FieldInput
                    name={key}
                    field={field}
                    value={spec[key]!}
                    wrong={wrong.has(key)}
                    onChange={(value) => change({ [key]: value })}
                  />
                  <span className="soft w-9">{field.unit}</span>
                </label>
              ))}
            </div>
          </details>
          {view && view.rungs.length > 1 && (
            <Costs
              perRung={minutes / view.rungs.length}
              costs={costs}
              fields={kind.fields}
              onOpen={setWeighing}
            />
          )}
          {view && (
            <section className="rule-above" aria-label="Test conditions">
              <h2>Fixed during the test, then restored</h2>
              <ul>
                {view.conditions.map(({ title, value, back }) => (
                  <li key={title}>
                    {title} <b>{value}</b>{' '}
                    <span className="soft">
                      {back === null ? 'as it stands' : `then ${back} again`}
                    </span>
                  </li>
                ))}
                <li className="soft">
                  The file also sets the fan, and the acceleration of the first layer, and restores
                  them.
                </li>
              </ul>
            </section>
          )}
        </div>
      </section>
      {looking && view && (
        <Preview
          key={chosen}
          view={view}
          startAt={chosen === null ? 0 : (view.rungs[chosen]?.layers.first ?? 0)}
          layer={layer}
          blind={blind}
          onClose={() => setLooking(false)}
        />
      )}
      <p className="sr-only" role="status">
        {view &&
          `${duration(view.times.laying + view.times.travel)}, ${short(view.grams, 1)} grams`}
      </p>
    </main>
  );
}

const told = (view: DesignView['view']): string =>
  `The ladder from ${view === 'top' ? 'above' : 'the front'}, to scale`;

/** Whether a value is one that the input takes; what it means, the ladder's own checks say. */
const within = (field: Field | undefined, value: number): boolean =>
  !field ||
  (value >= field.min &&
    value <= field.max &&
    (!(field.whole || field.choices) || Number.isInteger(value)));

type RungFactsProps = {
  rung: Drawn['rungs'][number];
  drawn: Drawn;
  blind: boolean;
};

/** What a row has room for: the value, and the command that sets it. */
function RungFacts({ rung, drawn, blind }: RungFactsProps) {
  const { index, name, z, command } = rung;
  const { height, width, rungs } = drawn;
  const pxPerMm = Math.min(640 / height, PHONE_PX / width);
  // Where rungs lie closer than a line of text, only some are named on a phone.
  const every = Math.max(1, Math.ceil(LINE_PX / ((z.to - z.from) * pxPerMm)));
  return (
    <>
      <strong
        className={`whitespace-nowrap ${rungs.length < 11 ? 'text-xl' : 'leading-none'} ${
          index % every === 0 ? '' : 'max-sm:sr-only'
        }`}
      >
        {name}
      </strong>
      {!blind && command && !command.startsWith(';') && command.length <= LONGEST_COMMAND && (
        <code className="text-neutral ml-auto pr-2 font-mono text-[13px] whitespace-nowrap max-lg:hidden">
          {command}
        </code>
      )}
    </>
  );
}
