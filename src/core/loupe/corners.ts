/**
 * Corners of a print, found by themselves where its outline is clear: offered, never assumed. The outline in the photo
 * and the outline that the plan expects are brought to four corners in the same way, so that a form that is no
 * rectangle does no harm; then they are moved until plastic lies where it should.
 */

import type { Box, Point } from '../bench/bed';
import { beadWidthOf } from '../deposit/conditions';
import { printBox } from '../gcode/print-box';
import type { Trace } from '../gcode/trace';
import { quantile } from '../numbers';
import type { Plan } from '../plan/plan';
import { drawElevation } from '../view/elevation';
import { boxOf, laidAbove } from './expected';
import { homographyTo, project, turnsRound, unproject, type Homography } from './homography';
import { leastSquares, Pairs } from './fitting';
import type { Corners, Pixels } from './pixels';
import type { Side } from './sight';

/** Longest side of the picture that is looked at, pixels. */
const SMALL = 260;
/** The print must fill at least this share of the picture, and at most this. */
const [LEAST, MOST] = [0.03, 0.92];
/** How alike what is seen and what is expected must be (correlation) for corners to be offered. */
const ALIKE = 0.8;
/** Least contrast between print and ground, 0..255. */
const LEAST_CONTRAST = 22;

/** A picture of plastic, 0..1, row 0 at the top. */
type Mask = { width: number; height: number; share: Float32Array };

/** @returns corners of the print's box in the photo, or null where they are not clear */
export function findCorners(
  photo: Pixels,
  plan: Plan,
  side: Side,
  trace: Trace | null,
): Corners | null {
  if (!trace) return null;
  const shrink = Math.max(1, Math.max(photo.width, photo.height) / SMALL);
  const seen = seenMask(photo, shrink);
  if (!seen) return null;
  const quad = quadOf(seen);
  if (!quad) return null;
  let best: { corners: Corners; score: number } | null = null;
  for (const expected of expectedMasks(trace, plan, side)) {
    const own = quadOf(expected.mask);
    if (!own) continue;
    // From the unit square of the expected picture to the photo, by their four corners.
    const map = between(own, quad, expected.mask);
    if (!map) continue;
    const start = (
      [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ] as const
    ).map(([u, v]) => project(map, u, v)) as Corners;
    const moved = closer(start, seen, expected.mask);
    if (best && moved.score <= best.score) continue;
    // From the corners of what was expected to those of the print's box.
    const whole = homographyTo(moved.corners);
    if (!whole) continue;
    const box = boxOf(plan, side);
    const { minX, minY, maxX, maxY } = expected.box;
    const at = (x: number, y: number): Point => {
      const { x: px, y: py } = project(
        whole,
        (x - minX) / (maxX - minX),
        (y - minY) / (maxY - minY),
      );
      return { x: px * shrink, y: py * shrink };
    };
    best = {
      score: moved.score,
      corners: [
        at(box.minX, box.minY),
        at(box.maxX, box.minY),
        at(box.maxX, box.maxY),
        at(box.minX, box.maxY),
      ],
    };
  }
  return best && best.score >= ALIKE && turnsRound(best.corners) === 'convex' ? best.corners : null;
}

