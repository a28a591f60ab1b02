'use client';
// For machines that keep their settings in a text file: the lines to change, with their place.
import type { FileChange } from '@/core/bench/file-changes';

/** Longest file that is looked at, characters. */
const LONGEST = 400_000;

type Props = {
  changes: readonly FileChange[];
  pasted: string;
  paste: (text: string) => void;
};

export function SettingsFile({ changes, pasted, paste }: Props) {
  return (
    <section className="rule-above" aria-label="Its settings file">
      <h2>Its settings file</h2>
      <p className="soft">
        This machine keeps its settings in a file. Paste it here to see which lines to change; what
        is applied above is in force until the machine is switched off.
      </p>
      {changes.length > 0 ? (
        <ul className="mt-3 space-y-2">
          {changes.map(({ setting, line, at, now }) => (
            <li key={setting}>
              <code
                tabIndex={0}
                className="bg-base-200 block overflow-x-auto rounded px-2 py-1 font-mono whitespace-pre"
              >
                {line}
              </code>
              <span className="soft">
                {at === null
                  ? pasted === ''
                    ? 'as the ledger has it'
                    : 'not found in what was pasted'
                  : `line ${at}, instead of ${now}`}
              </span>
            </li>
          ))}
        </ul>
      ) : (
        pasted !== '' && <p className="mt-3">The file says what the ledger says.</p>
      )}
      <textarea
        className="textarea mt-3 h-28 w-full font-mono text-sm"
        aria-label="Settings file"
        spellCheck={false}
        maxLength={LONGEST}
        value={pasted}
        onChange={({ target }) => paste(target.value)}
      />
    </section>
  );
}
