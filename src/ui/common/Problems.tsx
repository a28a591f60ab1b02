// What is wrong, where, and how to mend it; read out by screen readers when it appears.
import type { Problem } from '@/core/result';

export function Problems({ problems }: { problems: readonly Problem[] }) {
  if (problems.length === 0) return null;
  return (
    <ul role="alert" className="border-error my-3 space-y-2 border-l-4 py-1 pl-4">
      {problems.map(({ where, label, what, mend }, i) => (
        <li key={i}>
          <span className="text-error font-semibold">{label ?? where}: </span>
          {what} <span className="text-neutral">{mend}</span>
        </li>
      ))}
    </ul>
  );
}
