// What stands in the way, and what to look at before printing; a mend is one press where there is one.
import { OctagonX, TriangleAlert } from 'lucide-react';
import type { Offer, Warning } from '@/core/ladders/types';
import type { Problem } from '@/core/result';

type Props = {
  problems: readonly (Problem | Warning)[];
  warnings: readonly Warning[];
  onPatch: (patch: Record<string, number>) => void;
};

export function Advice({ problems, warnings, onPatch }: Props) {
  return (
    <ul className="space-y-3" aria-live="polite">
      {problems.map((problem, i) => (
        <li key={`p${i}`} className="flex gap-3">
          <OctagonX className="text-error mt-1 shrink-0" size={18} aria-label="Can’t be made" />
          <div>
            <p>
              <b>{problem.what}</b> {problem.mend}
            </p>
            <Offers offers={'offers' in problem ? problem.offers : undefined} onPatch={onPatch} />
          </div>
        </li>
      ))}
      {warnings.map(({ code, grade, what, mend, offers }) => (
        <li key={code} className="flex gap-3">
          <TriangleAlert
            className={`mt-1 shrink-0 ${grade === 'note' ? 'text-neutral' : 'text-warning'}`}
            size={18}
            aria-label={grade === 'note' ? 'Note' : 'Check this'}
          />
          <div>
            <p>
              {what} <span className="text-neutral">{offers ? '' : mend}</span>
            </p>
            <Offers offers={offers} onPatch={onPatch} />
          </div>
        </li>
      ))}
    </ul>
  );
}

/** Mends that take one press. */
function Offers({ offers, onPatch }: { offers: Offer[] | undefined } & Pick<Props, 'onPatch'>) {
  if (!offers) return null;
  return (
    <p className="mt-1 flex flex-wrap gap-2">
      {offers.map(({ label, patch }) => (
        <button
          key={label}
          type="button"
          className="btn-quiet btn-sm"
          onClick={() => onPatch(patch)}
        >
          {label}
        </button>
      ))}
    </p>
  );
}
