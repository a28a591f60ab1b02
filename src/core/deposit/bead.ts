/** Cross-section of one extruded bead: a rectangle with semicircular ends (domain.md §1). */

/**
 * Area of a bead's cross-section.
 *
 * @param width  bead width, mm; at least `height`
 * @param height layer height, mm; above 0
 * @returns area, mm²
 * @throws RangeError when the bead is narrower than it is tall
 */
export function beadArea(width: number, height: number): number {
  if (!(height > 0 && width >= height)) {
    throw new RangeError(
      `bead ${width} × ${height} mm: width must be at least the height, both above 0`,
    );
  }
  return height * (width - height) + (Math.PI * height * height) / 4;
}

/** Width, mm, of a bead that `area` mm² of plastic forms in a gap of `height` mm. Inverse of {@link beadArea}. */
export function beadWidth(area: number, height: number): number {
  return area / height + height * (1 - Math.PI / 4);
}

/**
 * Distance, mm, between the middles of beads laid side by side so that they fill the layer: their round ends
 * overlap just as much as would stay empty between them.
 */
export const beadPitch = (width: number, height: number): number =>
  beadArea(width, height) / height;

/** Area of a round section, mm²: filament, or a strand that hangs in the air. */
export const roundArea = (diameter: number): number => (Math.PI * diameter * diameter) / 4;

/** Filament, mm, that a stroke of `length` mm and `area` mm² takes from a strand of `diameter` mm. */
export const filamentFor = (length: number, area: number, diameter: number): number =>
  (length * area) / roundArea(diameter);
