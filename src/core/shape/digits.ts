/** Digits and a few letters made of strokes on a grid two wide and four high, for plastic: few strokes, no curves. */

/** Stroke from (x0, y0) to (x1, y1), y upward, in grid units; only X has slanted ones. */
export type Stroke = readonly [x0: number, y0: number, x1: number, y1: number];

const GLYPHS: Record<string, readonly Stroke[]> = {
  '0': [[0, 0, 2, 0], [2, 0, 2, 4], [0, 4, 2, 4], [0, 0, 0, 4]],
  '1': [[1, 0, 1, 4], [0, 0, 2, 0], [0, 4, 1, 4]],
  '2': [[0, 4, 2, 4], [2, 2, 2, 4], [0, 2, 2, 2], [0, 0, 0, 2], [0, 0, 2, 0]],
  '3': [[0, 4, 2, 4], [2, 0, 2, 4], [0, 2, 2, 2], [0, 0, 2, 0]],
  '4': [[0, 2, 0, 4], [0, 2, 2, 2], [2, 0, 2, 4]],
  '5': [[0, 4, 2, 4], [0, 2, 0, 4], [0, 2, 2, 2], [2, 0, 2, 2], [0, 0, 2, 0]],
  '6': [[0, 4, 2, 4], [0, 0, 0, 4], [0, 2, 2, 2], [2, 0, 2, 2], [0, 0, 2, 0]],
  '7': [[0, 4, 2, 4], [2, 0, 2, 4]],
  '8': [[0, 0, 2, 0], [2, 0, 2, 4], [0, 4, 2, 4], [0, 0, 0, 4], [0, 2, 2, 2]],
  '9': [[0, 0, 2, 0], [2, 0, 2, 4], [0, 2, 2, 2], [0, 2, 0, 4], [0, 4, 2, 4]],
  '-': [[0, 2, 2, 2]],
  A: [[0, 0, 0, 4], [2, 0, 2, 4], [0, 4, 2, 4], [0, 2, 2, 2]],
  // A small one: a capital would read as 8.
  B: [[0, 0, 0, 4], [0, 2, 2, 2], [2, 0, 2, 2], [0, 0, 2, 0]],
  X: [[0, 0, 2, 4], [0, 4, 2, 0]],
  Y: [[0, 2, 0, 4], [2, 2, 2, 4], [0, 2, 2, 2], [1, 0, 1, 2]],
};

/** Grid units from one digit's left edge to the next. */
export const ADVANCE = 3.6;

/** Width of a text in grid units between the centre lines of its outermost strokes. */
export const textWidth = (text: string): number => (text.length - 1) * ADVANCE + 2;

/**
 * Strokes of a text, left to right, the first digit's lower left corner at the origin.
 *
 * @throws RangeError for a sign that has no glyph: labels are numbers and axes
 */
export function strokesOf(text: string): Stroke[] {
  return [...text].flatMap((sign, i) => {
    const glyph = GLYPHS[sign];
    if (!glyph) throw new RangeError(`no strokes for ${JSON.stringify(sign)}`);
    return glyph.map(
      ([x0, y0, x1, y1]): Stroke => [x0 + i * ADVANCE, y0, x1 + i * ADVANCE, y1],
    );
  });
}