/** Plastic in the photo, made small: what differs from the ground that is seen along the picture's rim. */
function seenMask({ width, height, rgb }: Pixels, shrink: number): Mask | null {
  const [w, h] = [Math.floor(width / shrink), Math.floor(height / shrink)];
  const small = new Float32Array(w * h * 3);
  for (let r = 0; r < h; r++)
    for (let c = 0; c < w; c++) {
      const [x0, x1] = [
        Math.floor(c * shrink),
        Math.max(Math.floor(c * shrink) + 1, Math.floor((c + 1) * shrink)),
      ];
      const [y0, y1] = [
        Math.floor(r * shrink),
        Math.max(Math.floor(r * shrink) + 1, Math.floor((r + 1) * shrink)),
      ];
      const stride = Math.max(1, Math.floor((x1 - x0) / 4));
      let [sr, sg, sb, n] = [0, 0, 0, 0];
      for (let y = y0; y < y1; y += stride)
        for (let x = x0; x < x1; x += stride, n++) {
          const at = (y * width + x) * 3;
          sr += rgb[at]!;
          sg += rgb[at + 1]!;
          sb += rgb[at + 2]!;
        }
      const to = (r * w + c) * 3;
      small[to] = sr / n;
      small[to + 1] = sg / n;
      small[to + 2] = sb / n;
    }
  const ground = groundOf(small, w, h);
  if (!ground) return null;
  const far = new Float32Array(w * h);
  for (let i = 0; i < far.length; i++) {
    const [x, y] = [(i % w) / w - 0.5, Math.floor(i / w) / h - 0.5];
    let square = 0;
    for (let part = 0; part < 3; part++) {
      const [a, b, c] = ground[part]!;
      square += (small[i * 3 + part]! - a! - b! * x - c! * y) ** 2;
    }
    far[i] = Math.sqrt(square);
  }
  const high = quantile(far, 0.97);
  const limit = parting(far, high);
  if (limit < LEAST_CONTRAST / 2) return null;
  const share = far.map((value) => Math.max(0, Math.min(1, 0.5 + (value - limit) / limit)));
  const kept = largest({ width: w, height: h, share });
  const fills = kept.reduce((sum, value) => sum + (value > 0.5 ? 1 : 0), 0) / kept.length;
  return fills > LEAST && fills < MOST ? { width: w, height: h, share: kept } : null;
}

/** A plane for each colour through what is seen along the rim; null where the rim is no one ground. */
function groundOf(small: Float32Array, w: number, h: number): number[][] | null {
  const rim: number[] = [];
  const deep = Math.max(2, Math.round(0.03 * Math.min(w, h)));
  for (let r = 0; r < h; r++)
    for (let c = 0; c < w; c++)
      // A print may stand on the picture's lower edge.
      if (c < deep || c >= w - deep || r < deep) rim.push(r * w + c);
  const planes: number[][] = [];
  for (let part = 0; part < 3; part++) {
    let kept = rim;
    let plane = [
      quantile(
        rim.map((i) => small[i * 3 + part]!),
        0.5,
      ),
      0,
      0,
    ];
    for (let round = 0; round < 4; round++) {
      const x = kept.map((i) => (i % w) / w - 0.5);
      const y = kept.map((i) => Math.floor(i / w) / h - 0.5);
      const fit = leastSquares(
        [x.map(() => 1), x, y],
        kept.map((i) => small[i * 3 + part]!),
      );
      if (round > 0 && fit) plane = fit.p;
      const off = (i: number) =>
        Math.abs(
          small[i * 3 + part]! -
            plane[0]! -
            plane[1]! * ((i % w) / w - 0.5) -
            plane[2]! * (Math.floor(i / w) / h - 0.5),
        );
      const limit = Math.max(8, 3 * quantile(kept.map(off), 0.6));
      kept = rim.filter((i) => off(i) <= limit);
      if (kept.length < 0.4 * rim.length) return null;
    }
    planes.push(plane);
  }
  return planes;
}

/** The value that parts two heaps best (N. Otsu, IEEE Trans. SMC 9, 1979). */
function parting(values: Float32Array, high: number): number {
  const bins = 64;
  const counts = new Float64Array(bins);
  for (const value of values) counts[Math.min(bins - 1, Math.floor((value / high) * bins))]!++;
  const total = values.length;
  const all = counts.reduce((sum, n, i) => sum + n * i, 0);
  let [below, sum, best, at] = [0, 0, -1, 0];
  for (let i = 0; i < bins - 1; i++) {
    below += counts[i]!;
    sum += counts[i]! * i;
    if (below === 0 || below === total) continue;
    const apart = (sum / below - (all - sum) / (total - below)) ** 2 * below * (total - below);
    if (apart > best) [best, at] = [apart, i];
  }
  return ((at + 1) / bins) * high;
}

/** Only pieces that are large beside the largest: crumbs and shadows at the rim are no print. */
function largest({ width, height, share }: Mask): Float32Array {
  const label = new Int32Array(width * height).fill(-1);
  const sizes: number[] = [];
  const stack: number[] = [];
  for (let start = 0; start < label.length; start++) {
    if (label[start] !== -1 || share[start]! <= 0.5) continue;
    const name = sizes.length;
    let size = 0;
    stack.push(start);
    label[start] = name;
    while (stack.length > 0) {
      const i = stack.pop()!;
      size++;
      const c = i % width;
      for (const [next, inside] of [
        [i - 1, c > 0],
        [i + 1, c < width - 1],
        [i - width, i >= width],
        [i + width, i < label.length - width],
      ] as const)
        if (inside && label[next] === -1 && share[next]! > 0.5) {
          label[next] = name;
          stack.push(next);
        }
    }
    sizes.push(size);
  }
  const most = sizes.reduce((a, b) => Math.max(a, b), 0);
  return share.map((value, i) => {
    const name = label[i]!;
    // The soft rim of a kept piece stays.
    if (name === -1) return value;
    return sizes[name]! >= 0.01 * most ? value : 0;
  });
}

