import sharp from 'sharp';
import type { Box } from '../bench/bed';
import type { Plan } from '../plan/plan';
import { quantile } from '../numbers';
import { seeded } from '../random';
import { benchFor, makeOn } from '../testing';
import { lookAt, usualFor, type Measured } from './loupe';
import type { Corners, Pixels } from './pixels';
import { takePicture, type Shot } from './testing/camera';
import { bead, layers, MOSS, paint, sceneOf } from './testing/scenes';

/** As a phone would keep it. */
async function asJpeg({ width, height, rgb }: Pixels, quality = 88): Promise<Pixels> {
  const bytes = await sharp(rgb, { raw: { width, height, channels: 3 } })
    .jpeg({ quality })
    .toBuffer();
  return { width, height, rgb: await sharp(bytes).raw().toBuffer() };
}

const made = (kind: string): Plan => makeOn(benchFor('heron'), kind).plan;
// Every photo is drawn, taken and looked at: that takes its time on a busy machine.
jest.setTimeout(60_000);

const tower = made('temperature');
const walls = made('acceleration');
const boxOf = ({ width, height }: Plan): Box => ({ minX: 0, minY: 0, maxX: width, maxY: height });

/** Another hand, light and lens for every seed. */
const shotFor = (seed: number): Partial<Shot> => {
  const random = seeded(seed);
  return {
    seed,
    width: 960,
    height: 720,
    k: -0.035 * random(),
    blur: 0.5 + 0.8 * random(),
    noise: 2 + 3 * random(),
    uneven: 0.4 * random(),
    slant: 0.05 * random(),
  };
};

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

/** A photo of a tower whose bands have these pitches. */
function layered(seed: number, shot: Partial<Shot> = {}) {
  const random = seeded(seed);
  const pitches = tower.rungs.map(() => 0.2 * (0.95 + 0.1 * random()));
  const bands = tower.rungs.map(({ z }, i) => ({ ...z, pitch: pitches[i]! }));
  const scene = layers(boxOf(tower), bands, { seed, jitter: 0.012 * random(), pxPerMm: 22 });
  return { pitches, ...takePicture(scene, { ...shotFor(seed), ...shot }) };
}

