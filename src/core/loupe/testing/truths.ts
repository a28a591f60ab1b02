/** Photos of made-up prints of which every number is known, in many colours, lights and hands. */

import type { Box } from '../../bench/bed';
import { MOVE, type Trace } from '../../gcode/trace';
import type { Plan } from '../../plan/plan';
import { normal, seeded, type Random } from '../../random';
import type { Corners, Pixels } from '../pixels';
import { frameAbove } from '../../view/ladder-picture';
import { takePicture, type Shot } from './camera';
import { bead, layers, MOSS, paint, PAPER, sceneOf, type LayerForm, type Rgb } from './scenes';

export type Known = {
  plan: Plan;
  photo: Pixels;
  corners: Corners;
  /** The true number of every rung. */
  truth: number[];
};

/** What a print is made of and lies on. */
export type Style = { colour: Rgb; ground: Rgb; form: LayerForm };
export const PLAIN: Style = { colour: MOSS, ground: PAPER, form: 'round' };

const COLOURS: readonly Rgb[] = [
  MOSS,
  [38, 40, 44],
  [232, 228, 215],
  [214, 108, 42],
  [128, 130, 134],
  [52, 84, 150],
  [150, 40, 48],
];
const GROUNDS: readonly Rgb[] = [
  PAPER,
  [40, 42, 46],
  [120, 96, 70],
  [86, 122, 140],
  [250, 250, 250],
];
const FORMS: readonly LayerForm[] = ['round', 'grooves', 'steps'];
/** Print and ground are as far apart in some colour, 0..255: more alike nobody lays them. */
const APART = 70;

/** Another filament, ground and look of the layers for every seed. */
export function styleFor(seed: number): Style {
  const random = seeded(seed + 77);
  const one = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)]!;
  for (;;) {
    const style = { colour: one(COLOURS), ground: one(GROUNDS), form: one(FORMS) };
    const apart = style.colour.map((part, i) => Math.abs(part - style.ground[i]!));
    if (Math.max(...apart) > APART) return style;
  }
}

