import { mean } from '../../numbers';

const ranks = (values: readonly number[]) =>
  values.map(
    (value) =>
      values.filter((one) => one < value).length + values.filter((one) => one === value).length / 2,
  );
/** Spearman's rank correlation, −1..1. */
export function rankCorrelation(a: readonly number[], b: readonly number[]): number {
  const [ra, rb] = [ranks(a), ranks(b)];
  const [ma, mb] = [mean(ra), mean(rb)];
  const cross = ra.reduce((sum, v, i) => sum + (v - ma) * (rb[i]! - mb), 0);
  const size = (list: readonly number[], m: number) =>
    Math.sqrt(list.reduce((s, v) => s + (v - m) ** 2, 0));
  return cross / size(ra, ma) / size(rb, mb);
}