describe('layer pitch', () => {
  test('is found within 2 % through slant, lens, blur, noise and JPEG, and its spread is honest', async () => {
    const holds: boolean[] = [];
    for (let seed = 1; seed <= 3; seed++) {
      const { pitches, photo, corners } = layered(seed);
      const { measures } = lookAt(await asJpeg(photo), tower, {
        corners,
        measures: ['layer-pitch'],
      });
      const truth = against(measures, ({ rung }) => pitches[rung]!);
      expect(truth.told).toHaveLength(pitches.length);
      truth.off.forEach((off, i) => expect(Math.abs(off / pitches[i]!)).toBeLessThan(0.02));
      holds.push(...truth.holds);
    }
    expect(share(holds)).toBeGreaterThan(0.65);
  });

  test('is measured where a place was pulled to, and no further than the picture goes', () => {
    const { pitches, photo, corners } = layered(2);
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

  test('cannot be told where layers are smeared, too small, or dark', async () => {
    const cases: Partial<Shot>[] = [{ blur: 7 }, { width: 300, height: 225 }, { gain: 0.02 }];
    for (const spoilt of cases) {
      const { photo, corners } = layered(3, spoilt);
      const looked = lookAt(await asJpeg(photo), tower, { corners, measures: ['layer-pitch'] });
      expect(looked.measures.map(({ told }) => told)).not.toContain(true);
      for (const { why } of looked.measures) expect(why).toMatch(/[.]$/);
      expect(looked.problems.length).toBeGreaterThan(0);
    }
  });
});

/** Eleven pairs of lines, each further apart, seen from above. */
function vernier(seed: number) {
  const random = seeded(seed);
  const box = { minX: 80, minY: 70, maxX: 130, maxY: 120 };
  const scene = sceneOf(box, 20);
  const apart: number[] = [];
  const rungs = Array.from({ length: 11 }, (_, index) => {
    const y = 78 + index * 3.078;
    const off = (index - 5) * 0.1 + (random() - 0.5) * 0.4;
    apart.push(off);
    bead(scene, { x: 90, y }, { x: 100, y }, 0.45);
    bead(scene, { x: 100.4, y: y + off }, { x: 110.4, y: y + off }, 0.45);
    return {
      index,
      at: [],
      set: { offsetX: (index - 5) * 0.1 },
      z: { from: 0, to: 0.2 },
      layers: { first: 0, last: 0 },
      boxes: [{ minX: 90, maxX: 110.4, minY: y - 1.539, maxY: y + 1.539 }],
      line: 1,
    };
  });
  const plan: Plan = { ...tower, kind: 'nozzle-alignment', view: 'top', frame: box, rungs };
  return { plan, apart, ...takePicture(scene, { ...shotFor(seed), k: -0.01 }) };
}

test('pairs of lines are told to three hundredths of a millimetre, with an honest spread', async () => {
  const holds: boolean[] = [];
  for (let seed = 1; seed <= 3; seed++) {
    const { plan, apart, photo, corners } = vernier(seed);
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
});

/** Faces with echoes of these spacings. */
function echoing(seed: number, strength: number) {
  const random = seeded(seed);
  const scene = sceneOf(boxOf(walls), 22);
  const flip = random() < 0.5;
  const spacings = walls.rungs.map(({ z }) => {
    const spacing = 1 + 2.4 * random();
    const [fade, turn] = [spacing * (1.2 + 1.5 * random()), 6 * random()];
    paint(scene, { ...boxOf(walls), minY: z.from, maxY: z.to }, MOSS, (x, y) => {
      const way = flip ? walls.width - x : x;
      const echo =
        strength * Math.exp(-way / fade) * Math.cos((2 * Math.PI * way) / spacing + turn);
      return 1 + 0.15 * Math.cos((2 * Math.PI * y) / 0.2) + echo + 0.12 * (random() - 0.5);
    });
    return spacing;
  });
  return { spacings, ...takePicture(scene, shotFor(seed)) };
}

describe('ghost spacing', () => {
  test('is found within 4 %, with its frequency at the speed of the face', async () => {
    let told = 0;
    for (let seed = 1; seed <= 2; seed++) {
      const { spacings, photo, corners } = echoing(seed, 0.2);
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
    expect(told).toBeGreaterThan(0.8 * 2 * walls.rungs.length);
  });

  test('is not told where there are no echoes', async () => {
    for (let seed = 11; seed <= 11; seed++) {
      const { photo, corners } = echoing(seed, 0);
      const { measures } = lookAt(await asJpeg(photo), walls, {
        corners,
        measures: ['ghost-spacing'],
      });
      expect(measures.map(({ told }) => told)).not.toContain(true);
    }
  });
});

/** Two posts with so many threads between them in every band, and a bridge that hangs. */
function strung(seed: number, counts: readonly number[]) {
  const random = seeded(seed);
  const scene = sceneOf(boxOf(tower), 24);
  tower.rungs.forEach(({ z }, k) => {
    for (const [minX, maxX] of [
      [0, 15],
      [32, tower.width],
    ] as const)
      paint(
        scene,
        { minX, maxX, minY: z.from, maxY: z.to },
        MOSS,
        (_, y) => 1 + 0.15 * Math.cos(31.4 * y),
      );
    for (let i = 0; i < counts[k]!; i++) {
      const y = z.from + 0.3 + (3.6 * (i + 0.2 + 0.6 * random())) / counts[k]!;
      const thick = 0.05 + 0.06 * random();
      for (let x = 15; x < 32; x += 0.25) {
        const hang = 0.15 * (1 - ((x - 23.5) / 8.5) ** 2);
        paint(
          scene,
          { minX: x, maxX: x + 0.25, minY: y - hang, maxY: y - hang + thick },
          MOSS,
          () => 0.8,
        );
      }
    }
  });
  return takePicture(scene, shotFor(seed));
}

const ranks = (values: readonly number[]) =>
  values.map(
    (value) =>
      values.filter((one) => one < value).length + values.filter((one) => one === value).length / 2,
  );
function rankCorrelation(a: readonly number[], b: readonly number[]): number {
  const [ra, rb] = [ranks(a), ranks(b)];
  const mean = (list: readonly number[]) => list.reduce((sum, v) => sum + v, 0) / list.length;
  const [ma, mb] = [mean(ra), mean(rb)];
  const cross = ra.reduce((sum, v, i) => sum + (v - ma) * (rb[i]! - mb), 0);
  const size = (list: readonly number[], m: number) =>
    Math.sqrt(list.reduce((s, v) => s + (v - m) ** 2, 0));
  return cross / size(ra, ma) / size(rb, mb);
}

test('threads are ranked as they are', async () => {
  const counts = [11, 0, 7, 2, 9, 5, 1, 3];
  for (let seed = 1; seed <= 2; seed++) {
    const { photo, corners } = strung(seed, counts);
    const { measures } = lookAt(await asJpeg(photo), tower, { corners, measures: ['threads'] });
    expect(measures.every(({ told }) => told)).toBe(true);
    const values = measures.map(({ value }) => value);
    expect(rankCorrelation(values, counts)).toBeGreaterThanOrEqual(0.9);
    expect(values[1]).toBeLessThan(0.3);
  }
});

describe('what stands against a picture', () => {
  const { photo, corners } = layered(1);
  const problemsOf = (given: Pixels, some: Corners = corners) =>
    lookAt(given, tower, { corners: some, measures: ['edge'] }).problems.map(({ where }) => where);

  test('a good one has nothing against it, and its lens is found', () => {
    const looked = lookAt(photo, tower, { corners });
    expect(looked.problems).toEqual([]);
    expect(looked.pxPerMm).toBeGreaterThan(15);
    expect(looked.lens!.sides).toBeGreaterThanOrEqual(3);
    expect(looked.lens!.k).toBeCloseTo(shotFor(1).k!, 2);
  });

  test('darkness, glare, softness and slant are said', () => {
    const { width, height, rgb } = photo;
    const lit = (times: number, plus = 0): Pixels => ({
      width,
      height,
      rgb: rgb.map((value) => Math.max(0, Math.min(255, value * times + plus))),
    });
    expect(problemsOf(lit(0.12))).toContain('light');
    expect(problemsOf(lit(1, 160))).toContain('glare');
    expect(problemsOf(layered(1, { blur: 9 }).photo)).toContain('soft');
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

describe('corners', () => {
  test('are found by themselves where the outline is clear, and the same numbers come out', () => {
    const scene = layers(
      boxOf(walls),
      walls.rungs.map(({ z }) => ({ ...z, pitch: 0.2 })),
      { pxPerMm: 18 },
    );
    paint(scene, { ...boxOf(walls), maxY: walls.rungs[0]!.z.from }, MOSS);
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