/** Another hand, light and lens for every seed. */
export const shotFor = (seed: number): Partial<Shot> => {
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

export const frontOf = ({ width, height }: Plan): Box => ({
  minX: 0,
  minY: 0,
  maxX: width,
  maxY: height,
});

/** A tower whose bands have other pitches than was asked, mm. */
export function layered(
  plan: Plan,
  seed: number,
  shot: Partial<Shot> = {},
  style: Style = PLAIN,
): Known {
  const random = seeded(seed);
  const truth = plan.rungs.map(() => plan.layerHeight * (0.95 + 0.1 * random()));
  const bands = plan.rungs.map(({ z }, i) => ({ ...z, pitch: truth[i]! }));
  const jitter = 0.012 * random();
  const scene = layers(frontOf(plan), bands, { seed, jitter, pxPerMm: 22, ...style });
  return { plan, truth, ...takePicture(scene, { ...shotFor(seed), ...shot }) };
}

/** A plan of so many places one above the other, seen from above. */
function stacked(
  plan: Plan,
  count: number,
  size: { wide: number; tall: number; pitch: number },
  what: { kind: string; set: (index: number) => Plan['rungs'][number]['set'] } = {
    kind: 'flow',
    set: (index) => ({ flow: index }),
  },
) {
  const box = { minX: 80, minY: 70, maxX: 130, maxY: 120 };
  const places = Array.from({ length: count }, (_, index): Box => {
    const y = 78 + index * size.pitch;
    return { minX: 90, maxX: 90 + size.wide, minY: y - size.tall / 2, maxY: y + size.tall / 2 };
  });
  const rungs = places.map((one, index) => ({
    index,
    at: [],
    set: what.set(index),
    z: { from: 0, to: 0.2 },
    layers: { first: 0, last: 0 },
    boxes: [one],
    line: 1,
  }));
  const own: Plan = { ...plan, kind: what.kind, view: 'top', frame: box, rungs };
  return { own, box, places };
}

/** Eleven pairs of lines seen from above, each further apart, mm. */
export function vernier(
  plan: Plan,
  seed: number,
  shot: Partial<Shot> = {},
  { colour, ground }: Style = PLAIN,
): Known {
  const random = seeded(seed);
  const apart = (index: number) => (index - 5) * 0.1;
  const { own, box, places } = stacked(
    plan,
    11,
    { wide: 20.4, tall: 3.078, pitch: 3.078 },
    { kind: 'nozzle-alignment', set: (index) => ({ offsetX: apart(index) }) },
  );
  const scene = sceneOf(box, 20, ground);
  const truth = places.map(({ minY, maxY }, index) => {
    const y = (minY + maxY) / 2;
    const off = apart(index) + (random() - 0.5) * 0.4;
    bead(scene, { x: 90, y }, { x: 100, y }, 0.45, colour);
    bead(scene, { x: 100.4, y: y + off }, { x: 110.4, y: y + off }, 0.45, colour);
    return off;
  });
  return { plan: own, truth, ...takePicture(scene, { ...shotFor(seed), k: -0.01, ...shot }) };
}

/** Faces with echoes of these spacings, mm; they last so many times as long as is usual. */
export function echoing(
  plan: Plan,
  seed: number,
  strength: number,
  shot: Partial<Shot> = {},
  { colour, ground }: Style = PLAIN,
  lasts = 1,
): Known {
  const random = seeded(seed);
  const scene = sceneOf(frontOf(plan), 22, ground);
  const flip = random() < 0.5;
  const truth = plan.rungs.map(({ z }) => {
    const spacing = 1 + 2.4 * random();
    const [fade, turn] = [lasts * spacing * (1.2 + 1.5 * random()), 6 * random()];
    paint(scene, { ...frontOf(plan), minY: z.from, maxY: z.to }, colour, (x, y) => {
      const way = flip ? plan.width - x : x;
      const echo =
        strength * Math.exp(-way / fade) * Math.cos((2 * Math.PI * way) / spacing + turn);
      return 1 + 0.15 * Math.cos((2 * Math.PI * y) / 0.2) + echo + 0.12 * (random() - 0.5);
    });
    return spacing;
  });
  return { plan, truth, ...takePicture(scene, { ...shotFor(seed), ...shot }) };
}

/** Between which two places across the posts of `strung` are open, mm. */
export const OPEN = { from: 15, to: 32 };

/** Two posts with so many threads between them in every band. */
export function strung(
  plan: Plan,
  seed: number,
  truth: number[],
  shot: Partial<Shot> = {},
  { colour, ground }: Style = PLAIN,
): Known {
  const random = seeded(seed);
  const scene = sceneOf(frontOf(plan), 24, ground);
  plan.rungs.forEach(({ z }, k) => {
    for (const [minX, maxX] of [
      [0, OPEN.from],
      [OPEN.to, plan.width],
    ] as const)
      paint(
        scene,
        { minX, maxX, minY: z.from, maxY: z.to },
        colour,
        (_, y) => 1 + 0.15 * Math.cos(31.4 * y),
      );
    const middle = (OPEN.from + OPEN.to) / 2;
    const tall = z.to - z.from - 0.4;
    for (let i = 0; i < truth[k]!; i++) {
      const y = z.from + 0.3 + (tall * (i + 0.2 + 0.6 * random())) / truth[k]!;
      const thick = 0.05 + 0.06 * random();
      for (let x = OPEN.from; x < OPEN.to; x += 0.25) {
        const hang = 0.15 * (1 - ((x - middle) / (OPEN.to - middle)) ** 2);
        paint(
          scene,
          { minX: x, maxX: x + 0.25, minY: y - hang, maxY: y - hang + thick },
          colour,
          () => 0.8,
        );
      }
    }
  });
  return { plan, truth, ...takePicture(scene, { ...shotFor(seed), ...shot }) };
}

/** A tower whose bands stand out at both sides by so much, and whose edges are so rough (root mean square), mm. */
export function bulging(
  plan: Plan,
  seed: number,
  shot: Partial<Shot> = {},
  { colour, ground }: Style = PLAIN,
): Known & { rough: number[] } {
  const random = seeded(seed);
  const scene = sceneOf(frontOf(plan), 40, ground);
  const rough: number[] = [];
  const truth = plan.rungs.map(({ z }) => {
    const out = 0.3 * (random() - 0.3);
    const wander = 0.01 + 0.08 * random();
    for (let low = z.from; low < z.to - 1e-9; low += plan.layerHeight) {
      const tone = 0.9 + 0.2 * random();
      const [left, right] = [out + wander * normal(random), out + wander * normal(random)];
      const layer = { minY: low, maxY: Math.min(z.to, low + plan.layerHeight) };
      paint(scene, { ...layer, minX: -left, maxX: plan.width + right }, colour, () => tone);
    }
    rough.push(wander);
    return out;
  });
  return { plan, truth, rough, ...takePicture(scene, { ...shotFor(seed), ...shot }) };
}

/** Single strokes of these widths, mm. */
export function stroked(
  plan: Plan,
  seed: number,
  shot: Partial<Shot> = {},
  { colour, ground }: Style = PLAIN,
): Known {
  const random = seeded(seed);
  const { own, box, places } = stacked(plan, 9, { wide: 28, tall: 2.4, pitch: 4 });
  const scene = sceneOf(box, 30, ground);
  const truth = places.map(({ minX, maxX, minY, maxY }) => {
    const width = 0.35 + 0.5 * random();
    const y = (minY + maxY) / 2;
    bead(scene, { x: minX - 1, y }, { x: maxX + 1, y }, width, colour);
    return width;
  });
  return { plan: own, truth, ...takePicture(scene, { ...shotFor(seed), k: -0.01, ...shot }) };
}

/** Patches through which the ground shows between strokes, by this share of their area. */
export function patched(
  plan: Plan,
  seed: number,
  shot: Partial<Shot> = {},
  { colour, ground }: Style = PLAIN,
): Known {
  const random = seeded(seed);
  const { own, box, places } = stacked(plan, 5, { wide: 28, tall: 7, pitch: 8.5 });
  const scene = sceneOf(box, 40, ground);
  const truth = places.map((place) => {
    // Strokes half a millimetre apart, so many twentieths of them bare: each a pixel of the scene.
    const share = Math.max(0, Math.round(12 * (random() - 0.2))) / 20;
    for (let low = place.minY; low < place.maxY - 1e-9; low += 0.5)
      paint(scene, { ...place, minY: low, maxY: low + 0.5 * (1 - share) }, colour, () => 1);
    return share;
  });
  return { plan: own, truth, ...takePicture(scene, { ...shotFor(seed), k: -0.01, ...shot }) };
}

/** Numbers of threads for the rungs of a plan, from none to a dozen, in any order. */
export const someThreads = (plan: Plan, random: Random): number[] =>
  plan.rungs.map(() => Math.floor(13 * random()));

/** A plan's own strokes seen from above, with drops at their corners that stand out by so much in every rung, mm. */
export function dropped(
  { plan, trace: { moves } }: { plan: Plan; trace: Trace },
  seed: number,
  shot: Partial<Shot> = {},
  { colour, ground }: Style = PLAIN,
): Known {
  const random = seeded(seed);
  const box = frameAbove(plan);
  const scene = sceneOf(box, 14, ground);
  const width = 0.6;
  const truth = plan.rungs.map(() => 0.3 * random());
  for (let i = 1; i < moves.count; i++) {
    if (moves.kind[i] !== MOVE.extrude) continue;
    const [from, to] = [i - 1, i].map((k) => ({ x: moves.x[k]!, y: moves.y[k]! }));
    const inBox = (at: { x: number; y: number }) =>
      plan.rungs.findIndex(({ boxes: [one] = [] }) => one && within(one, at));
    const rung = inBox(from!);
    if (rung < 0 || inBox(to!) !== rung) continue;
    bead(scene, from!, to!, width, colour);
    const next = { x: moves.x[i + 1]!, y: moves.y[i + 1]! };
    const goesOn = moves.kind[i + 1] === MOVE.extrude && inBox(next) === rung;
    if (goesOn) bead(scene, to!, to!, width + 2 * truth[rung]!, colour);
  }
  return { plan, truth, ...takePicture(scene, { ...shotFor(seed), k: -0.005, ...shot }) };
}

const within = ({ minX, minY, maxX, maxY }: Box, { x, y }: { x: number; y: number }): boolean =>
  x >= minX && x <= maxX && y >= minY && y <= maxY;
