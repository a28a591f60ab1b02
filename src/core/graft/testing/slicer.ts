/** A slicer that is only here to make files for tests and for the demo: stacks of outlines, as text with known sections. */

import type { Point } from '../../bench/bed';
import { seeded, type Random } from '../../random';

export type Outline = Point[];
/** What is printed at a height: outlines that enclose plastic, those inside others enclose holes. */
export type Model = { height: number; at(z: number): Outline[] };

export type Sliced = {
  layerHeight: number;
  /** Thickness of the layer that begins at a height, mm, where it is not the same everywhere. */
  layerAt?: (z: number) => number;
  absolute: boolean;
  /** Whether an absolute E begins at 0 again with every layer. */
  resets: boolean;
  /** Places of the copies, mm; printed one after the other, or layer by layer. */
  places: Point[];
  oneByOne: boolean;
  spiral: boolean;
  brim: number;
  /** Between infill lines, mm; 0 for none. */
  infill: number;
  retraction: number;
  lift: number;
  /** Whether walls and infill have accelerations of their own. */
  accelerations: boolean;
  /** Whether the file changes its temperature and fan at heights of its own, mm. */
  meddles: number[];
  /** Least time of a layer, s. */
  shortest: number;
  comments: boolean;
  eol: '\n' | '\r\n';
  decimals: number;
  start: string[];
  end: string[];
};

export const START = ['M140 S60', 'M104 S215', 'G28', 'M190 S60', 'M109 S215', 'G90'];
export const END = ['M104 S0', 'M140 S0', 'M107', 'G28 X Y', 'M84'];

export const USUAL: Sliced = {
  layerHeight: 0.2,
  absolute: false,
  resets: false,
  places: [{ x: 100, y: 100 }],
  oneByOne: false,
  spiral: false,
  brim: 0,
  infill: 4,
  retraction: 0.8,
  lift: 0,
  accelerations: false,
  meddles: [],
  shortest: 0,
  comments: true,
  eol: '\n',
  decimals: 3,
  start: START,
  end: END,
};

const [WIDTH, FILAMENT] = [0.45, 1.75];
const [WALL_SPEED, FILL_SPEED, TRAVEL_SPEED] = [40, 60, 150];

/** Slices a model. @returns the text of its file */
export function slice(model: Model, how: Partial<Sliced> = {}): string {
  const set: Sliced = { ...USUAL, ...how };
  const pen = new Pen(set);
  pen.put(...set.start, set.absolute ? 'M82' : 'M83', 'G92 E0');
  const tops = heightsOf(model, set);
  if (set.oneByOne) {
    set.places.forEach((place, i) => {
      if (i > 0) pen.rise(model.height + 5);
      tops.forEach((z, n) => pen.layer(model, z, z - (tops[n - 1] ?? 0), n, [place]));
    });
  } else tops.forEach((z, n) => pen.layer(model, z, z - (tops[n - 1] ?? 0), n, set.places));
  pen.put(...set.end);
  return pen.lines.join(set.eol) + set.eol;
}

function heightsOf({ height }: Model, { layerHeight, layerAt = () => layerHeight }: Sliced) {
  const tops: number[] = [];
  for (let z = 0; z < height - 1e-6;) {
    z = Math.round((z + layerAt(z)) * 1000) / 1000;
    if (z > height + 0.6 * layerHeight) break;
    tops.push(z);
  }
  return tops;
}

class Pen {
  readonly lines: string[] = [];
  private e = 0;
  private drawn = 0;
  private feed = 0;
  private z = 0;
  private x = 0;
  private y = 0;
  private accelerated = 0;

  constructor(private readonly set: Sliced) {}

  put(...lines: string[]): void {
    this.lines.push(...lines);
  }

  rise(z: number): void {
    this.draw();
    this.put(`G1 Z${z.toFixed(3)} F600`);
    this.feed = 600;
  }

