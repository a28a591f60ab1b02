/** A corner of a print from above as it comes out of an axis that rings: cut by the shaper, and followed by a ghost. */

export type Corner = {
  /** How far it is cut, and how large the ghost is where it begins, mm. */
  cut: number;
  ghost: number;
  /** From one wave of the ghost to the next, and along which way it falls to a third (1/e), mm. */
  wave: number;
  fades: number;
};

/** Ghosts at a speed, mm/s, of what rings at `hz` with a damping ratio. */
export const waveOf = (speed: number, hz: number, damping: number) => ({
  wave: speed / (hz * Math.sqrt(1 - damping ** 2)),
  fades: speed / (2 * Math.PI * hz * Math.max(damping, 1e-3)),
});

/** A quarter circle that is cut by `d` at its middle has this radius for each mm of it. */
const RADIUS = 1 / (Math.SQRT2 - 1);

/**
 * The line of a corner: up along x = 0, then to the right along y = 0; what is off is drawn larger.
 *
 * @param reach how far it goes either way, mm; @param larger how many times what is off is drawn larger
 * @returns points in mm, x to the right and y upward
 */
export function cornerLine(
  { cut, ghost, wave, fades }: Corner,
  reach: number,
  larger: number,
): [number, number][] {
  const radius = Math.min(reach, cut * larger * RADIUS);
  const turn = Array.from({ length: 13 }, (_, i): [number, number] => {
    const angle = (i / 12) * (Math.PI / 2);
    return [radius * (1 - Math.cos(angle)), radius * (Math.sin(angle) - 1)];
  });
  const steps = Math.max(24, Math.ceil((reach / wave) * 12));
  const along = Array.from({ length: steps }, (_, i): [number, number] => {
    const x = ((i + 1) / steps) * (reach - radius);
    const off = ghost * larger * Math.exp(-x / fades) * Math.sin((2 * Math.PI * x) / wave);
    return [radius + x, off];
  });
  return [[0, -reach], ...turn, ...along];
}
