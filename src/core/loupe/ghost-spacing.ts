/**
 * Spacing of echoes after a corner, and how they die away: a swing that fades is fitted to the light along the face
 * (domain.md §4, §12). With the speed at which the face was laid it gives the frequency.
 */

import { clamp } from '../numbers';
import { cannotTell, EIGHT_OF_TEN, type Sight, type Spot, type Taken } from './sight';
import { columnOf, rowOf } from './straighten';

/** What lies nearer to a corner is its bulge, mm. */
const FROM = 1.2;
/** While the head still gains speed the stroke is wider: echoes are looked for after so many times that way. */
const SETTLED = 1.4;
/** Ways, mm, over which it is fitted: echoes of a stiff machine have faded long before those of a soft one. */
const OVER = [7, 14, 30];
/** Spacings that are looked for, mm: 100 mm/s and 20 to 130 Hz, with room. */
const [NARROWEST, WIDEST] = [0.5, 14];
const SPACINGS = 90;
/** A line along the face must hold so many of them: fewer are no more than a bend. */
const FEWEST_GAPS = 2.4;
/** Ways, mm, after which an echo has faded to a third. */
const FADES = [1.5, 3, 6, 12, 24];
/** Samples a millimetre of the line along the face. */
const FINENESS = 8;
/**
 * A swing must explain this share of what is there, and be this much stronger than chance. Before the speed is reached
 * the stroke's own swelling looks like a swing: there it must be much stronger.
 */
const [LEAST_SHARE, LEAST_F, LEAST_SOON] = [0.12, 20, 60];

type Fit = { spacing: number; fade: number; left: number; all: number; p: number; q: number };
type Face = { x: Float64Array; y: Float64Array };

export function ghostSpacing(sight: Sight, spot: Spot): Taken {
  const { box } = spot;
  const { plan, scaleError } = sight;
  const line = lineAlong(sight, box);
  const speed = faceSpeed(plan.spec, plan.bench.machine.speeds.print);
  const ramp = plan.rungs[spot.rung]?.set.acceleration;
  const ramped = ramp === undefined ? 0 : speed ** 2 / (2 * ramp);
  const settled = Math.max(FROM, SETTLED * ramped);
  // Which way the head went is not known to a picture: the side whose swing explains more is the corner.
  const fits = [line, reversed(line)].flatMap((face) =>
    OVER.flatMap((over) => {
      // Speed climbs after a corner: echoes stand closer there than where the face's speed is reached.
      const near = afterCorner(face, over, FROM);
      const [plain, climbing] = [near, { ...near, x: wayAtSpeed(near.x, speed, ramp ?? Infinity) }];
      const soon = ramped > 0 ? [plain, climbing] : [plain];
      return [
        ...soon.map((one) => ({ face: one, least: settled > FROM ? LEAST_SOON : LEAST_F })),
        ...(settled > FROM ? [{ face: afterCorner(face, over, settled), least: LEAST_F }] : []),
      ];
    }),
  );
  const found = fits.flatMap(({ face, least }) => {
    const fit = strengthOf(face);
    return fit ? [{ ...fit, least }] : [];
  });
  if (found.length === 0) return cannotTell(box, TOO_SHORT);
  // Of those that stand out, the one that is surest; of others, none.
  const clear = found.filter(
    ({ fit, share, strength, least }) =>
      share >= LEAST_SHARE &&
      strength >= least &&
      fit.fade >= LEAST_FADE * fit.spacing &&
      fit.fade <= MOST_FADE * fit.spacing,
  );
  const at = {
    ...box,
    minX: box.minX + FROM,
    maxX: Math.min(box.maxX, box.minX + FROM + OVER[1]!),
  };
  if (clear.length === 0) return cannotTell(at, UNSEEN);
  const { fit, deviation, strength } = clear.reduce((a, b) =>
    b.deviation / b.fit.spacing < a.deviation / a.fit.spacing ? b : a,
  );
  const off = Math.hypot(SURE * deviation, scaleError * fit.spacing, FLOOR * fit.spacing);
  if (!(off < MOST_OFF * fit.spacing)) return cannotTell(at, UNSEEN);
  return {
    value: fit.spacing,
    spread: EIGHT_OF_TEN * off,
    told: true,
    at,
    also: { hz: speed / fit.spacing, fade: fit.fade, speed, strength },
  };
}

const UNSEEN = 'No echoes stand out: let light graze along the face, from the side.';
const TOO_SHORT = 'The face is too short for echoes to be measured.';
/** What a fit of a fading swing to a swing that fades otherwise is off at the least, as a share. */
const FLOOR = 0.0015;
/** A spacing that is less sure than this is none, as a share. */
const MOST_OFF = 0.04;
/** What fades in less than this of its spacing is no echo, nor is what hardly fades: teeth of a belt leave such marks. */
const [LEAST_FADE, MOST_FADE] = [0.6, 16];
/** Scatter of fits to made-up faces, over what their curvature says. */
const SURE = 0.5;

