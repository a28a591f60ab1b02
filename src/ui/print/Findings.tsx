// What an audit found, the gravest first, each with the way to its line.
import { Check, Info, OctagonX, TriangleAlert } from 'lucide-react';
import type { ReactNode } from 'react';
import type { Remark } from '@/core/gcode/remark';

type Props = {
  findings: readonly Remark[];
  /** The line number as a way to that line. */
  lineAs: (line: number) => ReactNode;
};

const MARKS = {
  stop: { Icon: OctagonX, tone: 'text-error', label: 'Stop' },
  warning: { Icon: TriangleAlert, tone: 'text-warning', label: 'Check this' },
  note: { Icon: Info, tone: 'text-info', label: 'Good to know' },
} as const;

export function Findings({ findings, lineAs }: Props) {
  return (
    <ul className="mt-4 space-y-2" aria-label="Findings">
      {findings.length === 0 && (
        <li className="flex gap-3">
          <Check size={18} className="text-success mt-1 shrink-0" aria-hidden />
          Nothing is left on: heaters and fan are off at the end, and every changed setting is
          restored.
        </li>
      )}
      {findings.map(({ code, grade, line, count, what, mend }) => {
        const { Icon, tone, label } = MARKS[grade];
        return (
          <li key={code} className="flex gap-3">
            <Icon size={18} className={`${tone} mt-1 shrink-0`} aria-label={label} />
            <p>
              {line !== null && <>{lineAs(line)} </>}
              {what}
              {count > 1 && ` (${count} times)`} <span className="text-neutral">{mend}</span>
            </p>
          </li>
        );
      })}
    </ul>
  );
}
