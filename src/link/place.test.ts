import { Lines } from '../core/gcode/lines';
import { placeAt } from './place';

const lines = (text: string) => new Lines(new TextEncoder().encode(text));

test('a place is what the lines before said last of each axis', () => {
  const file = lines('G28\nG1 X10 Y20 F600\nG1 Y25 E1\nM105\nG0 X12.5 ; there\nG1 E2');
  expect(placeAt(file, 6)).toEqual({ x: 12.5, y: 25 });
  expect(placeAt(file, 4)).toEqual({ x: 10, y: 25 });
  expect(placeAt(file, 1)).toEqual({ x: null, y: null });
});

test('what was said long ago is not looked for, nor what is no move', () => {
  const file = lines(`G1 X1 Y2\n${'M105\n'.repeat(500)}M220 X7\n;G1 X9 Y9\n`);
  expect(placeAt(file, 503)).toEqual({ x: null, y: null });
  expect(placeAt(file, 300)).toEqual({ x: 1, y: 2 });
});
