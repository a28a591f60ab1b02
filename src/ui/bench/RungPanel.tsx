'use client';
// A rung, opened: what it decides, where it stands, the ladders that find its value, what was printed of it.
import Link from 'next/link';
import { HintPair } from '../read/hints';
import { ActButton, type Outcome } from '../common/ActButton';
import { age } from '../common/format';
import { Price } from './Price';
import { GO_ON, type Rung } from './rungs';

type Props = {
  rung: Rung;
  bench: number;
  /** Changes with the bench. */
  stamp: string;
  nowMs: number;
  setUp: (kind: string) => Promise<Outcome>;
};

export function RungPanel({ rung, bench, stamp, nowMs, setUp }: Props) {
  const { decides, reason, looks, ways, ladders, before, underway, state, reasons, shake } = rung;
  const [usual, ...others] = ways;
  return (
    <div
      className={`grid gap-x-8 gap-y-4 pb-5 ${
        ladders.length + before.length > 0 ? 'xl:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]' : ''
      }`}
    >
      <div className="min-w-0 space-y-3">
        <p>{decides}</p>
        {looks && <HintPair criterion={looks} />}
        {state === 'stale' && <p>Since it was found, {reasons.join(', ')}.</p>}
        {underway && (
          <p>
            <Link
              className="btn-quiet font-medium"
              href={`/ladder/${underway.ladder}/${GO_ON[underway.state].screen}`}
            >
              {GO_ON[underway.state].label}
            </Link>
          </p>
        )}
        {usual && (
          <div>
            <p className="soft mb-2">{reason}</p>
            <Way
              way={usual}
              bench={bench}
              stamp={stamp}
              setUp={setUp}
              className="btn-quiet font-medium"
            />
          </div>
        )}
        {others.length > 0 && (
          <ul className="space-y-1" aria-label="Other ways">
            {others.map((way) => (
              <li key={way.kind}>
                <Way way={way} bench={bench} stamp={stamp} setUp={setUp} also={way.also} />
              </li>
            ))}
          </ul>
        )}
        {shake && (
          <div className="border-base-300 border-l-2 pl-3">
            <p className="soft mb-2">{shake.says}</p>
            <Link className="btn-quiet btn-sm" href={shake.href}>
              Shake {shake.machine}
            </Link>
          </div>
        )}
      </div>
      <div className="min-w-0 space-y-3">
        {ladders.length > 0 && (
          <section>
            <h3 className="soft mb-1">Its ladders</h3>
            <ul>
              {ladders.map(({ id, title, state: now, at }) => (
                <li key={id}>
                  <Link
                    className="flex min-h-9 flex-wrap items-center gap-x-3 hover:underline"
                    href={`/ladder/${id}`}
                  >
                    <span>{title}</span>
                    <span className="soft">
                      {GO_ON[now].short}, {age(at, nowMs)}
                    </span>
                  </Link>
                </li>
              ))}
            </ul>
          </section>
        )}
        {before.length > 0 && (
          <section>
            <h3 className="soft mb-1">Earlier values</h3>
            <ul>
              {before.map(({ id, said, at, ladder }) => (
                <li key={id} className="flex min-h-7 flex-wrap items-center gap-x-3">
                  <span>{said}</span>
                  {ladder ? (
                    <Link
                      className="soft inline-flex min-h-6 items-center underline"
                      href={`/ladder/${ladder}/finding`}
                    >
                      {age(at, nowMs)}
                    </Link>
                  ) : (
                    <span className="soft">{age(at, nowMs)}</span>
                  )}
                </li>
              ))}
            </ul>
          </section>
        )}
      </div>
    </div>
  );
}

function Way({
  way: { kind, title },
  bench,
  stamp,
  setUp,
  also = null,
  className = 'btn-quiet btn-sm',
}: {
  way: Rung['ways'][number];
  bench: number;
  stamp: string;
  setUp: Props['setUp'];
  also?: string | null;
  className?: string;
}) {
  return (
    <span className="flex flex-wrap items-center gap-x-3 gap-y-1">
      <ActButton
        className={className}
        label={`New ${title.toLowerCase()} ladder`}
        act={() => setUp(kind)}
      >
        {title}
      </ActButton>
      <Price bench={bench} kind={kind} stamp={stamp} />
      {also && <span className="soft">finds {also} too</span>}
    </span>
  );
}
