// One rung with all that is looked at; the narrow ladder beside its picture shows where it stands.
import { CRITERIA } from '@/core/criteria';
import { css, scaleColour } from '@/core/view/scale';
import { placeOf, type GridLine } from '@/core/view/cells';
import { isMixed } from '@/core/view/in-order';
import { liesWide } from '../common/PrintWithCells';
import { CellButton } from './CellButton';
import { CellMap } from './CellMap';
import { Closely } from './Closely';
import { HintPair } from './hints';
import { LookStrip } from '../common/LookStrip';
import { RungUpClose } from './RungUpClose';
import { ScoreRow } from './ScoreRow';
import type { Focus } from './types';
import { cell } from './useReading';

export function ByRung({
  place,
  rungs,
  criteria,
  picture,
  simulated,
  height,
  width,
  state,
  score,
  go,
  follow,
  cells,
  looks,
}: Focus) {
  const rung = rungs[place.rung]!;
  const wide = liesWide({ height, width });
  const at = cells && placeOf(cells, place.rung);
  const looked = criteria[place.criterion]!.name;
  return (
    <>
      {cells && (
        <CellMap
          className="mt-1 lg:hidden"
          cells={cells}
          current={place.rung}
          title="All cells"
          label={(one) => `Cell ${rungs[one]!.name}`}
          onChoose={(one) => go({ rung: one })}
        >
          {(one) => {
            const given = criteria.filter(
              ({ name }) => state[cell(one, name)] !== undefined,
            ).length;
            return given === criteria.length ? '✓' : given > 0 ? `${given}` : '';
          }}
        </CellMap>
      )}
      <div className={cells ? 'mt-2' : 'mt-2 grid grid-cols-[1.75rem_minmax(0,1fr)] gap-3'}>
        <div
          className={
            cells ? 'hidden' : `flex gap-[3px] ${isMixed(rungs) ? 'flex-col' : 'flex-col-reverse'}`
          }
        >
          {rungs.map(({ index, name, share }) => (
            <button
              key={index}
              type="button"
              aria-label={`Rung ${name}`}
              aria-current={index === place.rung}
              className={`min-h-6 flex-1 rounded-sm ${index === place.rung ? 'outline-primary outline-3 outline-offset-1' : 'opacity-60'}`}
              style={{ background: css(scaleColour(share)) }}
              onClick={() => go({ rung: index })}
            />
          ))}
        </div>
        <div
          className={`min-w-0 ${cells && wide ? 'lg:grid lg:grid-cols-[minmax(0,2fr)_minmax(0,3fr)] lg:gap-x-8' : ''}`}
        >
          <div>
            <RungUpClose
              picture={picture}
              rung={rung}
              height={height}
              width={width}
              across={at ? cells.columns[at.column] : undefined}
              spot={at ? 0.5 : (criteria[place.criterion]!.spot ?? 0.5)}
            />
            <p className="soft mt-1 leading-tight max-lg:hidden">
              <b>{looked}</b>: {criteria[place.criterion]!.where}
            </p>
            {looks.map((look) => (
              <figure key={look.id} className="mt-2">
                <LookStrip
                  rung={rung}
                  name={rung.name}
                  look={look}
                  across={at ? cells.columns[at.column] : undefined}
                />
                <figcaption className="soft text-sm">{look.label}</figcaption>
              </figure>
            ))}
            {simulated && (
              <Closely
                picture={picture}
                rung={rung}
                height={height}
                spot={
                  at
                    ? middleOf(cells.columns[at.column]!, width)
                    : (criteria[place.criterion]!.spot ?? 0.5)
                }
              />
            )}
          </div>
          <ul className="mt-2 space-y-1 lg:space-y-1.5">
            {criteria.map(({ name }, i) => {
              const label = `${name} at ${rung.name}`;
              const value = state[cell(place.rung, name)];
              const current = i === place.criterion;
              return (
                <li key={name}>
                  <CellButton
                    label={label}
                    value={value}
                    current={current}
                    onChoose={() => go({ criterion: i })}
                  >
                    <b className={`whitespace-nowrap ${current ? 'text-primary' : ''}`}>{name}</b>
                    <span className="soft text-[13px] leading-tight">{CRITERIA[name].poor}</span>
                  </CellButton>
                  <div
                    className={`rounded max-lg:hidden xl:grid xl:grid-cols-[8rem_minmax(0,1fr)] xl:items-center xl:gap-3 ${
                      current ? 'outline-primary outline-2 outline-offset-2' : ''
                    }`}
                  >
                    <div className="flex items-baseline justify-between gap-2 xl:flex-col xl:gap-0">
                      <b className={current ? 'text-primary' : ''}>{name}</b>
                      <span className="soft text-[13px] leading-tight xl:hidden">
                        {CRITERIA[name].poor}
                      </span>
                    </div>
                    <ScoreRow
                      label={label}
                      value={value}
                      current={current}
                      follow={follow}
                      onFocus={() => go({ criterion: i })}
                      onScore={(given) => score(place.rung, i, given)}
                    />
                  </div>
                </li>
              );
            })}
          </ul>
        </div>
      </div>
      {/* On a low phone there is no room for it. */}
      <div className="mt-2 max-lg:[@media(max-height:799px)]:hidden">
        <HintPair criterion={looked} />
      </div>
    </>
  );
}

/** The middle of a column, as a share of the picture's width. */
const middleOf = ({ from, to }: GridLine, width: number): number => (from + to) / 2 / (width + 2);