const faceSpeed = ({ speed }: Record<string, unknown>, usual: number): number =>
  typeof speed === 'number' ? speed : usual;

/** Way that would have been gone at full speed in the time that it took to come to x from a standstill. */
const wayAtSpeed = (x: Float64Array, speed: number, acceleration: number): Float64Array => {
  const ramp = speed ** 2 / (2 * acceleration);
  return x.map((way) => (way < ramp ? speed * Math.sqrt((2 * way) / acceleration) : way + ramp));
};

/** Lightness along a band, the mean of its height. */
function lineAlong({ flat, grey }: Sight, { minX, maxX, minY, maxY }: Spot['box']): Face {
  const { width, pxPerMm } = flat;
  const inset = 0.12 * (maxY - minY);
  const top = Math.round(rowOf(flat, maxY - inset));
  const end = Math.max(top + 1, Math.round(rowOf(flat, minY + inset)));
  const count = Math.max(1, Math.floor((maxX - minX) * FINENESS));
  const x = Float64Array.from({ length: count }, (_, i) => (i + 0.5) / FINENESS);
  const y = new Float64Array(count);
  const sums = new Float64Array(width);
  for (let row = top; row < end; row++)
    for (let column = 0, i = row * width; column < width; column++, i++) sums[column]! += grey[i]!;
  for (let i = 0; i < count; i++) {
    const from = columnOf(flat, minX + i / FINENESS);
    const to = from + pxPerMm / FINENESS;
    let [sum, n] = [0, 0];
    for (let c = Math.floor(from); c <= Math.floor(to) && c < width; c++) {
      const part = Math.min(c + 1, to) - Math.max(c, from);
      sum += sums[Math.max(0, c)]! * part;
      n += part;
    }
    y[i] = sum / n / (end - top);
  }
  return { x, y };
}

const reversed = ({ x, y }: Face): Face => ({ x, y: y.slice().reverse() });

function afterCorner({ x, y }: Face, over: number, start: number): Face {
  const from = x.findIndex((way) => way >= start);
  const last = x.at(-1)! - start;
  const to = x.findIndex((way) => way > Math.min(start + over, last));
  return { x: x.slice(from, to < 0 ? undefined : to), y: y.slice(from, to < 0 ? undefined : to) };
}

/** A face whose slow bend has been taken out, with what a swing must be freed of in the same way. */
type Bent = {
  x: Float64Array;
  rest: Float64Array;
  /** Slow bends, each of length 1 and at right angles to the others. */
  bends: Float64Array[];
  all: number;
};

function bentOf({ x, y }: Face): Bent {
  const [first, span] = [x[0]!, x.at(-1)! - x[0]!];
  const bends: Float64Array[] = [];
  for (let power = 0; power < BENDS; power++) {
    const one = x.map((way) => ((way - first) / span - 0.5) ** power);
    for (const bend of bends) takeOut(one, bend);
    const size = Math.sqrt(dot(one, one));
    bends.push(one.map((value) => value / size));
  }
  const rest = y.slice();
  for (const bend of bends) takeOut(rest, bend);
  return { x, rest, bends, all: dot(rest, rest) };
}
/** Light along a face bends like a polynomial of so many terms. */
const BENDS = 4;

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

function takeOut(line: Float64Array, bend: Float64Array): void {
  const times = dot(line, bend);
  for (let i = 0; i < line.length; i++) line[i]! -= times * bend[i]!;
}

/** How a swing fades along a face, and how it turns. */
const fadingOf = ({ x }: Bent, fade: number): Float64Array =>
  x.map((way) => Math.exp((x[0]! - way) / fade));
const turningOf = ({ x }: Bent, spacing: number) => ({
  cos: x.map((way) => Math.cos((2 * Math.PI * way) / spacing)),
  sin: x.map((way) => Math.sin((2 * Math.PI * way) / spacing)),
});

const leftBeside = (face: Bent, spacing: number, fade: number) =>
  leftOf(face, turningOf(face, spacing), fadingOf(face, fade));

