/** Rows of posts that stand apart, each with its value beside it. */

import { growBox } from '../../bench/bed';
import { WRITTEN_MM } from '../../numbers';
import { area, boxOf, intersect, islands } from '../../shape/region';
import { kinds } from '../registry';
import { benchFor, makeOn, movesOf } from '../../testing';
import { boxOfRow, footprint, formOf, layersOf } from './form';

const LABELS = ['2', '4', '6', '10', '12'];
const formFor = (bore: number) =>
  formOf({ layerHeight: bore / 2, rungHeight: 4, gap: 20 }, bore, LABELS);

describe.each([0.2, 0.4, 1])('with a %p mm nozzle', (bore) => {
  const form = formFor(bore);
  const layers = layersOf(form, 1, LABELS);

  test('three posts stand in every row, as far apart as is asked for', () => {
    const top = layers.at(-1)!;
    expect(top.parts.map(({ rung }) => rung)).toEqual([0, 1, 2, 3, 4]);
    for (const { outline } of top.parts) {
      const boxes = islands(outline).map(boxOf);
      boxes.sort((a, b) => a.minX - b.minX);
      expect(boxes).toHaveLength(3);
      for (const i of [1, 2]) expect(boxes[i]!.minX - boxes[i - 1]!.maxX).toBeCloseTo(20, 6);
    }
  });

  test('feet and labels touch nothing but their own, and lie within what is said to be taken', () => {
    const [first] = layers;
    const apart = islands(first!.parts[0]!.outline);
    apart.forEach((one, i) =>
      apart.slice(i + 1).forEach((two) => expect(area(intersect(one, two))).toBe(0)),
    );
    const whole = growBox(footprint(form, LABELS.length), WRITTEN_MM);
    const laid = boxOf(first!.parts[0]!.outline);
    expect(laid.minX).toBeGreaterThanOrEqual(whole.minX);
    expect(laid.minY).toBeGreaterThanOrEqual(whole.minY);
    expect(laid.maxX).toBeLessThanOrEqual(whole.maxX);
    expect(laid.maxY).toBeLessThanOrEqual(whole.maxY);
  });

  test('a row is looked at where it stands, and nowhere where another does', () => {
    LABELS.forEach((_, row) => {
      const box = boxOfRow(form, row);
      layers.at(-1)!.parts.forEach(({ outline }, other) => {
        const at = boxOf(outline);
        const inside = at.minY >= box.minY && at.maxY <= box.maxY;
        const beside = at.minY > box.maxY || at.maxY < box.minY;
        expect(row === other ? inside : beside).toBe(true);
      });
    });
  });
});

test('every post rests on its own, and walls run at the speed of prints', () => {
  const bench = benchFor();
  const made = makeOn(bench, 'retraction');
  const walls = movesOf(made, 'extrude').filter(({ rung, length }) => rung >= 0 && length > 3);
  expect(new Set(walls.map(({ speed }) => Math.round(speed)))).toEqual(
    new Set([bench.machine.speeds.print]),
  );
});

test('a wide nozzle on a small bed gets what fits', () => {
  const bench = benchFor('newt', { bore: 1 });
  for (const kind of kinds().filter(({ id }) => /^(retraction|extra-restart|restart)/.test(id))) {
    const spec = kind.defaults(bench);
    expect(kind.check(spec, bench).filter(({ grade }) => grade === 'stop')).toEqual([]);
  }
});
