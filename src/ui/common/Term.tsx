// What a setting is, for who meets it for the first time: one sentence and one drawing, the same wherever it is met.
import { settingInfo, type Setting } from '@/core/bench/settings';
import { drawnBy, termOf } from '@/core/bench/terms';
import { HintPair } from '../read/hints';

type Props = {
  of: Setting;
  /** What is pressed. */
  says?: string;
  /** A question mark alone, where the setting's name stands before it. */
  brief?: boolean;
};

export function Term({ of, says = `What “${settingInfo(of).title}” means`, brief = false }: Props) {
  const drawn = drawnBy(of);
  return (
    <details className={brief ? 'inline-block max-w-xl align-middle' : 'max-w-xl'}>
      <summary
        className={`soft inline-block min-h-6 cursor-pointer list-none ${
          brief
            ? 'border-base-300 size-6 rounded-full border text-center leading-6'
            : 'underline decoration-dotted underline-offset-4'
        }`}
        aria-label={`What “${settingInfo(of).title}” means`}
      >
        {brief ? '?' : says}
      </summary>
      <p className="mt-1">{termOf(of)}</p>
      {drawn && <HintPair criterion={drawn} />}
    </details>
  );
}
