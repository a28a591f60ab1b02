/**
 * A picture of the print as it lies, from the front or the back for towers and from above for flat patterns. Light comes from
 * the side, so that layers, bulges, ringing, sagging strands, threads and shine can be told apart by eye.
 */

import type { Printed } from './print';

export type View = 'front' | 'back' | 'top';

export type PrintPicture = {
  view: View;
  width: number;
  height: number;
  pxPerMm: number;
  /** mm at the left edge (x) and at the lower edge (z from the front, y from above). */
  left: number;
  bottom: number;
  rgba: Uint8ClampedArray<ArrayBuffer>;
};

export type Rgb = readonly [red: number, green: number, blue: number];

/** Filaments as they lie in the workshop; all invented. */
export const FILAMENT_COLOURS: Record<string, Rgb> = {
  moss: [94, 122, 70],
  lantern: [214, 132, 48],
  brine: [86, 116, 138],
  eel: [62, 60, 66],
  quill: [206, 198, 214],
};

/** What a print is laid before so that it stands out: pale paper, or dark slate behind pale filament. */
export const PAPER: Rgb = [233, 229, 220];
export const SLATE: Rgb = [52, 55, 60];
/** Filament lighter than this, 0..255, is lost on paper. */
const PALE = 170;

/** How light a colour looks, 0..255 (Rec. 601 luma). */
const lightness = ([r, g, b]: Rgb): number => 0.299 * r + 0.587 * g + 0.114 * b;

/** The ground against which a filament is seen best. */
export const groundFor = (filament: Rgb): Rgb => (lightness(filament) > PALE ? SLATE : PAPER);

export type PictureOptions = {
  view: View;
  /** mm that are shown. */
  frame: { left: number; right: number; bottom: number; top: number };
  pxPerMm?: number;
  filament?: Rgb;
};

/** Usual sharpness, and the most pixels of one picture. */
export const PX_PER_MM = 20;
const MOST_PIXELS = 6_000_000;

/** Depth, mm, nearest first, and what is seen there; one entry a pixel. */
class Canvas {
  readonly width: number;
  readonly height: number;
  readonly px: number;
  readonly depth: Float32Array;
  readonly shine: Uint8Array;
  readonly dark: Uint8Array;

  constructor(
    readonly frame: PictureOptions['frame'],
    wanted: number,
  ) {
    const [wide, tall] = [frame.right - frame.left, frame.top - frame.bottom];
    this.px = Math.min(wanted, Math.sqrt(MOST_PIXELS / Math.max(1, wide * tall)));
    this.width = Math.max(1, Math.ceil(wide * this.px));
    this.height = Math.max(1, Math.ceil(tall * this.px));
    this.depth = new Float32Array(this.width * this.height).fill(Infinity);
    this.shine = new Uint8Array(this.width * this.height);
    this.dark = new Uint8Array(this.width * this.height);
  }

  column(mm: number): number {
    return (mm - this.frame.left) * this.px;
  }
  row(mm: number): number {
    return this.height - (mm - this.frame.bottom) * this.px;
  }
  put(column: number, row: number, depth: number, shine: number, dark: number): void {
    if (column < 0 || column >= this.width || row < 0 || row >= this.height) return;
    const at = row * this.width + column;
    if (this.depth[at]! <= depth) return;
    this.depth[at] = depth;
    this.shine[at] = shine;
    this.dark[at] = dark;
  }
}

export function drawPrint(printed: Printed, options: PictureOptions): PrintPicture {
  if (options.view === 'back')
    return { ...drawPrint(turned(printed), seenTurned(options)), view: 'back' };
  const { view, frame, pxPerMm = PX_PER_MM } = options;
  const canvas = new Canvas(frame, pxPerMm);
  const splat = view === 'front' ? splatFront : splatTop;
  const { samples } = printed;
  for (let n = 0; n < samples.count; n++) splat(canvas, printed, n);
  const rgba = shade(canvas, options);
  drawThreads(canvas, printed, options, rgba);
  const { width, height, px } = canvas;
  return { view, width, height, pxPerMm: px, left: frame.left, bottom: frame.bottom, rgba };
}

/** The print turned half round, so that its back is in front. */
function turned({ samples, threads, ...rest }: Printed): Printed {
  const away = (all: Float32Array) => all.map((value) => -value);
  const opposite = ({ x, y }: { x: number; y: number }) => ({ x: -x, y: -y });
  return {
    ...rest,
    samples: { ...samples, x: away(samples.x), y: away(samples.y) },
    threads: threads.map((one) => ({ ...one, from: opposite(one.from), to: opposite(one.to) })),
  };
}
const seenTurned = (options: PictureOptions): PictureOptions => {
  const { left, right } = options.frame;
  return { ...options, view: 'front', frame: { ...options.frame, left: -right, right: -left } };
};

