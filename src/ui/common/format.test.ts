import { age, duration, withUnit } from './format';
import { themeFrom } from './theme';

test.each([
  [42, '42 s'],
  [89.6, '90 s'],
  [95, '2 min'],
  [3120, '52 min'],
  [7260, '2 h 1 min'],
])('%p s are said as %s', (seconds, words) => {
  expect(duration(seconds)).toBe(words);
});

const NOW = Date.parse('2026-11-23T12:00:00Z');
test.each([
  ['2026-11-23T08:00:00Z', 'today'],
  ['2026-11-22T08:00:00Z', 'yesterday'],
  ['2026-11-19T08:00:00Z', '4 days'],
  ['2026-11-02T08:00:00Z', '3 weeks'],
  ['2026-09-20T08:00:00Z', '2 months'],
])('%s is %s', (iso, words) => {
  expect(age(iso, NOW)).toBe(words);
});

test('a value is shown with its unit and decimals', () => {
  expect(withUnit(205, '°C')).toBe('205 °C');
  expect(withUnit(0.974, '', 2)).toBe('0.97');
});

test('an unknown theme is the light one', () => {
  expect([themeFrom('workshop'), themeFrom('neon'), themeFrom(undefined)]).toEqual([
    'workshop',
    'ash',
    'ash',
  ]);
});
