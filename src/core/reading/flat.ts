/** Small dense tables as one run of numbers, row after row: products of them are what planes spend their time on. */

/** @param at entry of row i and column j */
export function flat(
  rows: number,
  columns: number,
  at: (i: number, j: number) => number,
): Float64Array {
  const made = new Float64Array(rows * columns);
  for (let i = 0; i < rows; i++) for (let j = 0; j < columns; j++) made[i * columns + j] = at(i, j);
  return made;
}

/** The product of a table of `rows` × `inner` and one of `inner` × `columns`. */
export function times(
  a: Float64Array,
  b: Float64Array,
  rows: number,
  inner: number,
  columns: number,
): Float64Array {
  const product = new Float64Array(rows * columns);
  for (let i = 0; i < rows; i++) {
    const begin = i * columns;
    for (let k = 0; k < inner; k++) {
      const share = a[i * inner + k]!;
      if (share === 0) continue;
      const from = k * columns;
      for (let j = 0; j < columns; j++) product[begin + j]! += share * b[from + j]!;
    }
  }
  return product;
}
