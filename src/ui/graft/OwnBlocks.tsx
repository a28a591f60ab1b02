'use client';
// What a stranger's file does before and after its print, beside what one's own machine does.
import type { Opened } from '@/core/graft/workbench';

type Props = { opened: Opened; own: boolean; machine: string; onChange: (own: boolean) => void };

const TITLES = { start: 'Before the print', end: 'After the print' };

export function OwnBlocks({ opened, own, machine, onChange }: Props) {
  const { remarks, blocks } = opened;
  const marked = remarks.filter(
    ({ code, grade }) => /^(reaches|differs)-/.test(code) || grade === 'stop',
  );
  return (
    <section className="rule-above" aria-label="Start and end">
      <h2>Can it be trusted?</h2>
      {marked.length > 0 && (
        <ul className="mb-3 space-y-1">
          {marked.map(({ code, line, what, mend, grade }) => (
            <li key={code} className={grade === 'note' ? 'soft' : 'border-warning border-l-4 pl-3'}>
              {line !== null && <span className="font-medium">Line {line}: </span>}
              {what} {grade === 'note' ? '' : mend}
            </li>
          ))}
        </ul>
      )}
      <label className="flex min-h-8 items-center gap-2">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={own}
          onChange={({ target }) => onChange(target.checked)}
        />
        Start and end of {machine} instead of its own
      </label>
      <details className="mt-2">
        <summary className="cursor-pointer">See both, side by side</summary>
        {blocks.map((block) => (
          <div key={block.name} className="mt-3 grid gap-2 sm:grid-cols-2">
            {(
              [
                [`${TITLES[block.name]}: the file`, block.now],
                [`${TITLES[block.name]}: ${machine}`, block.own],
              ] as const
            ).map(([title, lines]) => (
              <div key={title} className="min-w-0">
                <p className="soft mb-1">{title}</p>
                <pre
                  className="sheet max-h-56 overflow-auto rounded p-2 font-mono text-xs"
                  tabIndex={0}
                >
                  {lines.length > 0 ? lines.join('\n') : 'nothing'}
                </pre>
              </div>
            ))}
          </div>
        ))}
      </details>
    </section>
  );
}
