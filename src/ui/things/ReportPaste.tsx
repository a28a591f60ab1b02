'use client';
// A settings report, pasted; what it tells is offered for taking over.
import { useMemo, useState } from 'react';
import { Lines } from '@/core/gcode/lines';
import { recognise, type Told } from '@/core/gcode/recognise';
import { ToldList } from './ToldList';

/** Longest report that is looked at, characters; the longest settings files are a tenth of it. */
const LONGEST_REPORT = 400_000;

export function ReportPaste({ onTake }: { onTake: (one: Told) => void }) {
  const [text, setText] = useState('');
  const told = useMemo(
    () => (text.trim() === '' ? [] : recognise(new Lines(new TextEncoder().encode(text)), null)),
    [text],
  );
  return (
    <details className="rule-above">
      <summary className="min-h-11 cursor-pointer leading-[2.75rem]">
        Take over settings that the machine reports
      </summary>
      <p className="soft mb-2">
        Paste what the machine answers when it is asked for its settings, or its settings file.
        Nothing is used until you say so.
      </p>
      <textarea
        className="textarea mb-4 h-40 w-full font-mono text-sm"
        aria-label="Settings report"
        spellCheck={false}
        maxLength={LONGEST_REPORT}
        value={text}
        onChange={({ target }) => setText(target.value)}
      />
      {text.trim() !== '' && <ToldList told={told} onTake={onTake} />}
    </details>
  );
}
