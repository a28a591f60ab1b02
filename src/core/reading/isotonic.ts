/**
 * Isotonic regression by pooling adjacent violators (M. Ayer et al., Ann. Math. Statist. 26, 1955): the rising
 * sequence that is nearest to the data in squares.
 *
 * @param y      data in the order of the axis
 * @param weight weight of each
 * @returns fitted values, never falling
 */
export function isotonic(y: readonly number[], weight: readonly number[]): number[] {
  const blocks: { mean: number; weight: number; count: number }[] = [];
  y.forEach((value, i) => {
    blocks.push({ mean: value, weight: weight[i]!, count: 1 });
    while (blocks.length > 1 && blocks.at(-2)!.mean > blocks.at(-1)!.mean) {
      const last = blocks.pop()!;
      const before = blocks.pop()!;
      const sum = before.weight + last.weight;
      blocks.push({
        mean: (before.mean * before.weight + last.mean * last.weight) / sum,
        weight: sum,
        count: before.count + last.count,
      });
    }
  });
  return blocks.flatMap(({ mean, count }) => Array.from({ length: count }, () => mean));
}