/** The four corners of a form: its hull, whose sides are taken away, the least first, until four are left. */
function quadOf({ width, height, share }: Mask): Corners | null {
  const points: Point[] = [];
  for (let r = 0; r < height; r++) {
    let [first, last] = [-1, -1];
    for (let c = 0; c < width; c++)
      if (share[r * width + c]! > 0.5) {
        if (first < 0) first = c;
        last = c;
      }
    if (first >= 0)
      points.push(
        { x: first, y: r },
        { x: last + 1, y: r },
        { x: first, y: r + 1 },
        { x: last + 1, y: r + 1 },
      );
  }
  let ring = hullOf(points);
  if (ring.length < 4) return null;
  while (ring.length > 4) {
    // Taking away a side and lengthening its neighbours adds a triangle: the smallest goes.
    let least: { i: number; at: Point; area: number } | null = null;
    ring.forEach((b, i) => {
      const n = ring.length;
      const [a, c, d] = [ring[(i + n - 1) % n]!, ring[(i + 1) % n]!, ring[(i + 2) % n]!];
      const at = crossing(a, b, d, c);
      if (!at) return;
      const area = Math.abs((at.x - b.x) * (c.y - b.y) - (at.y - b.y) * (c.x - b.x)) / 2;
      if (!least || area < least.area) least = { i, at, area };
    });
    const found = least as { i: number; at: Point; area: number } | null;
    if (!found) return null;
    const next = (found.i + 1) % ring.length;
    ring = ring.map((one, i) => (i === found.i ? found.at : one)).filter((_, i) => i !== next);
  }
  return inOrder(ring);
}

/** Where the line from a over b meets the line from d over c, beyond both; null where it does not. */
function crossing(a: Point, b: Point, d: Point, c: Point): Point | null {
  const [ux, uy, vx, vy] = [b.x - a.x, b.y - a.y, c.x - d.x, c.y - d.y];
  const det = ux * vy - uy * vx;
  if (Math.abs(det) < 1e-9) return null;
  const t = ((d.x - a.x) * vy - (d.y - a.y) * vx) / det;
  const s = ((d.x - a.x) * uy - (d.y - a.y) * ux) / det;
  return t >= 1 && s >= 1 ? { x: a.x + t * ux, y: a.y + t * uy } : null;
}

/** Convex hull (A. Andrew, Inf. Proc. Lett. 9, 1979). */
function hullOf(points: Point[]): Point[] {
  const sorted = [...points].sort((a, b) => a.x - b.x || a.y - b.y);
  const half = (list: readonly Point[]) => {
    const chain: Point[] = [];
    for (const p of list) {
      while (chain.length >= 2) {
        const [a, b] = [chain.at(-2)!, chain.at(-1)!];
        if ((b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x) > 0) break;
        chain.pop();
      }
      chain.push(p);
    }
    return chain.slice(0, -1);
  };
  return [...half(sorted), ...half([...sorted].reverse())];
}

/** Lower left, lower right, upper right, upper left, as the picture stands. */
function inOrder(ring: readonly Point[]): Corners {
  const middle = {
    x: ring.reduce((sum, { x }) => sum + x, 0) / 4,
    y: ring.reduce((sum, { y }) => sum + y, 0) / 4,
  };
  const turned = [...ring].sort(
    (a, b) =>
      Math.atan2(b.y - middle.y, b.x - middle.x) - Math.atan2(a.y - middle.y, a.x - middle.x),
  );
  // The one that lies furthest to the lower left comes first.
  const first = turned.reduce(
    (best, { x, y }, i) => (y - x > turned[best]!.y - turned[best]!.x ? i : best),
    0,
  );
  return [0, 1, 2, 3].map((i) => turned[(first + i) % 4]!) as Corners;
}

