// What eyes and the loupe each say of a print, and where they disagree.
import { disagree, voiceInWords } from '@/core/loupe/voices';
import { short } from '@/core/numbers';
import type { Finding } from '@/core/reading/finding';
import type { Named } from '@/core/view/shared-axis';

type Props = { voices: NonNullable<Finding['voices']>; rungs: readonly Named[] };

/** Most cells that are named. */
const MOST = 4;

export function EyeAndLoupe({ voices, rungs }: Props) {
  const { eye, loupe, of, apart } = voices;
  const nameOf = (rung: number) => rungs.find(({ index }) => index === rung)?.name ?? '';
  return (
    <section className="rule-above" aria-label="Eye and loupe">
      <h2>Eye and loupe</h2>
      <dl className="grid grid-cols-[auto_1fr] gap-x-4">
        <dt>eye</dt>
        <dd>{eye ? <b>{voiceInWords(eye)}</b> : 'too little was scored'}</dd>
        <dt>loupe</dt>
        <dd>
          {loupe ? <b>{voiceInWords(loupe)}</b> : 'tells too little by itself'}
          <span className="soft"> for {listed(of)}</span>
        </dd>
      </dl>
      {disagree(voices) && (
        <div className="border-secondary mt-2 border-l-4 pl-3">
          <p>
            <b>They disagree.</b> Look again with the print in hand; until then both count.
          </p>
          <ul>
            {apart.slice(0, MOST).map(({ rung, criterion, eye: seen, loupe: measured }) => (
              <li key={`${rung} ${criterion}`}>
                {criterion} at {nameOf(rung)}: eye {short(seen, 1)}, loupe {short(measured, 1)} of 4
              </li>
            ))}
            {apart.length > MOST && <li className="soft">and {apart.length - MOST} more</li>}
          </ul>
        </div>
      )}
    </section>
  );
}

const listed = (names: readonly string[]): string =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
