import { fedSinceMark } from './marked';
import { readText } from './read';

const fed = (text: string): number => fedSinceMark(readText(`M83\n${text}`));

test('without a mark all of it counts, what is drawn back too', () => {
  expect(fed('G1 E30\nG1 E-4\nG1 E10')).toBeCloseTo(36, 6);
});

test.each(['M0', 'M1', 'M0 Mark the filament', 'G4 P60000', 'G4 S90'])(
  'from “%s” on it counts, not before',
  (mark) => {
    expect(fed(`G1 E30\n${mark}\nG1 E100`)).toBeCloseTo(100, 6);
  },
);

test('a short wait is no time to mark anything, and the last mark is the one that counts', () => {
  expect(fed('G1 E30\nG4 P5000\nG1 E100')).toBeCloseTo(130, 6);
  expect(fed('M0\nG1 E30\nM0\nG1 E100')).toBeCloseTo(100, 6);
  expect(fed('G1 E100\nM0')).toBe(0);
});