/** The map from the unit square of an expected picture to the photo, by four corners that both have. */
function between(own: Corners, seen: Corners, { width, height }: Mask): Homography | null {
  const unit = own.map(({ x, y }) => ({ x: x / width, y: 1 - y / height })) as Corners;
  const from = homographyTo(unit);
  const to = homographyTo(seen);
  if (!from || !to) return null;
  const whole = (
    [
      [0, 0],
      [1, 0],
      [1, 1],
      [0, 1],
    ] as const
  ).map(([u, v]) => {
    const place = unproject(from, { x: u, y: v });
    return project(to, place.x, place.y);
  }) as Corners;
  return homographyTo(whole);
}

/** Moves each corner while what is seen and what is expected come closer. */
function closer(start: Corners, seen: Mask, expected: Mask): { corners: Corners; score: number } {
  let corners = start;
  let score = alike(corners, seen, expected);
  for (let step = 4; step > 0.08; step /= 2)
    for (let again = true, rounds = 0; again && rounds < 6; rounds++) {
      again = false;
      for (let i = 0; i < 4; i++)
        for (const [dx, dy] of [
          [step, 0],
          [-step, 0],
          [0, step],
          [0, -step],
        ] as const) {
          const next = corners.map((one, k) =>
            k === i ? { x: one.x + dx, y: one.y + dy } : one,
          ) as Corners;
          const now = alike(next, seen, expected);
          if (now > score + 1e-6) {
            [corners, score, again] = [next, now, true];
          }
        }
    }
  return { corners, score };
}

/** Correlation of what is seen with what is expected there, −1..1. */
function alike(corners: Corners, seen: Mask, expected: Mask): number {
  const map = homographyTo(corners);
  if (!map || turnsRound(corners) !== 'convex') return -1;
  const pairs = new Pairs();
  const { width, height, share } = seen;
  for (let r = 0, i = 0; r < height; r++)
    for (let c = 0; c < width; c++, i++) {
      const { x, y } = unproject(map, { x: c + 0.5, y: r + 0.5 });
      const inside = x >= 0 && x < 1 && y >= 0 && y < 1;
      pairs.add(share[i]!, inside ? sampled(expected, x, y) : 0);
    }
  return pairs.correlation();
}

function sampled({ width, height, share }: Mask, u: number, v: number): number {
  const x = Math.max(0, Math.min(width - 1.001, u * width - 0.5));
  const y = Math.max(0, Math.min(height - 1.001, (1 - v) * height - 0.5));
  const [c, r] = [Math.floor(x), Math.floor(y)];
  const [fx, fy] = [x - c, y - r];
  const i = r * width + c;
  const top = share[i]! * (1 - fx) + share[i + 1]! * fx;
  const low = share[i + width]! * (1 - fx) + share[i + width + 1]! * fx;
  return top * (1 - fy) + low * fy;
}

/** What is seen of a print: all that is laid, or from the side what stands higher than its first layer. */
function expectedMasks(trace: Trace, plan: Plan, side: Side): { mask: Mask; box: Box }[] {
  if (side === 'top') {
    const { columns, rows, laid, box } = laidAbove(trace, plan);
    const share = new Float32Array(columns * rows);
    for (let r = 0; r < rows; r++)
      for (let c = 0; c < columns; c++)
        share[(rows - 1 - r) * columns + c] = laid[r * columns + c]!;
    return [{ mask: { width: columns, height: rows, share }, box }];
  }
  const inner = printBox(trace, plan.rungs[0]!.z.from / 2);
  if (!inner) return [];
  const bead = beadWidthOf(plan.bench.nozzle.diameter);
  const frame = { minX: inner.minX - bead / 2, maxX: inner.maxX + bead / 2, height: plan.height };
  const drawn = drawElevation(trace, frame, plan.layerHeight, bead, () => NaN, 6);
  const { width, height, depth } = drawn;
  const share = Float32Array.from(depth, (y) => (Number.isNaN(y) ? 0 : 1));
  if (side === 'back')
    for (let r = 0; r < height; r++) share.subarray(r * width, (r + 1) * width).reverse();
  // What is expected is as wide as the print's own box, whose width the plan says.
  const box = boxOf(plan, side);
  return [{ mask: { width, height, share }, box }];
}
