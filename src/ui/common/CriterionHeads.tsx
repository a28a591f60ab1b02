// Heads of narrow columns, leaning, so that long words do not run into each other.
type Props = {
  names: readonly string[];
  current?: number;
  /** Width of a column, as a class. */
  cell: string;
  className?: string;
};

export function CriterionHeads({ names, current, cell, className = '' }: Props) {
  return (
    <div className={`soft mb-1 flex h-18 items-end justify-end ${className}`} aria-hidden>
      {names.map((name, i) => (
        <span key={name} className={`${cell} relative h-4 shrink-0`}>
          <span
            className={`absolute bottom-0 left-1/2 origin-bottom-left -rotate-45 text-[13px] leading-none whitespace-nowrap ${
              i === current ? 'text-base-content font-semibold' : ''
            }`}
          >
            {name}
          </span>
        </span>
      ))}
    </div>
  );
}
