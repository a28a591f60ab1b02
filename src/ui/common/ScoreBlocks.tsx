// A score as a small stack: as many blocks filled as points; readable without colour.
type Props = { score: number | null | undefined; className?: string };

export function ScoreBlocks({ score, className = '' }: Props) {
  if (score === null || score === undefined) {
    return (
      <span
        className={`text-neutral inline-flex h-7 w-5 items-center justify-center ${className}`}
        aria-label="no score"
      >
        {score === null ? '?' : ''}
      </span>
    );
  }
  return (
    <span
      className={`inline-flex h-7 w-5 flex-col-reverse gap-[2px] ${className}`}
      role="img"
      aria-label={`${score}`}
    >
      {[1, 2, 3, 4].map((n) => (
        <i
          key={n}
          className={`border-neutral/60 flex-1 rounded-[1px] border ${score >= n ? 'bg-base-content border-base-content' : ''}`}
        />
      ))}
    </span>
  );
}
