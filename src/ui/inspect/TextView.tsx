'use client';
// The lines of the file, however many: only those in sight are asked for. Rungs and the chosen line are marked.
import { ChevronDown, ChevronUp } from 'lucide-react';
import { useRef, useState } from 'react';
import type { Overview } from '@/core/view/opened';
import { LongList } from '../common/LongList';
import type { Remote } from './useOpened';

type Props = {
  remote: Remote;
  overview: Overview;
  /** The chosen line; the list goes there when it changes. */
  chosen: number | null;
  onChoose: (line: number) => void;
};

const ROW_PX = 22;
/** Lines are asked for in pieces of this many. */
const PIECE = 200;
const PIECES_KEPT = 60;

export function TextView({ remote, overview, chosen, onChoose }: Props) {
  const { lines: count, rungLines, layers } = overview;
  const [pieces, setPieces] = useState<Map<number, string[]>>(new Map());
  const asked = useRef(new Set<number>());
  const inSight = useRef(1);
  const [wanted, setWanted] = useState('');
  const [says, setSays] = useState('');
  const rungs = new Map(rungLines.map((line, i) => [line, i + 1]));

  const onShown = (first: number, shown: number) => {
    inSight.current = first + 1;
    for (let at = Math.floor(first / PIECE); at * PIECE < first + shown; at++) {
      if (asked.current.has(at)) continue;
      asked.current.add(at);
      void remote.lines(at * PIECE + 1, PIECE).then((some) =>
        setPieces((now) => {
          const next = new Map(now).set(at, some);
          if (next.size > PIECES_KEPT) {
            const oldest = next.keys().next().value!;
            next.delete(oldest);
            asked.current.delete(oldest);
          }
          return next;
        }),
      );
    }
  };
  const search = async (backward: boolean) => {
    if (wanted === '') return;
    const found = await remote.find(wanted, chosen ?? inSight.current, backward);
    setSays(found === null ? 'no match' : '');
    if (found !== null) onChoose(found);
  };
  return (
    <div className="flex h-full min-h-0 flex-col">
      <form
        className="mb-2 flex flex-wrap items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void search(false);
        }}
      >
        <input
          className="input input-sm w-36 font-mono"
          placeholder="Search"
          aria-label="Search in the file"
          value={wanted}
          onChange={({ target }) => {
            setWanted(target.value);
            setSays('');
          }}
        />
        <button type="submit" className="btn-quiet btn-sm btn-square" aria-label="Next match">
          <ChevronDown size={16} aria-hidden />
        </button>
        <button
          type="button"
          className="btn-quiet btn-sm btn-square"
          aria-label="Previous match"
          onClick={() => void search(true)}
        >
          <ChevronUp size={16} aria-hidden />
        </button>
        <span className="soft flex-1" role="status">
          {says}
        </span>
        <JumpTo label="Layer" most={layers.z.length} go={(at) => onChoose(layers.line[at - 1]!)} />
        <JumpTo label="Line" most={count} go={onChoose} />
      </form>
      <LongList
        count={count}
        rowPx={ROW_PX}
        goTo={chosen === null ? null : chosen - 1}
        label="Lines of the file"
        className="bg-base-200 flex-1 rounded font-mono text-[13px]"
        onShown={onShown}
        onKeyDown={(event) => {
          const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
          if (!step || chosen === null) return;
          event.preventDefault();
          onChoose(Math.min(count, Math.max(1, chosen + step)));
        }}
        row={(index) => {
          const number = index + 1;
          const text = pieces.get(Math.floor(index / PIECE))?.[index % PIECE] ?? '';
          const rung = rungs.get(number);
          return (
            <li
              key={number}
              aria-current={number === chosen ? 'true' : undefined}
              style={{ height: ROW_PX, lineHeight: `${ROW_PX}px` }}
              className={`flex cursor-pointer whitespace-pre ${
                number === chosen
                  ? 'bg-primary text-primary-content'
                  : rung
                    ? 'bg-accent text-accent-content font-bold'
                    : text.startsWith(';')
                      ? 'text-neutral'
                      : 'hover:bg-base-300/40'
              }`}
              onClick={() => onChoose(number)}
            >
              <span className="w-20 shrink-0 pr-3 text-right opacity-60 select-none">{number}</span>
              {text}
              {rung && <span className="ml-4 font-sans">sets rung {rung}</span>}
            </li>
          );
        }}
      />
    </div>
  );
}

function JumpTo({ label, most, go }: { label: string; most: number; go: (at: number) => void }) {
  return (
    <label className="flex items-center gap-1 text-sm">
      {label}
      <input
        className="input input-sm w-20"
        inputMode="numeric"
        placeholder={`of ${most}`}
        aria-label={`Go to ${label.toLowerCase()}`}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return;
          event.preventDefault();
          const at = Number(event.currentTarget.value);
          if (Number.isInteger(at) && at >= 1 && at <= most) go(at);
          else event.currentTarget.select();
        }}
      />
    </label>
  );
}
