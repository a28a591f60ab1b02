import { seeded } from '../random';
import { homographyTo, project, turnsRound, unproject } from './homography';
import { bulged, flattened, lensOf } from './lens';
import type { Corners } from './pixels';
import { placeAt, poseOf, seenAt } from './straighten';

/** A rectangle as a hand would hold a camera over it: shifted, turned and seen at a slant. */
function anyCorners(seed: number): Corners {
  const random = seeded(seed);
  const off = () => (random() - 0.5) * 160;
  return [
    { x: 200 + off(), y: 900 + off() },
    { x: 1000 + off(), y: 900 + off() },
    { x: 1000 + off(), y: 200 + off() },
    { x: 200 + off(), y: 200 + off() },
  ];
}

describe('a homography', () => {
  test('takes the corners of the square to the corners in the picture, and back', () => {
    for (let seed = 1; seed <= 50; seed++) {
      const corners = anyCorners(seed);
      const map = homographyTo(corners)!;
      const square = [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ] as const;
      square.forEach(([u, v], i) => {
        const { x, y } = project(map, u, v);
        expect(x).toBeCloseTo(corners[i]!.x, 6);
        expect(y).toBeCloseTo(corners[i]!.y, 6);
      });
      const random = seeded(seed);
      const [u, v] = [random() * 1.2 - 0.1, random() * 1.2 - 0.1];
      const back = unproject(map, project(map, u, v));
      expect(back.x).toBeCloseTo(u, 9);
      expect(back.y).toBeCloseTo(v, 9);
    }
  });

  test('keeps lines straight', () => {
    const map = homographyTo(anyCorners(3))!;
    const [a, b, c] = [0.1, 0.4, 0.9].map((t) => project(map, t, 0.2 + 0.5 * t));
    expect((b!.x - a!.x) * (c!.y - a!.y)).toBeCloseTo((b!.y - a!.y) * (c!.x - a!.x), 4);
  });

  test('is refused for corners on a line, and tells which way round they run', () => {
    const [a, b, c, d] = anyCorners(1);
    expect(homographyTo([a, b, { x: 2 * b.x - a.x, y: 2 * b.y - a.y }, b])).toBeNull();
    expect(turnsRound([a, b, c, d])).toBe('convex');
    expect(turnsRound([b, a, d, c])).toBe('mirrored');
    expect(turnsRound([a, c, b, d])).toBe('crossed');
  });
});

test('a lens and its inverse, and a place of the print and its pixel, undo each other', () => {
  for (const k of [-0.12, -0.03, 0, 0.05, 0.12]) {
    const lens = lensOf({ width: 1200, height: 1000 }, k);
    const seen = { x: 150, y: 930 };
    const back = bulged(lens, flattened(lens, seen));
    expect(back.x).toBeCloseTo(seen.x, 4);
    expect(back.y).toBeCloseTo(seen.y, 4);
    const box = { minX: 10, minY: 0, maxX: 55, maxY: 34 };
    const pose = poseOf({ width: 1200, height: 1000 }, anyCorners(7), box, k)!;
    const place = placeAt(pose, seenAt(pose, { x: 22, y: 13 }));
    expect(place.x).toBeCloseTo(22, 4);
    expect(place.y).toBeCloseTo(13, 4);
  }
});
