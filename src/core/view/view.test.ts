import { benchFor, makeTemperature, temperatureKind } from '../testing';
import { Designer } from './designer';
import { layersIn } from './layers';
import { ladderPicture } from './ladder-picture';
import { scaleColour, shareOf } from './scale';

const { trace, plan } = makeTemperature({ from: 210, to: 200 });

test('every layer of the file is found once, in order', () => {
  const layers = layersIn(trace);
  expect(layers).toHaveLength(Math.round(plan.height / plan.layerHeight));
  layers.slice(1).forEach(({ z, from }, i) => {
    expect(z).toBeGreaterThan(layers[i]!.z);
    expect(from).toBe(layers[i]!.to + 1);
  });
});

test('the drawing is to scale and shows each rung in its own colour', () => {
  const { width, height, pxPerMm, rgba } = ladderPicture(trace, plan, 6);
  expect(height).toBe(Math.ceil(plan.height * pxPerMm));
  expect(width / pxPerMm).toBeGreaterThan(plan.width - 2);
  expect(width / pxPerMm).toBeLessThan(plan.width + 4);
  const wallAt = (z: number) => {
    // A little inside the right body, where nothing is raised.
    const x = Math.round(width * 0.86);
    const row = Math.round(height - z * pxPerMm);
    return [...rgba.slice((row * width + x) * 4, (row * width + x) * 4 + 3)];
  };
  const seen = plan.rungs.map(({ z }) => wallAt((z.from + z.to) / 2 + 1));
  expect(new Set(seen.map(String)).size).toBe(plan.rungs.length);
});

test('the scale is monotone in lightness from low to high', () => {
  const light = Array.from({ length: 11 }, (_, i) => {
    const [r, g, b] = scaleColour(i / 10);
    return 0.2126 * r + 0.7152 * g + 0.0722 * b;
  });
  light.slice(1).forEach((value, i) => expect(value).toBeGreaterThan(light[i]!));
  expect(shareOf(205, [200, 210])).toBe(0.5);
  expect(shareOf(205, [205])).toBe(0.5);
});

test('the designer answers with figures of the file, and lets any layer be seen', () => {
  const designer = new Designer();
  const bench = benchFor();
  const view = designer.design('temperature', { from: 210, to: 200 }, bench, 4);
  if (!view.ok) throw new Error('expected a view');
  expect(view.rungs.map(({ command }) => command)).toEqual(['M104 S210', 'M104 S205', 'M104 S200']);
  expect(view.grams).toBeGreaterThan(1);
  const layer = designer.layer(view.rungs[1]!.layers.first)!;
  expect(layer.lines).toContain('M104 S205');
  expect(designer.layer(9999)).toBeNull();
});

test('a ladder that cannot be made tells why and keeps the last for looking', () => {
  const designer = new Designer();
  const bench = benchFor();
  const kind = temperatureKind();
  designer.design('temperature', {}, bench, 4);
  const refused = designer.design('temperature', { ...kind.defaults(bench), from: 400 }, bench, 4);
  expect(refused.ok).toBe(false);
  expect(designer.layer(0)).not.toBeNull();
});
