/** What lies under the layer that is being laid: the plastic of the layer below, island by island. */

import type { Box } from '../bench/bed';
import { boxOf, islands, offset, subtract, union, type Region } from '../shape/region';
import type { Conditions } from './conditions';
import type { Layer } from './layer';
import { Memo, regionKey } from './memo';
import { wallThickness } from './walls';

type Patch = { box: Box; plastic: Region; key: string };

export const boxesMeet = (a: Box, b: Box): boolean =>
  a.minX <= b.maxX && b.minX <= a.maxX && a.minY <= b.maxY && b.minY <= a.maxY;

/** Plastic of one layer. Walls where an island is hollow, all of it where it is filled. */
export class Ground {
  private constructor(
    private readonly patches: Patch[],
    private readonly memo: Memo<Region>,
  ) {}

  static of(
    { parts }: Pick<Layer, 'parts'>,
    { width, pitch }: Pick<Conditions, 'width' | 'pitch'>,
    memo: Memo<Region>,
  ): Ground {
    const patches = parts.flatMap(({ outline, walls, solid }) => {
      const thick = wallThickness(walls, width, pitch);
      return islands(outline).map((island): Patch => {
        const box = boxOf(island);
        const filled = solid.filter((ring) => boxesMeet(box, boxOf([ring])));
        const key = `${thick}|${regionKey(island)}|${regionKey(filled)}`;
        const plastic = memo.get(key, () => {
          const hollow = subtract(offset(island, -thick), filled);
          return hollow.length === 0 ? island : subtract(island, hollow);
        });
        return { box, plastic, key };
      });
    });
    return new Ground(patches, memo);
  }

  /** The plastic that an island may rest on. */
  under(island: Region): { plastic: Region; key: string } {
    const box = boxOf(island);
    const near = this.patches.filter((patch) => boxesMeet(patch.box, box));
    const key = near.map((patch) => patch.key).join('&');
    const plastic = this.memo.get(`under ${key}`, () => {
      const regions = near.map((patch) => patch.plastic);
      return regions.length === 1 ? regions[0]! : regions.length === 0 ? [] : union(...regions);
    });
    return { plastic, key };
  }
}
