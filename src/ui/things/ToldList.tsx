'use client';
// What a file or a report tells about a machine: each with the line it was seen on, taken over one by one.
import { useState } from 'react';
import type { Told } from '@/core/gcode/recognise';

type Props = {
  told: readonly Told[];
  onTake: (one: Told) => void;
  /** Way to the line in the file, where it is open. */
  onLine?: (line: number) => void;
};

const GROUPS: Record<Told['group'], string> = {
  commands: 'Commands that the machine takes',
  limits: 'Limits',
  heat: 'Heat',
  sizes: 'Sizes',
  blocks: 'Start and end',
};

export function ToldList({ told, onTake, onLine }: Props) {
  const [taken, setTaken] = useState<ReadonlySet<string>>(new Set());
  if (told.length === 0)
    return <p className="soft">Nothing in this text says anything about the machine.</p>;
  const groups = (Object.keys(GROUPS) as Told['group'][]).filter((group) =>
    told.some((one) => one.group === group),
  );
  return (
    <div className="space-y-4">
      {groups.map((group) => (
        <section key={group}>
          <h2>{GROUPS[group]}</h2>
          <ul className="divide-base-300 border-base-300 divide-y border-y">
            {told
              .filter((one) => one.group === group)
              .map((one) => (
                <li key={one.id} className="flex items-center gap-3 py-1.5">
                  <div className="min-w-0 flex-1">
                    <p>
                      {one.says}
                      {one.refused && <b className="text-error"> {one.refused}</b>}
                    </p>
                    <p className="soft font-mono text-[13px] break-all">
                      {onLine ? (
                        <button
                          type="button"
                          className="underline"
                          onClick={() => onLine(one.line)}
                        >
                          line {one.line}
                        </button>
                      ) : (
                        `line ${one.line}`
                      )}
                      : {one.text}
                    </p>
                  </div>
                  {one.refused ? null : (
                    <button
                      type="button"
                      className="btn-quiet btn-sm shrink-0"
                      aria-label={`Use: ${one.says}`}
                      disabled={taken.has(one.id)}
                      onClick={() => {
                        setTaken(new Set([...taken, one.id]));
                        onTake(one);
                      }}
                    >
                      {taken.has(one.id) ? 'Used' : 'Use'}
                    </button>
                  )}
                </li>
              ))}
          </ul>
        </section>
      ))}
    </div>
  );
}
