/** Input shapers that machines may have, by the names that the trade has for them. */

export const SHAPERS = ['ZV', 'ZVD', 'MZV', 'EI', '2HEI', '3HEI'] as const;
export type Shaper = (typeof SHAPERS)[number];

export const SHAPER_TITLES: Record<Shaper, string> = {
  ZV: 'two impulses',
  ZVD: 'three impulses',
  MZV: 'three impulses, shortened',
  EI: 'one hump',
  '2HEI': 'two humps',
  '3HEI': 'three humps',
};