  layer(model: Model, z: number, thick: number, n: number, places: Point[]): void {
    const { set } = this;
    const rises = set.meddles.some((at) => at > this.z && at <= z);
    if (set.comments) this.put(`; layer ${n}`, `; height ${z}`);
    if (set.absolute && set.resets) {
      this.put('G92 E0');
      this.e = 0;
    }
    if (rises) this.put(`M104 S${200 + (n % 5)}`);
    if (n === 1) this.put('M106 S255');
    if (rises) this.put(`M106 S${120 + (n % 90)}`);
    const outlines = model.at(z - thick / 2);
    const area = thick * (WIDTH - thick) + (Math.PI * thick ** 2) / 4;
    const perMm = area / ((Math.PI * FILAMENT ** 2) / 4);
    const rings = outlines.flatMap((one) =>
      set.spiral ? [one] : [inset(one, 0.7), inset(one, 0.25)],
    );
    const fill = set.infill > 0 && !set.spiral ? hatch(outlines, set.infill, n % 2 === 0) : [];
    const way = [...rings.map(closed), ...fill].reduce((sum, path) => sum + lengthOf(path), 0);
    const slow = Math.min(
      1,
      (places.length * way) / WALL_SPEED / Math.max(1e-9, set.shortest) || 1,
    );
    const pace = set.shortest > 0 ? Math.max(0.25, slow) : 1;
    for (const place of places) {
      const moved = (path: Outline) => path.map(({ x, y }) => ({ x: x + place.x, y: y + place.y }));
      if (n === 0 && set.brim > 0)
        for (let k = Math.round(set.brim / WIDTH); k >= 1; k--)
          for (const ring of outlines)
            this.stroke(moved(closed(inset(ring, -k * WIDTH))), z, perMm, WALL_SPEED);
      this.accelerate(1000);
      for (const ring of rings) {
        const path = moved(closed(ring));
        if (set.spiral && n > 0) this.climb(path, z - thick, thick, perMm);
        else this.stroke(path, z, perMm, WALL_SPEED * pace);
      }
      this.accelerate(2000);
      for (const line of fill) this.stroke(moved(line), z, perMm, FILL_SPEED * pace);
    }
    this.z = z;
  }

  private accelerate(to: number): void {
    if (!this.set.accelerations || this.accelerated === to) return;
    this.accelerated = to;
    this.put(`M204 S${to}`);
  }

  private stroke(path: Outline, z: number, perMm: number, speed: number): void {
    this.go(path[0]!, z);
    for (const to of path.slice(1)) this.lay(to, perMm, speed);
  }

  private climb(path: Outline, from: number, thick: number, perMm: number): void {
    const whole = lengthOf(path);
    this.restart();
    let done = 0;
    for (const to of path.slice(1)) {
      const length = Math.hypot(to.x - this.x, to.y - this.y);
      if (length < 1e-3) continue;
      done += length;
      this.lay(to, perMm, WALL_SPEED, from + (thick * done) / whole);
    }
  }

  private lay(to: Point, perMm: number, speed: number, z?: number): void {
    const fed = Math.hypot(to.x - this.x, to.y - this.y) * perMm;
    if (fed < 1e-5) return;
    const height = z === undefined ? '' : ` Z${z.toFixed(3)}`;
    this.put(`G1 ${this.to(to)}${height} ${this.fed(fed)}${this.speed(speed)}`);
  }

  private go(to: Point, z: number): void {
    const far = Math.hypot(to.x - this.x, to.y - this.y) > 1.5;
    if (far) this.draw();
    if (far && this.set.lift > 0) this.put(`G0 Z${(this.z + this.set.lift).toFixed(3)}`);
    if (far || z !== this.z) this.put(`G0 ${this.to(to)}${this.speed(TRAVEL_SPEED)}`);
    if (z !== this.z || (far && this.set.lift > 0)) this.put(`G0 Z${z.toFixed(3)}`);
    this.z = z;
    this.restart();
  }

  private draw(): void {
    if (this.drawn > 0 || this.set.retraction === 0) return;
    this.drawn = this.set.retraction;
    this.put(`G1 ${this.fed(-this.drawn)}${this.speed(35)}`);
  }

  private restart(): void {
    if (this.drawn === 0) return;
    this.put(`G1 ${this.fed(this.drawn)}${this.speed(35)}`);
    this.drawn = 0;
  }

