import { readText } from '../gcode/read';
import { seeded } from '../random';
import { sectionsIn } from './sections';
import { strataOf } from './strata';
import {
  drawnPlain,
  drawnTower,
  PLAIN,
  PLAIN_NAMES,
  rectangle,
  SECTIONS,
  SECTION_NAMES,
  slice,
  towerOf,
  type Sliced,
} from './testing/slicer';

const found = (text: string) => sectionsIn(strataOf(readText(text)));

long('of towers drawn by chance, base and section are right within a layer in 11 of 12', () => {
  let right = 0;
  const many = 12;
  for (let seed = 1001; seed <= 1000 + many; seed++) {
    const { text, truth, how } = drawnTower(seed);
    const [best] = found(text).candidates;
    const slack = how.layerHeight! + 1e-6;
    if (
      best &&
      Math.abs(best.base - truth!.base) <= slack &&
      Math.abs(best.section - truth!.section) <= slack
    )
      right++;
  }
  expect(right).toBeGreaterThanOrEqual(11);
});

test('of forms without sections, none has any', () => {
  let none = 0;
  const many = 8;
  for (let seed = 1001; seed <= 1000 + many; seed++)
    if (found(drawnPlain(seed).text).verdict === 'none') none++;
  expect(none).toBe(many);
});

const TOWER = { base: 1.4, section: 9.98, count: 6, cap: 1.5 };
const file = (name: string, how: Partial<Sliced>) =>
  slice(
    towerOf(TOWER, SECTIONS[name]!(0.6, seeded(2)), [rectangle(-4, -4, 52, 28)], () => [
      rectangle(2, 2, 12, 9),
    ]),
    how,
  );

long.each(SECTION_NAMES)(
  '%s: figures, layers of several heights and copies do not mislead',
  (name) => {
    for (const how of [
      {},
      { absolute: true, brim: 5 },
      { layerAt: (z: number) => (z < 23 ? 0.2 : z < 44 ? 0.28 : 0.16) },
      {
        places: [
          { x: 50, y: 80 },
          { x: 140, y: 80 },
        ],
        oneByOne: true,
      },
    ]) {
      const [best] = found(file(name, how)).candidates;
      expect([
        name,
        how,
        Math.abs(best!.section - TOWER.section) <= 0.2,
        Math.abs(best!.base - TOWER.base) <= 0.28,
      ]).toEqual([name, how, true, true]);
      // What leans otherwise in each section may end one section early.
      expect(best!.count).toBeGreaterThanOrEqual(name === 'lean' ? 4 : 6);
      expect(best!.agreement).toBeGreaterThan(0.6);
    }
  },
);

test('a spiral has its sections too', () => {
  const [best] = found(file('groove', { spiral: true, infill: 0 })).candidates;
  expect(Math.abs(best!.section - TOWER.section)).toBeLessThanOrEqual(0.2);
});

test.each(PLAIN_NAMES)('a %s has none, spiral or not', (name) => {
  for (const spiral of [false, true])
    expect(found(slice(PLAIN[name]!(seeded(5)), { spiral })).verdict).toBe('none');
});

test('what is hardly there has none', () => {
  expect(found('').verdict).toBe('none');
  expect(found('G28\nG1 X10 Y10 Z0.2 F3000\nG1 X50 E2\n').verdict).toBe('none');
});
