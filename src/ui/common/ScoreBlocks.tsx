// A score as a small stack: as many blocks filled as points; readable without colour.
type Props = {
  score: number | null | undefined;
  className?: string;
  /** Lying down, for rungs too low for a stack. */
  small?: boolean;
};

export function ScoreBlocks({ score, className = '', small = false }: Props) {
  const shape = small ? 'h-3 w-8 flex-row' : 'h-7 w-5 flex-col-reverse';
  if (score === null || score === undefined) {
    return (
      <span
        className={`text-neutral inline-flex items-center justify-center ${shape} ${className}`}
        role="img"
        aria-label="no score"
      >
        {score === null ? '?' : ''}
      </span>
    );
  }
  return (
    <span
      className={`inline-flex gap-[2px] ${shape} ${className}`}
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
