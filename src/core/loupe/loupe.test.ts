import type { Plan } from '../plan/plan';
import { quantile } from '../numbers';
import { seeded } from '../random';
import { benchFor, makeOn } from '../testing';
import { lookAt, usualFor, type Measured } from './loupe';
import type { Corners, Pixels } from './pixels';
import { takePicture, type Shot } from './testing/camera';
import { asJpeg } from './testing/jpeg';
import { rankCorrelation } from './testing/ranks';
import { layers, MOSS, paint, sceneOf } from './testing/scenes';
import { echoing, frontOf, layered, shotFor, strung, vernier } from './testing/truths';

const made = (kind: string): Plan => makeOn(benchFor('heron'), kind).plan;
// Every photo is drawn, taken and looked at: that takes its time on a busy machine.
jest.setTimeout(60_000);

const tower = made('temperature');
const walls = made('acceleration');
type Truth = { told: Measured[]; off: number[]; holds: boolean[] };
const against = (measures: readonly Measured[], truth: (one: Measured) => number): Truth => {
  const told = measures.filter((one) => one.told);
  return {
    told,
    off: told.map((one) => one.value - truth(one)),
    holds: told.map((one) => Math.abs(one.value - truth(one)) <= one.spread),
  };
};
const share = (all: readonly boolean[]) => all.filter(Boolean).length / all.length;

describe('layer pitch', () => {
  test('is found within 2 % through slant, lens, blur, noise and JPEG, and its spread is honest', async () => {
    const holds: boolean[] = [];
    for (let seed = 1; seed <= 2; seed++) {
      const { truth: pitches, photo, corners } = layered(tower, seed);
      const { measures } = lookAt(await asJpeg(photo), tower, {
        corners,
        measures: ['layer-pitch'],
      });
      const truth = against(measures, ({ rung }) => pitches[rung]!);
      expect(truth.told).toHaveLength(pitches.length);
      truth.off.forEach((off, i) => expect(Math.abs(off / pitches[i]!)).toBeLessThan(0.02));
      holds.push(...truth.holds);
    }
    // A few photos, each with corners of its own: `npm run loupe-truths` counts many.
    expect(share(holds)).toBeGreaterThan(0.55);
  });

  long('is measured where a place was pulled to, and no further than the picture goes', () => {
    const { truth: pitches, photo, corners } = layered(tower, 2);
    const [low, , , high] = corners;
    const rung = {
      x: (high.x - low.x) / tower.rungs.length,
      y: (high.y - low.y) / tower.rungs.length,
    };
    const at = (by: { x: number; y: number }) => {
      const moved = [{ name: 'layer-pitch' as const, rung: 1, by }];
      const looked = lookAt(photo, tower, { corners, measures: ['layer-pitch'], moved });
      expect(looked.moved).toEqual(moved);
      return looked.measures;
    };
    const up = at(rung);
    expect(Math.abs(up[1]!.value / pitches[2]! - 1)).toBeLessThan(0.012);
    expect(up[0]!.value).toBeCloseTo(at({ x: 0, y: 0 })[0]!.value, 9);
    expect(at({ x: 1e6, y: 1e6 })).toHaveLength(tower.rungs.length);
  });

  long('cannot be told where layers are smeared, too small, or dark', async () => {
    const cases: Partial<Shot>[] = [{ blur: 7 }, { width: 300, height: 225 }, { gain: 0.02 }];
    for (const spoilt of cases) {
      const { photo, corners } = layered(tower, 3, spoilt);
      const looked = lookAt(await asJpeg(photo), tower, { corners, measures: ['layer-pitch'] });
      expect(looked.measures.map(({ told }) => told)).not.toContain(true);
      for (const { why } of looked.measures) expect(why).toMatch(/[.]$/);
      expect(looked.problems.length).toBeGreaterThan(0);
    }
  });
});

long(
  'pairs of lines are told to three hundredths of a millimetre, with an honest spread',
  async () => {
    const holds: boolean[] = [];
    for (let seed = 1; seed <= 2; seed++) {
      const { plan, truth: apart, photo, corners } = vernier(tower, seed);
      const { measures } = lookAt(await asJpeg(photo), plan, { corners, measures: ['line-up'] });
      const truth = against(measures, ({ rung }) => apart[rung]!);
      expect(truth.told).toHaveLength(11);
      for (const off of truth.off) expect(Math.abs(off)).toBeLessThan(0.03);
      holds.push(...truth.holds);
      const nearest = (list: readonly number[]) =>
        list.reduce((best, value, i) => (Math.abs(value) < Math.abs(list[best]!) ? i : best), 0);
      const best = nearest(measures.map(({ value }) => value));
      expect(Math.abs(apart[best]!)).toBeLessThan(Math.abs(apart[nearest(apart)]!) + 0.03);
    }
    expect(share(holds)).toBeGreaterThan(0.65);
  },
);

describe('ghost spacing', () => {
  long('is found within 4 %, with its frequency at the speed of the face', async () => {
    let told = 0;
    for (let seed = 1; seed <= 1; seed++) {
      const { truth: spacings, photo, corners } = echoing(walls, seed, 0.2);
      const { measures } = lookAt(await asJpeg(photo), walls, {
        corners,
        measures: ['ghost-spacing'],
      });
      const truth = against(measures, ({ rung }) => spacings[rung]!);
      told += truth.told.length;
      truth.told.forEach((one, i) => {
        expect(Math.abs(truth.off[i]! / spacings[one.rung]!)).toBeLessThan(0.04);
        expect(one.also!.hz).toBeCloseTo(one.also!.speed! / one.value, 6);
      });
    }
    expect(told).toBeGreaterThan(0.8 * walls.rungs.length);
  });

  long('is not told where there are no echoes', async () => {
    for (let seed = 11; seed <= 11; seed++) {
      const { photo, corners } = echoing(walls, seed, 0);
      const { measures } = lookAt(await asJpeg(photo), walls, {
        corners,
        measures: ['ghost-spacing'],
      });
      expect(measures.map(({ told }) => told)).not.toContain(true);
    }
  });
});

