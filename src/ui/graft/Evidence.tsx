'use client';
// What was found in its layers, said in one sentence, with what else it might be.
import type { Opened } from '@/core/graft/workbench';
import { short } from '@/core/numbers';
import type { Draft } from './draft';

type Props = {
  opened: Opened;
  draft: Draft;
  heights: readonly number[];
  onCandidate: (index: number) => void;
};

const NUMBERS = 'No,One,Two,Three,Four,Five,Six,Seven,Eight,Nine,Ten,Eleven,Twelve'.split(',');
const inWords = (count: number): string => NUMBERS[count] ?? String(count);

export function Evidence({ opened, draft, heights, onCandidate }: Props) {
  const { candidates } = opened;
  const chosen = draft.candidate === null ? null : candidates[draft.candidate]!;
  const others = candidates.flatMap((one, i) => (i === draft.candidate ? [] : [{ ...one, i }]));
  const many = `${inWords(heights.length)} ${heights.length === 1 ? 'section' : 'sections'}`;
  return (
    <>
      <h1>
        {chosen
          ? `${many} of ${short(chosen.section, 2)} mm ${chosen.base > 0 ? `on a base of ${short(chosen.base, 2)} mm` : 'from the bed on'}`
          : candidates.length === 0 && draft.mode === 'range'
            ? 'No sections found: set them yourself'
            : `${many}, set by hand`}
      </h1>
      <p className="soft mt-2">
        {chosen
          ? `Found in its layers: ${Math.round(100 * chosen.agreement)} % of those in the sections agree. Drag a line, or move it with the arrow keys.`
          : candidates.length === 0
            ? 'No repeating sections were found. Drag the lines, or type the heights below.'
            : 'Drag a line, or move it with the arrow keys.'}
        {others.length > 0 && ' Also possible: '}
        {others.map(({ i, count, section }, k) => (
          <span key={i}>
            {k > 0 && ', '}
            <button
              type="button"
              className="link min-h-6"
              onClick={() => onCandidate(i)}
            >{`${count} of ${short(section, 2)} mm`}</button>
          </span>
        ))}
        {others.length > 0 && '.'}
      </p>
    </>
  );
}