  private to(to: Point): string {
    [this.x, this.y] = [to.x, to.y];
    return `X${to.x.toFixed(this.set.decimals)} Y${to.y.toFixed(this.set.decimals)}`;
  }

  private fed(by: number): string {
    this.e = this.set.absolute ? this.e + by : by;
    return `E${this.e.toFixed(5)}`;
  }

  private speed(mmPerS: number): string {
    const feed = Math.round(mmPerS * 60);
    if (feed === this.feed) return '';
    this.feed = feed;
    return ` F${feed}`;
  }
}

const closed = (ring: Outline): Outline => [...ring, ring[0]!];
const lengthOf = (path: Outline): number =>
  path.slice(1).reduce((sum, { x, y }, i) => sum + Math.hypot(x - path[i]!.x, y - path[i]!.y), 0);

/** An outline drawn nearer to its middle by `by` mm, about. */
function inset(ring: Outline, by: number): Outline {
  const middle = {
    x: ring.reduce((sum, { x }) => sum + x, 0) / ring.length,
    y: ring.reduce((sum, { y }) => sum + y, 0) / ring.length,
  };
  return ring.map(({ x, y }) => ({
    x: x - Math.sign(x - middle.x) * Math.min(by, Math.abs(x - middle.x)),
    y: y - Math.sign(y - middle.y) * Math.min(by, Math.abs(y - middle.y)),
  }));
}

/** Lines a pitch apart inside of outlines, along x or along y. */
function hatch(outlines: Outline[], pitch: number, alongX: boolean): Outline[] {
  const turn = ({ x, y }: Point): Point => (alongX ? { x, y } : { x: y, y: x });
  const rings = outlines.map((ring) => ring.map(turn));
  const ys = rings.flatMap((ring) => ring.map(({ y }) => y));
  const lines: Outline[] = [];
  for (let y = Math.min(...ys) + pitch / 2; y < Math.max(...ys); y += pitch) {
    const cuts = rings.flatMap((ring) =>
      ring.flatMap((a, i) => {
        const b = ring[(i + 1) % ring.length]!;
        return a.y > y === b.y > y ? [] : [a.x + ((y - a.y) / (b.y - a.y)) * (b.x - a.x)];
      }),
    );
    cuts.sort((a, b) => a - b);
    for (let k = 0; k + 1 < cuts.length; k += 2)
      if (cuts[k + 1]! - cuts[k]! > 2)
        lines.push([turn({ x: cuts[k]! + 0.9, y }), turn({ x: cuts[k + 1]! - 0.9, y })]);
  }
  return lines;
}

export const rectangle = (x: number, y: number, wide: number, deep: number): Outline => [
  { x, y },
  { x: x + wide, y },
  { x: x + wide, y: y + deep },
  { x, y: y + deep },
];

export const circle = (x: number, y: number, radius: number, corners = 40): Outline =>
  Array.from({ length: corners }, (_, i) => ({
    x: x + radius * Math.cos((2 * Math.PI * i) / corners),
    y: y + radius * Math.sin((2 * Math.PI * i) / corners),
  }));

/** A tower of sections on a base, with a cap. mm */
export type Tower = { base: number; section: number; count: number; cap: number };

/** What one section looks like at a height within it; `index` is its number, from 0. */
export type Section = (within: number, index: number, section: number) => Outline[];

export function towerOf(
  { base, section, count, cap }: Tower,
  shape: Section,
  plate: Outline[],
  hat: (above: number) => Outline[],
): Model {
  const top = base + section * count;
  return {
    height: top + cap,
    at: (z) => {
      if (z < base) return plate;
      if (z >= top) return hat(z - top);
      const index = Math.min(count - 1, Math.floor((z - base) / section));
      return shape(z - base - index * section, index, section);
    },
  };
}

