/** Which rung is printed at a height. */

/** Heights are written with three decimals, mm. */
const Z_SLACK = 1e-3;

/** Makes a function height → index of the rung printed there, -1 for none. Quick for moves in file order. */
export function rungFinder(rungs: readonly { z: { from: number; to: number } }[]) {
  const holds = (i: number, z: number): boolean => {
    const band = rungs[i]?.z;
    return band !== undefined && z > band.from + Z_SLACK && z <= band.to + Z_SLACK;
  };
  let last = 0;
  return (z: number): number => {
    if (!holds(last, z)) last = rungs.findIndex((_, i) => holds(i, z));
    if (last === -1) {
      last = 0;
      return -1;
    }
    return last;
  };
}
