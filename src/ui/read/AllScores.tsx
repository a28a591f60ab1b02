// The print with everything that was scored of it, where there is room for both.
import type { CSSProperties } from 'react';
import { placeOf } from '@/core/view/cells';
import { isMixed, rowsByValue } from '@/core/view/in-order';
import { CriterionHeads } from '../common/CriterionHeads';
import { PrintPicture } from '../common/PrintPicture';
import { fitting, liesWide, PrintWithCells } from '../common/PrintWithCells';
import { nameRoom, PrintWithRows } from '../common/PrintWithRows';
import { ScoreBlocks } from '../common/ScoreBlocks';
import type { Focus } from './types';
import { cell } from './useReading';

export function AllScores({ place, rungs, criteria, picture, state, go, ...size }: Focus) {
  return (
    <PrintWithRows
      height={size.height}
      width={size.width}
      rungs={rowsByValue(rungs, size.height)}
      marked={isMixed(rungs) ? rungs[place.rung] : undefined}
      stretch={size.stretch}
      beside={`${nameRoom(rungs) + 1.75 * criteria.length}rem`}
      head={
        <CriterionHeads
          names={criteria.map(({ name }) => name)}
          current={place.criterion}
          cell="w-7"
        />
      }
      picture={<PrintPicture src={picture} />}
      row={({ index, name: value }) => (
        <div
          className={`flex h-full w-full items-center pl-2 ${index === place.rung ? 'bg-accent/60' : ''}`}
        >
          <button
            type="button"
            className="h-full min-h-6 flex-1 text-left font-semibold whitespace-nowrap"
            onClick={() => go({ rung: index })}
          >
            {value}
          </button>
          {criteria.map(({ name }, i) => (
            <button
              key={name}
              type="button"
              aria-label={`${name} at ${value}: ${state[cell(index, name)] ?? 'no score'}`}
              aria-current={index === place.rung && i === place.criterion}
              className={`flex h-full min-h-6 w-7 items-center justify-center rounded-sm ${
                index === place.rung && i === place.criterion ? 'outline-primary outline-3' : ''
              }`}
              onClick={() => go({ rung: index, criterion: i })}
              onFocus={() => go({ rung: index, criterion: i })}
            >
              <ScoreBlocks score={state[cell(index, name)]} small={rungs.length > 12} />
            </button>
          ))}
        </div>
      )}
    />
  );
}

/** The same of a grid: every cell is pressed on the drawing itself, and shows its score of the criterion. */
export function AllCells(props: Focus) {
  const { place, rungs, cells, criteria, picture, height, width } = props;
  const { name } = criteria[place.criterion]!;
  const wide = liesWide({ height, width });
  return (
    <div style={wide ? roomFor(props) : undefined} className={wide ? 'overflow-x-auto' : ''}>
      <PrintWithCells
        cells={cells!}
        height={height}
        width={width}
        stretch={props.stretch}
        beside="6.5rem"
        picture={<PrintPicture src={picture} />}
        inCell={(rung) => {
          const current = rung === place.rung;
          const { from, to } = cells!.rows[placeOf(cells!, rung).row]!;
          const size = fitting({ from, to });
          const score = props.state[cell(rung, name)];
          const best = place.mode === 'best' && props.best.includes(rung);
          return (
            <button
              type="button"
              aria-label={
                place.mode === 'best'
                  ? `${rungs[rung]!.name}${best ? ': best of its column' : ''}`
                  : `${name} at ${rungs[rung]!.name}: ${score ?? 'no score'}`
              }
              aria-current={current}
              className={`group relative h-full w-full rounded-sm ${
                current
                  ? 'outline-primary z-10 outline-3'
                  : 'hover:outline-primary/60 hover:outline-2'
              }`}
              onClick={() => (place.mode === 'best' ? props.choose(rung) : props.go({ rung }))}
              onFocus={() => props.go({ rung })}
            >
              {place.mode === 'best'
                ? best && <Chip size={size}>★</Chip>
                : score !== undefined && <Chip size={size}>{score ?? '?'}</Chip>}
            </button>
          );
        }}
        row={(row) => (
          <strong
            className={`flex h-full w-full items-center pl-2 whitespace-nowrap ${
              cells!.rung[row.index]?.includes(place.rung) ? 'text-primary' : ''
            }`}
            style={fitting(row)}
          >
            {row.name}
          </strong>
        )}
      />
    </div>
  );
}

/** Least height of a cell that can be pressed, px. */
const PRESSED = 24.5;
/** What stands beside the picture, rem: ruler and names of rows. */
const BESIDE = 9;

/** As wide as the window, or as wide as it takes for a cell to be pressed: then it is moved sideways. */
function roomFor({ cells, height, width }: Focus): CSSProperties {
  const lowest = Math.min(...cells!.rows.map(({ from, to }) => to - from));
  const scale = PRESSED / lowest;
  return {
    '--room': `max(calc(100vw - 3.5rem), calc(${(width + 2) * scale}px + ${BESIDE}rem))`,
    '--tall': `max(34dvh, ${height * scale}px)`,
  } as CSSProperties;
}

/** What was said of a cell, on the drawing. */
function Chip({ children, size }: { children: string | number; size: CSSProperties }) {
  return (
    <span
      className="bg-base-100 text-base-content absolute top-1/2 left-1/2 min-w-6 -translate-x-1/2 -translate-y-1/2 rounded px-1 py-px text-center font-semibold"
      style={size}
    >
      {children}
    </span>
  );
}
