import { contrast, inkOn, scaleColour, type Rgb } from './scale';

test('what is written on a colour of the scale can be read, all along it', () => {
  for (let share = 0; share <= 1; share += 0.005) {
    const ink: Rgb = inkOn(share) === '#000000' ? [0, 0, 0] : [255, 255, 255];
    expect(contrast(scaleColour(share), ink)).toBeGreaterThanOrEqual(4.5);
  }
});

test('contrast is that of light, whichever colour comes first', () => {
  expect(contrast([0, 0, 0], [255, 255, 255])).toBeCloseTo(21, 5);
  expect(contrast([255, 255, 255], [0, 0, 0])).toBeCloseTo(21, 5);
  expect(contrast([119, 119, 119], [255, 255, 255])).toBeCloseTo(4.48, 2);
});
