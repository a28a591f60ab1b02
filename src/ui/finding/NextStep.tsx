// What would make the value surer: the next ladder, ready to be set up, or why there is none.
import { nextInWords, type Finding } from '@/core/reading/finding';
import { ActButton, type Outcome } from '../common/ActButton';

type Props = { finding: Finding; setUp: (() => Promise<Outcome>) | null };

export function NextStep({ finding, setUp }: Props) {
  const { verdict, next, done, curve, map, limits } = finding;
  return (
    <section className="rule-above">
      <h2>{verdict === 'edge' ? 'Next ladder' : 'To be more certain'}</h2>
      {next && setUp ? (
        <>
          <p className="mb-3">
            {next.why} {nextInWords(next)}.
          </p>
          <ActButton className={verdict === 'edge' ? 'btn-main' : 'btn-quiet'} act={setUp}>
            Set up this ladder
          </ActButton>
        </>
      ) : (
        <p>
          {map || limits
            ? 'Read the same print again with fresh eyes, or print it once more: several readings give a surer value.'
            : done
              ? 'The range is as narrow as the machine’s own steps: another ladder would not help.'
              : curve.length === 0
                ? 'Measure again, on this print or on another one: the scatter of what you enter says how sure the value is.'
                : verdict === 'no-effect'
                  ? 'Score the same print again with fresh eyes, or leave the setting as it is.'
                  : 'No wider ladder fits this bench.'}
        </p>
      )}
    </section>
  );
}
