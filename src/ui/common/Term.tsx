// What a setting is, for who meets it for the first time: one sentence and one drawing, the same wherever it is met.
import { settingInfo, type Setting } from '@/core/bench/settings';
import { drawnBy, termOf } from '@/core/bench/terms';
import { HintPair } from '../read/hints';

type Props = {
  of: Setting;
  /** What is pressed, where the setting's name stands before it. */
  says?: string;
};

export function Term({ of, says = `What “${settingInfo(of).title}” means` }: Props) {
  const drawn = drawnBy(of);
  return (
    <details className="max-w-xl">
      <summary
        className="soft inline-block min-h-6 cursor-pointer list-none underline decoration-dotted underline-offset-4"
        aria-label={`What “${settingInfo(of).title}” means`}
      >
        {says}
      </summary>
      <p className="mt-1">{termOf(of)}</p>
      {drawn && <HintPair criterion={drawn} />}
    </details>
  );
}