test('threads are ranked as they are', async () => {
  const counts = [11, 0, 7, 2, 9, 5, 1, 3];
  for (let seed = 1; seed <= 1; seed++) {
    const { photo, corners } = strung(tower, seed, counts);
    const { measures } = lookAt(await asJpeg(photo), tower, { corners, measures: ['threads'] });
    expect(measures.every(({ told }) => told)).toBe(true);
    const values = measures.map(({ value }) => value);
    expect(rankCorrelation(values, counts)).toBeGreaterThanOrEqual(0.9);
    expect(values[1]).toBeLessThan(0.3);
  }
});

describe('what stands against a picture', () => {
  const { photo, corners } = layered(tower, 1);
  const problemsOf = (given: Pixels, some: Corners = corners) =>
    lookAt(given, tower, { corners: some, measures: ['edge'] }).problems.map(({ where }) => where);

  test('a good one has nothing against it, and its lens is found', () => {
    const looked = lookAt(photo, tower, { corners });
    expect(looked.problems).toEqual([]);
    expect(looked.pxPerMm).toBeGreaterThan(15);
    expect(looked.lens!.sides).toBeGreaterThanOrEqual(3);
    expect(looked.lens!.k).toBeCloseTo(shotFor(1).k!, 2);
  });

  long('darkness, glare, softness and slant are said', () => {
    const { width, height, rgb } = photo;
    const lit = (times: number, plus = 0): Pixels => ({
      width,
      height,
      rgb: rgb.map((value) => Math.max(0, Math.min(255, value * times + plus))),
    });
    expect(problemsOf(lit(0.12))).toContain('light');
    expect(problemsOf(lit(1, 160))).toContain('glare');
    expect(problemsOf(layered(tower, 1, { blur: 9 }).photo)).toContain('soft');
    const [a, b, c, d] = corners;
    const steep: Corners = [a, b, { x: c.x - 330, y: c.y + 60 }, { x: d.x + 330, y: d.y + 60 }];
    expect(problemsOf(photo, steep)).toContain('slant');
  });

  test('corners that are outside, crossed or mirrored are refused with words', () => {
    const [a, b, c, d] = corners;
    const says = (some: Corners) => {
      const looked = lookAt(photo, tower, { corners: some });
      expect(looked.pxPerMm).toBeNull();
      expect(looked.measures.every(({ told }) => !told)).toBe(true);
      return looked.problems[0]!.what;
    };
    expect(says([b, a, d, c])).toMatch(/round the other way/);
    expect(says([a, c, b, d])).toMatch(/four sides/);
    expect(says([{ x: -900, y: 0 }, b, c, d])).toMatch(/Corner 1 lies outside/);
  });
});

test('a tower is looked at from the front for what its kind is scored for', () => {
  expect(usualFor(tower, 'front')).toEqual(
    expect.arrayContaining(['layer-pitch', 'gloss', 'threads', 'sag']),
  );
  expect(usualFor(tower, 'front')).not.toContain('line-up');
  expect(usualFor(walls, 'back')).toContain('ghost-spacing');
});

long('what lies over each other or behind each other is not told', () => {
  const rows = made('retraction');
  const scene = sceneOf(rows.frame!, 10);
  for (const { boxes } of rows.rungs) paint(scene, boxes![0]!, MOSS);
  const { photo, corners } = takePicture(scene, { ...shotFor(1), width: 1300, height: 1000, k: 0 });
  const said = (side: 'front' | 'top') =>
    lookAt(photo, rows, { corners, side, measures: ['threads'] }).measures.map(({ why }) => why);
  for (const why of said('front')) expect(why).toMatch(/one behind the other/);
  for (const why of said('top')) expect(why).toMatch(/over each other/);
});

describe('corners', () => {
  test('are found by themselves where the outline is clear, and the same numbers come out', () => {
    const scene = layers(
      frontOf(walls),
      walls.rungs.map(({ z }) => ({ ...z, pitch: 0.2 })),
      { pxPerMm: 18 },
    );
    paint(scene, { ...frontOf(walls), maxY: walls.rungs[0]!.z.from }, MOSS);
    const { photo, corners } = takePicture(scene, { ...shotFor(4), k: 0 });
    const looked = lookAt(photo, walls, { measures: ['layer-pitch'] });
    expect(looked.found).toBe(true);
    looked.corners!.forEach(({ x, y }, i) =>
      expect(Math.hypot(x - corners[i]!.x, y - corners[i]!.y)).toBeLessThan(12),
    );
    const off = looked.measures.filter(({ told }) => told).map(({ value }) => value / 0.2 - 1);
    expect(off.length).toBe(walls.rungs.length);
    expect(quantile(off.map(Math.abs), 1)).toBeLessThan(0.02);
  });

  test('are not made up where nothing is seen', () => {
    const random = seeded(1);
    const rgb = new Uint8Array(600 * 400 * 3).map(() => 200 + 20 * random());
    const looked = lookAt({ width: 600, height: 400, rgb }, walls);
    expect(looked.corners).toBeNull();
    expect(looked.problems[0]!.where).toBe('corners');
  });
});
