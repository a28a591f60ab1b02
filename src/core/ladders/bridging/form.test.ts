/** Rails that hold, decks that hang, numbers that can be read from below. */

import { area, boxOf, contains, intersect, islands } from '../../shape/region';
import { strokesOf, textWidth } from '../../shape/digits';
import { deckOf, footprint, formOf, layersOf } from './form';

const LABELS = ['80', '90', '100'];
const SPEC = { layerHeight: 0.2, rails: 2.4, span: 30 };

describe.each([0.2, 0.4, 1])('with a %p mm nozzle', (bore) => {
  const form = formOf({ ...SPEC, layerHeight: bore / 2 }, bore, LABELS);
  const layers = layersOf(form, LABELS);
  const [base, decks] = [layers.slice(0, -1), layers.at(-1)!];

  test('all decks lie in one layer, on four rails that stand as high as nothing hangs', () => {
    expect(decks.parts.map(({ rung }) => rung)).toEqual([0, 1, 2]);
    expect(decks.z - decks.height).toBeGreaterThanOrEqual(2.4 - bore / 2);
    const standing = islands(base.at(-1)!.parts[0]!.outline);
    expect(standing).toHaveLength(4);
    for (const rail of standing)
      for (const { outline } of decks.parts) {
        const held = boxOf(intersect(outline, rail));
        expect(held.maxX - held.minX).toBeGreaterThan(1.5 * form.sizes.bead);
      }
  });

  test('decks touch nothing of each other, and all lies within what is said to be taken', () => {
    const boxes = LABELS.map((_, i) => deckOf(form, i));
    boxes.slice(1).forEach((box, i) => expect(box.minY - boxes[i]!.maxY).toBeGreaterThan(1));
    const whole = footprint(form, LABELS.length);
    for (const { parts } of layers)
      for (const { outline } of parts) {
        const { minX, maxX, minY, maxY } = boxOf(outline);
        expect(minX).toBeGreaterThanOrEqual(whole.minX - 1e-3);
        expect(maxX).toBeLessThanOrEqual(whole.maxX + 1e-3);
        expect(minY).toBeGreaterThanOrEqual(whole.minY - 1e-3);
        expect(maxY).toBeLessThanOrEqual(whole.maxY + 1e-3);
      }
  });
});

test('numbers are grooves in the underside, mirrored, and closed by the next layer', () => {
  const form = formOf(SPEC, 0.4, LABELS);
  const [first, second] = layersOf(form, LABELS).map(({ parts }) => parts[0]!.outline);
  const text = LABELS[0]!;
  const wide = textWidth(text) * form.sign.unit;
  for (const [x0, y0, x1, y1] of strokesOf(text)) {
    // Turned over sideways, left becomes right: where the first digit is read, it is laid last.
    const middle = {
      x: -form.tab / 2 + wide / 2 - ((x0 + x1) / 2) * form.sign.unit,
      y: ((y0 + y1) / 2 - 2) * form.sign.unit,
    };
    expect(contains(first!, middle)).toBe(false);
    expect(contains(second!, middle)).toBe(true);
  }
  expect(area(first!)).toBeGreaterThan(0);
});