/** The sample before, when it belongs to the same stroke: what lies between is drawn as one piece. */
const beforeOf = ({ samples }: Printed, n: number): number =>
  n > 0 && samples.move[n] === samples.move[n - 1] ? n - 1 : n;

/** Even scatter in −½..½ that belongs to a place, not to chance. */
const grain = (n: number): number => ((Math.imul(n, 0x9e3779b1) >>> 8) & 0xffff) / 0xffff - 0.5;
/** A bond under this is seen as a crack along the layer. */
const CRACKS = 0.3;

const byte = (share: number): number => Math.round(255 * Math.min(1, Math.max(0, share)));

/** What a sample adds to every one of its pixels. */
function toneOf({ samples }: Printed, n: number) {
  return {
    shine: byte(samples.shine[n]!),
    dark: byte((CRACKS - samples.bond[n]!) / CRACKS),
    bump: samples.rough[n]! * 0.9 * grain(n),
  };
}

function splatFront(canvas: Canvas, printed: Printed, n: number): void {
  const { samples } = printed;
  const p = beforeOf(printed, n);
  const [half0, half1] = [samples.width[p]! / 2, samples.width[n]! / 2];
  const widest = Math.max(half0, half1);
  if (widest <= 0) return;
  const [x0, x1] = [samples.x[p]!, samples.x[n]!];
  const [y0, y1] = [samples.y[p]!, samples.y[n]!];
  const [low, high] = [Math.min(x0, x1), Math.max(x0, x1)];
  const { shine, dark, bump } = toneOf(printed, n);
  const gap = Math.min(samples.gap[n]!, 2 * widest);
  const middle = samples.z[n]! - gap / 2 - samples.drop[n]!;
  const top = Math.floor(canvas.row(middle + gap / 2));
  const bottom = Math.ceil(canvas.row(middle - gap / 2));
  const from = Math.floor(canvas.column(low - widest));
  const to = Math.ceil(canvas.column(high + widest));
  for (let column = from; column <= to; column++) {
    const x = canvas.frame.left + (column + 0.5) / canvas.px;
    const inside = Math.min(high, Math.max(low, x));
    const away = x - inside;
    const share = x1 === x0 ? 1 : (inside - x0) / (x1 - x0);
    const half = half0 + (half1 - half0) * share;
    if (Math.abs(away) >= half) continue;
    const y = x1 === x0 ? Math.min(y0, y1) : y0 + (y1 - y0) * share;
    const face = y - Math.sqrt(half * half - away * away) + bump;
    for (let row = top; row <= bottom; row++) {
      const up = canvas.frame.bottom + (canvas.height - row - 0.5) / canvas.px - middle;
      const round = 1 - (2 * up) ** 2 / (gap * gap);
      if (round < 0) continue;
      canvas.put(
        column,
        row,
        face + (gap / 2) * (1 - Math.sqrt(round)),
        shine,
        round < 0.5 ? dark : 0,
      );
    }
  }
}

function splatTop(canvas: Canvas, printed: Printed, n: number): void {
  const { samples } = printed;
  const p = beforeOf(printed, n);
  const half = samples.width[n]! / 2;
  if (half <= 0) return;
  const [x0, y0] = [samples.x[p]!, samples.y[p]!];
  const [dx, dy] = [samples.x[n]! - x0, samples.y[n]! - y0];
  const span = dx * dx + dy * dy;
  const { shine, dark, bump } = toneOf(printed, n);
  const gap = samples.gap[n]!;
  // Squeezed plastic stands up beside the nozzle; thin plastic lies lower.
  const crown = samples.z[n]! - samples.drop[n]! + 0.5 * (samples.ratio[n]! - 1) * gap - bump;
  const from = Math.floor(canvas.column(Math.min(x0, x0 + dx) - half));
  const to = Math.ceil(canvas.column(Math.max(x0, x0 + dx) + half));
  const top = Math.floor(canvas.row(Math.max(y0, y0 + dy) + half));
  const bottom = Math.ceil(canvas.row(Math.min(y0, y0 + dy) - half));
  for (let row = top; row <= bottom; row++)
    for (let column = from; column <= to; column++) {
      const x = canvas.frame.left + (column + 0.5) / canvas.px - x0;
      const y = canvas.frame.bottom + (canvas.height - row - 0.5) / canvas.px - y0;
      const t = span > 0 ? Math.min(1, Math.max(0, (x * dx + y * dy) / span)) : 0;
      const away = Math.hypot(x - t * dx, y - t * dy) / half;
      if (away >= 1) continue;
      canvas.put(column, row, -(crown - (gap / 2) * (1 - Math.sqrt(1 - away * away))), shine, dark);
    }
}

/** Slopes are drawn this much steeper than they are: tenths of a millimetre must be seen. */
const RELIEF = 1.6;
/** A step in depth larger than this, mm, is an edge and no slope. */
const EDGE = 1.2;
/** Steeper slopes look no steeper: layer lines must not drown what is between them. */
const STEEP = 0.9;
/** Where light comes from, and how much of it is everywhere; from above it grazes, so that single strokes stand out. */
const LIGHTS: Record<
  'front' | 'top',
  { from: [number, number, number]; ambient: number; direct: number }