/** Figures that stand out of a front or are cut into it: a few bars whose places differ from section to section. */
export function figures(
  index: number,
  share: number,
  out: number,
): { x: number; wide: number; out: number }[] {
  if (share < 0.25 || share > 0.75) return [];
  const random = seeded(1000 + index);
  const row = Math.floor((share - 0.25) * 10);
  return [0, 1, 2].flatMap((digit) => {
    const on = ((Math.floor(random() * 1024) >> row) & 1) === 1 || row % 2 === 0;
    return on ? [{ x: 4 + digit * 4, wide: 1 + (row % 3), out }] : [];
  });
}

/** A box whose front carries bars. */
export function boxWith(
  x: number,
  y: number,
  wide: number,
  deep: number,
  bars: { x: number; wide: number; out: number }[],
): Outline {
  const front = bars.flatMap(({ x: at, wide: w, out }) => [
    { x: x + at, y },
    { x: x + at, y: y - out },
    { x: x + at + w, y: y - out },
    { x: x + at + w, y },
  ]);
  return [{ x, y }, ...front, { x: x + wide, y }, { x: x + wide, y: y + deep }, { x, y: y + deep }];
}

const bars = (text: number, index: number, within: number, section: number) =>
  text === 0 ? [] : figures(index, within / section, text);

/** Forms of sections. `text` is how far figures stand out, below zero how deep they are cut; 0 for none. */
export const SECTIONS: Record<string, (text: number, random: Random) => Section> = {
  groove: (text) => (within, index, section) => {
    const cut = within < 1 ? 1 : 0;
    return [boxWith(cut, cut, 28 - 2 * cut, 18 - 2 * cut, bars(text, index, within, section))];
  },
  window: (text) => (within, index, section) => {
    const share = within / section;
    const front = boxWith(0, 0, share > 0.7 ? 34 : 18, 12, bars(text, index, within, section));
    return share > 0.7 ? [front] : [front, rectangle(26, 0, 8, 12)];
  },
  lean: (text) => (within, index, section) => {
    const out = within * Math.tan(((40 + 4 * index) * Math.PI) / 180);
    const body = boxWith(0, 0, 20, 14, bars(text, index, within, section));
    return within < section * 0.8
      ? [body.map((p) => (p.x === 20 ? { ...p, x: 20 + Math.min(out, 9) } : p))]
      : [body];
  },
  cones: (text) => (within, index, section) => {
    const body = circle(12, 12, 12 - 5 * (within / section));
    return text === 0 ? [body] : [body, boxWith(30, 0, 22, 5, bars(text, index, within, section))];
  },
  posts: (text) => (within, index, section) =>
    within > section - 1.2
      ? [rectangle(0, 0, 40, 8)]
      : [boxWith(0, 0, 16, 8, bars(text, index, within, section)), circle(36, 4, 4)],
  ledge: (text) => (within, index, section) => {
    const wide = within > section - 2 ? 30 + (within - section + 2) * 2 : 30;
    return [boxWith(0, 0, wide, 16, bars(text, index, within, section))];
  },
};
export const SECTION_NAMES = Object.keys(SECTIONS);

/** Forms that have no sections at all. */
export const PLAIN: Record<string, (random: Random) => Model> = {
  box: (random) => ({
    height: 30 + 60 * random(),
    at: () => [rectangle(0, 0, 30, 20)],
  }),
  vase: (random) => {
    const [swing, tall] = [4 + 6 * random(), 50 + 60 * random()];
    return {
      height: tall,
      at: (z) => [circle(0, 0, 20 + swing * Math.sin((1.3 * Math.PI * z) / tall), 60)],
    };
  },
  cone: (random) => {
    const tall = 40 + 40 * random();
    return { height: tall, at: (z) => [circle(0, 0, 22 - (17 * z) / tall)] };
  },
  ball: (random) => {
    const radius = 15 + 15 * random();
    return {
      height: 1.8 * radius,
      at: (z) => [circle(0, 0, Math.sqrt(Math.max(9, radius ** 2 - (z - radius * 0.8) ** 2)))],
    };
  },
  lump: (random) => {
    const waves = Array.from({ length: 5 }, () => [
      1 + 4 * random(),
      random() * 0.25,
      random() * 6,
    ]);
    const shift = Array.from({ length: 5 }, () => [1 + 4 * random(), random() * 0.2, random() * 6]);
    const sum = (list: number[][], z: number) =>
      list.reduce((all, [size, pace, phase]) => all + size! * Math.sin(pace! * z + phase!), 0);
    return {
      height: 45 + 50 * random(),
      at: (z) => [circle(sum(shift, z), 0, 20 + sum(waves, z))],
    };
  },
  bracket: (random) => {
    const cuts = Array.from({ length: 5 }, () => 5 + 45 * random()).sort((a, b) => a - b);
    return {
      height: 55,
      at: (z) => {
        const part = cuts.filter((cut) => cut < z).length;
        const wide = [40, 12, 28, 10, 34, 18][part]!;
        return part % 2 === 0
          ? [rectangle(0, 0, wide, 16)]
          : [rectangle(0, 0, wide, 16), circle(wide + 8, 8, 4)];
      },
    };
  },
};
export const PLAIN_NAMES = Object.keys(PLAIN);

