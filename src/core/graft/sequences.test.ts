import { allDrawn } from '../gcode/sliced-witness';
import { readText } from '../gcode/read';
import { sectionFinder } from './crossings';
import { overrideAt, overrideLeft } from './overrides';
import { sequencesIn } from './sequences';

const HEAD = 'G28\nM83\nG1 Z0.4 F600\nG1 X9 E0.3 F1200\n';
const above = sectionFinder([0.2]);

test('a retraction is all that is drawn back between two strokes, however many moves it has', () => {
  const trace = readText(
    `${HEAD}G1 E-0.6 F2400\nG1 X8 E-0.4\nG0 Z0.8\nG0 X1\nG0 Z0.4\nG1 E0.5 F1800\nG1 E0.6\nG1 X5 E0.3\n`,
  );
  const found = new Set(sequencesIn(trace, above).values());
  expect(found.size).toBe(1);
  const [one] = found;
  expect(one!.drawn).toBeCloseTo(1, 6);
  expect(one!.pushed).toBeCloseTo(1.1, 6);
  expect([one!.low, one!.high, one!.top]).toEqual([0.4, 0.4, 0.8]);
  // The witness, who sees only the text, tells the same.
  const [seen] = allDrawn(trace, () => 0);
  expect(seen!.length).toBeCloseTo(1, 6);
  expect(seen!.restart).toBeCloseTo(1.1, 6);
  expect(seen!.lift).toBeCloseTo(0.4, 6);
  expect([seen!.speed, seen!.restartSpeed]).toEqual([40, 30]);
});

test('what is never pushed again, or drawn back below the sections, is none', () => {
  const ended = readText(`${HEAD}G1 E-2 F2400\nG28 X\n`);
  expect(sequencesIn(ended, above).size).toBe(0);
  expect(allDrawn(ended, () => 0)).toEqual([]);
  const below = readText(`${HEAD}G1 E-1 F2400\nG0 X1\nG1 E1\nG1 X5 E0.3\n`);
  expect(sequencesIn(below, sectionFinder([5])).size).toBe(0);
  expect(sequencesIn(below, above).size).toBeGreaterThan(0);
});

test('overrides are told move by move, and what is left of them once they change no more', () => {
  const trace = readText(
    `M221 S90\n${HEAD}M221 S45\nG1 X1 E0.3\nM221 S180\nG1 X9 E0.3\nM220 S50\nG1 X1 E0.3\n`,
  );
  const { count } = trace.moves;
  const flow = overrideAt(trace, 'flow');
  const strokes = [...Array(count).keys()].filter((i) => trace.moves.e[i]! > 0);
  expect(strokes.map(flow)).toEqual([0.9, 0.45, 1.8, 1.8]);
  // From line 6 on they are lifted out: 0.9 stays.
  const left = overrideLeft(trace, 6, 'flow');
  expect(strokes.map(left)).toEqual([1, 2, 0.5, 0.5]);
  const pace = overrideAt(trace, 'pace');
  expect(strokes.map(pace)).toEqual([1, 1, 1, 0.5]);
});