> = {
  front: { from: normalized([-0.62, 0.55, 0.56]), ambient: 0.42, direct: 0.72 },
  top: { from: normalized([-0.72, 0.52, 0.42]), ambient: 0.4, direct: 0.95 },
};
/** A stroke on the bed throws a shadow this long, mm, which takes this share of the light. */
const SHADOW = { length: 0.35, takes: 0.3 };

function normalized([x, y, z]: [number, number, number]): [number, number, number] {
  const length = Math.hypot(x, y, z);
  return [x / length, y / length, z / length];
}

function shade(canvas: Canvas, options: PictureOptions): Uint8ClampedArray<ArrayBuffer> {
  const { width, height, px, depth, shine, dark } = canvas;
  const { view, filament = FILAMENT_COLOURS.moss! } = options;
  const { from: sun, ambient, direct } = LIGHTS[view === 'top' ? 'top' : 'front'];
  const back = groundFor(filament);
  const rgba = new Uint8ClampedArray(width * height * 4);
  const reach = view === 'top' ? Math.round(SHADOW.length * px) : 0;
  /** Whether plastic stands between a place on the bed and the light. */
  const shaded = (row: number, column: number): boolean => {
    for (let k = 1; k <= reach; k++) {
      const [r, c] = [row - Math.round(k * sun[1]), column + Math.round(k * sun[0])];
      if (r >= 0 && c >= 0 && depth[r * width + c]! < Infinity) return true;
    }
    return false;
  };
  const slope = (a: number, b: number) => {
    const rise = a - b;
    return Math.abs(rise) < EDGE ? Math.max(-STEEP, Math.min(STEEP, rise * px * RELIEF * 0.5)) : 0;
  };
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const at = row * width + column;
      const d = depth[at]!;
      let colour: Rgb = back;
      let light = 1;
      let gloss = 0;
      if (d < Infinity) {
        const left = column > 0 ? depth[at - 1]! : d;
        const right = column < width - 1 ? depth[at + 1]! : d;
        const above = row > 0 ? depth[at - width]! : d;
        const below = row < height - 1 ? depth[at + width]! : d;
        // Depth falls toward the viewer: the face turns to where it falls.
        const sx = slope(right, left);
        const sy = slope(below, above);
        const length = Math.sqrt(sx * sx + sy * sy + 1);
        const facing = (-sx * -sun[0] - sy * -sun[1] + sun[2]) / length;
        colour = filament;
        light = ambient + direct * Math.max(0, facing);
        light *= 1 - 0.6 * (dark[at]! / 255);
        gloss = (shine[at]! / 255) * Math.max(0, facing) ** 14 * 120;
      } else if (reach > 0 && shaded(row, column)) light = 1 - SHADOW.takes;
      rgba[at * 4] = colour[0] * light + gloss;
      rgba[at * 4 + 1] = colour[1] * light + gloss;
      rgba[at * 4 + 2] = colour[2] * light + gloss;
      rgba[at * 4 + 3] = 255;
    }
  return rgba;
}

/** Threads are thinner than a pixel: they are drawn lighter instead. */
function drawThreads(
  canvas: Canvas,
  { threads }: Printed,
  { view, filament = FILAMENT_COLOURS.moss! }: PictureOptions,
  rgba: Uint8ClampedArray<ArrayBuffer>,
): void {
  const { width, height, px, depth } = canvas;
  const tone = threadTone(filament);
  for (const { from, to, z, thick, length } of threads) {
    if (thick <= 0) continue;
    const alpha = Math.min(0.9, thick * px * 1.4);
    const steps = Math.max(2, Math.ceil(length * px));
    for (let k = 0; k <= steps; k++) {
      const t = k / steps;
      const x = from.x + (to.x - from.x) * t;
      const y = from.y + (to.y - from.y) * t;
      // A slack thread hangs a little.
      const hang = 0.06 * length * t * (1 - t);
      const column = Math.round(canvas.column(x));
      const row = Math.round(canvas.row(view === 'front' ? z - 0.1 - hang : y));
      if (column < 0 || column >= width || row < 0 || row >= height) continue;
      const at = row * width + column;
      if (depth[at]! < (view === 'front' ? y : -z)) continue;
      for (let c = 0; c < 3; c++)
        rgba[at * 4 + c] = rgba[at * 4 + c]! * (1 - alpha) + tone[c]! * alpha;
    }
  }
}

/** A thread lets light through: darker than its filament before paper, lighter before slate. */
const threadTone = (filament: Rgb): number[] =>
  filament.map((part) => (groundFor(filament) === PAPER ? part * 0.55 : part + (255 - part) * 0.5));