/** A file drawn by chance, with what is true of its sections. */
export type Drawn = { text: string; name: string; truth: Tower | null; how: Partial<Sliced> };

const pick = <T>(random: Random, list: readonly T[]): T =>
  list[Math.floor(random() * list.length)]!;

function styleOf(random: Random): Partial<Sliced> {
  const layerHeight = pick(random, [0.12, 0.16, 0.2, 0.2, 0.24, 0.28]);
  const several = random() < 0.2;
  return {
    layerHeight,
    absolute: random() < 0.5,
    resets: random() < 0.5,
    places: several
      ? [
          { x: 60, y: 80 },
          { x: 140, y: 90 },
        ]
      : [{ x: 100, y: 90 }],
    oneByOne: several && random() < 0.5,
    brim: random() < 0.2 ? 4 : 0,
    infill: pick(random, [0, 3, 4, 6]),
    retraction: pick(random, [0, 0.8, 5]),
    lift: random() < 0.3 ? 0.4 : 0,
    accelerations: random() < 0.3,
    shortest: random() < 0.3 ? 8 : 0,
    comments: random() < 0.7,
    eol: random() < 0.2 ? '\r\n' : '\n',
    decimals: pick(random, [2, 3]),
  };
}

/** A tower with sections. */
export function drawnTower(seed: number): Drawn {
  const random = seeded(seed);
  const how = styleOf(random);
  const tower: Tower = {
    base: random() < 0.2 ? 0 : Math.round((0.6 + 3 * random()) * 100) / 100,
    section: Math.round((5 + 9 * random()) * 100) / 100,
    count: 4 + Math.floor(6 * random()),
    cap: random() < 0.5 ? 0 : Math.round(4 * random() * 100) / 100,
  };
  const name = pick(random, SECTION_NAMES);
  const text = pick(random, [0, 0.6, -0.5]);
  const shape = SECTIONS[name]!(text, random);
  const taper = random() < 0.2 ? 0.06 : 0;
  const model = towerOf(
    tower,
    shape,
    [rectangle(-4, -4, 52, 28)],
    pick(random, [
      (above: number) => [circle(12, 8, Math.max(1, 7 - above))],
      () => [rectangle(2, 2, 12, 9)],
    ]),
  );
  const narrowed: Model = {
    height: model.height,
    at: (z) =>
      model.at(z).map((ring) => ring.map((p) => ({ x: p.x * (1 - (taper * z) / 20), y: p.y }))),
  };
  return {
    text: slice(taper > 0 ? narrowed : model, how),
    name: `${name} ${text} taper ${taper}`,
    truth: tower,
    how,
  };
}

/** A form without sections. */
export function drawnPlain(seed: number): Drawn {
  const random = seeded(seed);
  const how = styleOf(random);
  const name = pick(random, PLAIN_NAMES);
  const spiral = (name === 'vase' || name === 'box') && random() < 0.3;
  const text = slice(PLAIN[name]!(random), {
    ...how,
    ...(spiral ? { spiral, places: [{ x: 100, y: 90 }], oneByOne: false } : {}),
  });
  return { text, name: `${name}${spiral ? ' spiral' : ''}`, truth: null, how };
}
