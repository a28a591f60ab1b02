import { headlineOf, inFigures, inWords, sentenceOf } from './headline';
import type { MeasureKept } from './kept';
import type { MeasureName } from './measures';

const one = (
  name: MeasureName,
  rung: number,
  value: number | null,
  spread = 0.001,
): MeasureKept => ({
  name,
  rung,
  value,
  spread: value === null ? null : spread,
  unit: 'mm',
  told: value !== null,
  at: [
    { x: 0, y: 0 },
    { x: 1, y: 0 },
    { x: 1, y: 1 },
    { x: 0, y: 1 },
  ],
});
const label = (rung: number) => `${200 + 5 * rung} °C`;

test('the rung that is nearest to what was asked is named', () => {
  const all = [0.19, 0.204, 0.199, 0.21].map((value, i) => one('layer-pitch', i, value));
  const head = headlineOf('layer-pitch', all, 0.2, label);
  expect(head).toEqual({ rung: 2, text: '210 °C' });
  expect(sentenceOf('layer-pitch', 0.2, head)).toBe('Layers are nearest to 0.2 mm at 210 °C');
});

test('where rungs differ by no more than chance, none is best', () => {
  const all = [0.2, 0.2001, 0.2003].map((value, i) => one('layer-pitch', i, value));
  const head = headlineOf('layer-pitch', all, 0.2, label);
  expect(head.rung).toBeNull();
  expect(sentenceOf('layer-pitch', 0.2, head)).toBe('Layer pitch: alike on every rung');
});

test('lines that lie to either side are held by how far they are apart', () => {
  const all = [-0.3, -0.04, 0.21].map((value, i) => one('line-up', i, value, 0.01));
  expect(headlineOf('line-up', all, 0.2, label).rung).toBe(1);
});

test('what cannot be told is said so, and a number is as fine as its spread', () => {
  expect(headlineOf('threads', [one('threads', 0, null)], 0.2, label)).toEqual({
    rung: null,
    text: 'can’t tell',
  });
  expect(inWords(one('sag', 0, null))).toBe('can’t tell');
  expect(inWords(one('sag', 0, 0.51234, 0.0212))).toBe('0.51 ± 0.02 mm');
  expect(inFigures(one('layer-pitch', 0, 0.20031, 0.0009))).toBe('0.2003 ± 0.0009');
});
