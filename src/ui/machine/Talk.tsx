'use client';
// Lines typed to the machine and what it answers.
import { useEffect, useRef, useState } from 'react';
import type { TalkLine } from '@/core/link-state';
import type { Problem } from '@/core/result';
import { attempt, type Outcome } from '../common/attempt';
import { Problems } from '../common/Problems';

type Props = { lines: readonly TalkLine[]; say: (line: string) => Promise<Outcome> };

/** Lines that the arrow keys bring back. */
const MOST_SAID = 50;

export function Talk({ lines, say }: Props) {
  const [typed, setTyped] = useState('');
  const [said, setSaid] = useState<readonly string[]>([]);
  const [back, setBack] = useState(0);
  const [heat, setHeat] = useState(false);
  const [problems, setProblems] = useState<Problem[]>([]);
  const box = useRef<HTMLOListElement>(null);
  const shown = heat ? lines : lines.filter((line) => !line.heat);
  const last = shown.at(-1)?.n;
  const toEnd = () => {
    box.current?.scrollTo({ top: box.current.scrollHeight });
  };
  useEffect(toEnd, [last]);

  const send = async () => {
    const line = typed.trim();
    if (line === '') return;
    setSaid([line, ...said.filter((one) => one !== line)].slice(0, MOST_SAID));
    setBack(0);
    const outcome = await attempt(() => say(line));
    setProblems(outcome.ok ? [] : outcome.problems);
    if (outcome.ok) setTyped('');
  };
  const turn = (by: number) => {
    const to = Math.min(said.length, Math.max(0, back + by));
    setBack(to);
    setTyped(to === 0 ? '' : said[to - 1]!);
  };
  return (
    <details className="rule-above" onToggle={toEnd}>
      <summary className="min-h-11 cursor-pointer py-2">Talk to the machine</summary>
      <label className="soft flex min-h-11 items-center gap-2">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={heat}
          onChange={({ target }) => setHeat(target.checked)}
        />
        Temperatures too
      </label>
      <ol
        ref={box}
        tabIndex={0}
        aria-label="What was said"
        className="bg-base-200 h-56 overflow-y-auto rounded p-3 font-mono text-[13px] leading-5"
      >
        {shown.map(({ n, from, text }) => (
          <li
            key={n}
            className={`[overflow-wrap:anywhere] whitespace-pre-wrap ${from === 'host' ? 'font-semibold' : 'text-neutral pl-4'}`}
          >
            {text}
          </li>
        ))}
      </ol>
      <form
        className="mt-2 flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <input
          className="input min-w-0 flex-1 font-mono"
          aria-label="Line for the machine"
          value={typed}
          spellCheck={false}
          autoComplete="off"
          autoCapitalize="off"
          maxLength={240}
          placeholder="M115"
          onChange={({ target }) => setTyped(target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
            event.preventDefault();
            turn(event.key === 'ArrowUp' ? 1 : -1);
          }}
        />
        <button type="submit" className="btn-quiet">
          Say it
        </button>
      </form>
      <Problems problems={problems} />
    </details>
  );
}
