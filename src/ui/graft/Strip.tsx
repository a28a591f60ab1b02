// How alike its layers are, along the same height: a bar a layer, and those that are like no other section marked.
type Props = {
  tops: Float64Array;
  plastic: Float32Array;
  /** Heights of layers that do not agree, mm. */
  odd: readonly number[];
  height: number;
};

export function Strip({ tops, plastic, odd, height }: Props) {
  const strange = new Set(odd.map((z) => Math.round(z * 1000)));
  const paths = { alike: '', odd: '' };
  tops.forEach((top, i) => {
    const below = i === 0 ? 0 : tops[i - 1]!;
    const thick = Math.max(0.01, (top - below) * 0.75);
    const bar = `M0 ${(height - top).toFixed(3)}h${(100 * plastic[i]!).toFixed(1)}v${thick.toFixed(3)}h${(-100 * plastic[i]!).toFixed(1)}z`;
    if (strange.has(Math.round(top * 1000))) paths.odd += bar;
    else paths.alike += bar;
  });
  return (
    <svg
      viewBox={`0 0 100 ${height}`}
      preserveAspectRatio="none"
      className="h-full w-full"
      role="img"
      aria-label={`Plastic of each layer; ${strange.size} of ${tops.length} layers are like no other section`}
    >
      <path d={paths.alike} className="fill-secondary" />
      <path d={paths.odd} className="fill-primary" />
    </svg>
  );
}
