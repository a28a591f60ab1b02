// One criterion over all rungs, stacked as the tower stands: comparing neighbours is the quickest reading.
import { isMixed } from '@/core/view/in-order';
import { css, inkOn, scaleColour } from '@/core/view/scale';
import type { Cells as CellsOf } from '@/core/view/cells';
import { CellButton } from './CellButton';
import { CellMap } from './CellMap';
import type { Focus } from './types';
import { HintPair } from './hints';
import { RungStrip } from './RungStrip';
import { ScoreRow } from './ScoreRow';
import { cell } from './useReading';

/** Where to look, as a sentence. */
const lookWords = (where: string): string =>
  /^(at|between|beside|along|under|in|on|after) /.test(where)
    ? `Look ${where}`
    : `Look at ${where}`;

export function ByCriterion(props: Focus) {
  const { place, cells, criteria } = props;
  const { name, where } = criteria[place.criterion]!;
  return (
    <>
      <p className="soft mt-2">{lookWords(where)}.</p>
      <HintPair criterion={name} />
      {cells ? <Cells {...props} cells={cells} /> : <Rungs {...props} />}
    </>
  );
}

/** Of a grid: a table for the thumb; where there is room, the drawing itself is pressed. */
function Cells({
  place,
  rungs,
  cells,
  criteria,
  state,
  score,
  go,
  follow,
}: Focus & { cells: CellsOf }) {
  const { name } = criteria[place.criterion]!;
  return (
    <>
      <CellMap
        className="lg:hidden"
        cells={cells}
        current={place.rung}
        title={`${name}, cell by cell`}
        label={(rung) =>
          `${name} at ${rungs[rung]!.name}: ${state[cell(rung, name)] ?? 'no score'}`
        }
        onChoose={(rung) => go({ rung })}
      >
        {(rung) => {
          const given = state[cell(rung, name)];
          return <b>{given === undefined ? '' : (given ?? '?')}</b>;
        }}
      </CellMap>
      <div className="mt-2 max-lg:hidden">
        <ScoreRow
          current
          follow={follow}
          onFocus={() => go({ rung: place.rung })}
          label={`${name} at ${rungs[place.rung]!.name}`}
          value={state[cell(place.rung, name)]}
          onScore={(given) => score(place.rung, place.criterion, given)}
        />
      </div>
    </>
  );
}

function Rungs(props: Focus) {
  const { place, rungs, criteria, state, score, go, follow } = props;
  const { name, spot = 0.5 } = criteria[place.criterion]!;
  return (
    <ol
      className={`flex flex-1 gap-1 ${isMixed(rungs) ? 'flex-col' : 'flex-col-reverse'}`}
      aria-label={`${name}, rung by rung`}
    >
      {rungs.map((rung) => {
        const { index, label, share } = rung;
        const words = `${name} at ${rung.name}`;
        const value = state[cell(index, name)];
        const current = index === place.rung;
        const chip = (
          <span
            className="flex min-w-12 items-center justify-center self-stretch rounded px-1 font-semibold"
            style={{ background: css(scaleColour(share)), color: inkOn(share) }}
          >
            {label}
          </span>
        );
        const strip = (
          <RungStrip
            picture={props.picture}
            rung={rung}
            height={props.height}
            width={props.width}
            spot={spot}
          />
        );
        return (
          <li key={index} className="max-h-14 min-h-9 flex-1">
            <CellButton
              label={words}
              value={value}
              current={current}
              onChoose={() => go({ rung: index })}
            >
              {chip}
              {strip}
            </CellButton>
            <div
              className={`grid h-full gap-1.5 rounded max-lg:hidden ${
                props.simulated
                  ? 'grid-cols-[3.25rem_minmax(0,8rem)_minmax(9.5rem,1fr)]'
                  : 'grid-cols-[4.5rem_1fr]'
              } ${current ? 'outline-primary outline-2 outline-offset-1' : ''}`}
            >
              {chip}
              {props.simulated && strip}
              <ScoreRow
                compact
                current={current}
                follow={follow}
                onFocus={() => go({ rung: index })}
                label={words}
                value={value}
                onScore={(given) => score(index, place.criterion, given)}
              />
            </div>
          </li>
        );
      })}
    </ol>
  );
}