/** A swing that turns and fades so: how much of a face is left beside it, and its two sizes. */
function leftOf(
  { x, rest, bends, all }: Bent,
  { cos, sin }: ReturnType<typeof turningOf>,
  fading: Float64Array,
) {
  const [b0, b1, b2, b3] = bends as [Float64Array, Float64Array, Float64Array, Float64Array];
  let [cc, ss, cs, cy, sy] = [0, 0, 0, 0, 0];
  let [c0, c1, c2, c3, s0, s1, s2, s3] = [0, 0, 0, 0, 0, 0, 0, 0];
  // One pass for all products: this runs thousands of times a rung.
  for (let i = 0; i < x.length; i++) {
    const size = fading[i]!;
    const c = size * cos[i]!;
    const s = size * sin[i]!;
    cc += c * c;
    ss += s * s;
    cs += c * s;
    cy += c * rest[i]!;
    sy += s * rest[i]!;
    c0 += c * b0[i]!;
    c1 += c * b1[i]!;
    c2 += c * b2[i]!;
    c3 += c * b3[i]!;
    s0 += s * b0[i]!;
    s1 += s * b1[i]!;
    s2 += s * b2[i]!;
    s3 += s * b3[i]!;
  }
  const a = cc - c0 * c0 - c1 * c1 - c2 * c2 - c3 * c3;
  const b = ss - s0 * s0 - s1 * s1 - s2 * s2 - s3 * s3;
  const m = cs - c0 * s0 - c1 * s1 - c2 * s2 - c3 * s3;
  const det = a * b - m * m;
  if (!(det > 1e-12)) return null;
  const p = (cy * b - sy * m) / det;
  const q = (sy * a - cy * m) / det;
  return { left: Math.max(0, all - p * cy - q * sy), p, q };
}

/** Share of the samples that tell something of their own: what is left beside a fit is alike from one to the next. */
function independence({ x, rest, bends }: Bent, { spacing, fade, p, q }: Fit): number {
  const first = x[0]!;
  const swing = x.map((way) => {
    const turn = (2 * Math.PI * way) / spacing;
    return Math.exp((first - way) / fade) * (p * Math.cos(turn) + q * Math.sin(turn));
  });
  for (const bend of bends) takeOut(swing, bend);
  let [square, next, before] = [0, 0, 0];
  rest.forEach((value, i) => {
    const left = value - swing[i]!;
    square += left * left;
    if (i > 0) next += left * before;
    before = left;
  });
  const alike = clamp(square > 0 ? next / square : 0, 0, 0.98);
  return (1 - alike) / (1 + alike);
}

function bestFit(face: Bent): Fit | null {
  const { x, all } = face;
  if (!(all > 0)) return null;
  const widest = Math.min(WIDEST, (x.at(-1)! - x[0]!) / FEWEST_GAPS);
  let best: Fit | null = null;
  const look = (spacing: number, fade: number, found: ReturnType<typeof leftBeside>) => {
    if (found && (!best || found.left < best.left)) best = { spacing, fade, all, ...found };
  };
  // What many share is worked out once: this is most of the work that a photo of a tower makes.
  const fadings = FADES.map((fade) => fadingOf(face, fade));
  for (let i = 0; i < SPACINGS; i++) {
    const spacing = NARROWEST * (widest / NARROWEST) ** (i / (SPACINGS - 1));
    const turning = turningOf(face, spacing);
    FADES.forEach((fade, k) => look(spacing, fade, leftOf(face, turning, fadings[k]!)));
  }
  if (!best) return null;
  // Closer and closer around the best.
  let [wide, far] = [(widest / NARROWEST) ** (1 / (SPACINGS - 1)), 1.6];
  for (let round = 0; round < 7; round++) {
    const { spacing, fade } = best as Fit;
    const near = [-1, 0, 1].map((b) => clamp(fade * far ** b, 0.4, 60));
    const nearFadings = near.map((one) => fadingOf(face, one));
    for (const a of [-1, -0.5, 0, 0.5, 1]) {
      const one = spacing * wide ** a;
      const turning = turningOf(face, one);
      near.forEach((fades, k) => look(one, fades, leftOf(face, turning, nearFadings[k]!)));
    }
    wide = wide ** 0.55;
    far = far ** 0.6;
  }
  return best;
}

/** The best swing of a face, how much stronger it is than chance, and how far its spacing may be off. */
function strengthOf(line: Face) {
  if (line.x.length < 4 * FINENESS) return null;
  const face = bentOf(line);
  const fit = bestFit(face);
  if (!fit) return null;
  const freedom = Math.max(4, face.x.length * independence(face, fit) - 8);
  // Curvature of what is left tells how far the spacing may be off.
  const step = 0.01 * fit.spacing;
  const near = (spacing: number) => leftBeside(face, spacing, fit.fade)?.left ?? Infinity;
  const bend = (near(fit.spacing - step) + near(fit.spacing + step) - 2 * fit.left) / step ** 2;
  return {
    fit,
    share: 1 - fit.left / fit.all,
    strength: (fit.all - fit.left) / 4 / (fit.left / freedom),
    deviation: bend > 0 ? Math.sqrt((2 * fit.left) / freedom / bend) : Infinity,
  };
}
