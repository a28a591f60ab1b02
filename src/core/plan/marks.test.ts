import fc from 'fast-check';
import { SETTING_NAMES, settingInfo } from '../bench/settings';
import { snap } from '../numbers';
import { axisOf } from './axes';
import { marksOf, marksSaid } from './marks';

test.each([
  ['advance', [0, 0.005, 0.045], 'ms', ['0', '5', '45']],
  ['flow', [0.9, 0.92, 1], '%', ['90', '92', '100']],
  ['bridgeFan', [0, 0.2, 1], '%', ['0', '20', '100']],
  ['zOffset', [0.1, 0, -0.05], 'hundredths of mm', ['10', '0', '-5']],
  ['retraction', [2, 3, 4], 'mm', ['2', '3', '4']],
  ['retraction', [0.2, 0.4, 1], 'tenths of mm', ['2', '4', '10']],
  ['nozzle', [225, 220], '°C', ['225', '220']],
] as const)('%s of %j stands in %s', (setting, values, unit, texts) => {
  expect(marksOf(setting, values)).toEqual({ unit, texts });
});

test('no mark has a point, and two values never have the same', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...SETTING_NAMES),
      fc.uniqueArray(fc.integer({ min: -40, max: 400 }), { minLength: 2, maxLength: 9 }),
      (setting, steps) => {
        const { resolution } = settingInfo(setting);
        const { texts } = marksOf(
          setting,
          steps.map((one) => snap(one * resolution, resolution)),
        );
        for (const text of texts) expect(text).toMatch(/^-?\d+$/);
        expect(new Set(texts).size).toBe(steps.length);
      },
    ),
    { seed: 17 },
  );
});

test('what a mark stands for is said with an example, and not where it is the value itself', () => {
  expect(marksSaid([axisOf('advance', [0, 0.045], 'y')])).toBe(
    'Numbers on the print are in ms: 45 stands for 0.045 s.',
  );
  expect(marksSaid([axisOf('nozzle', [210, 200], 'z')])).toBeNull();
});
