/** Every measure by its name, where it can be taken, and what it is for. */

import type { Criterion } from '../criteria';
import type { Box } from '../bench/bed';
import { bulge, edgeRoughness, gloss, strokeWidth } from './faces';
import { gaps } from './gaps';
import { ghostSpacing } from './ghost-spacing';
import { layerPitch } from './layer-pitch';
import { lineUp } from './line-up';
import { sag } from './sag';
import type { Side, Sight, Spot, Taken } from './sight';
import { threads } from './threads';
import { bulgeAbove } from './turns-above';

export const MEASURES = {
  'layer-pitch': { title: 'Layer pitch', unit: 'mm', of: 'surface' },
  edge: { title: 'Roughness of the edge', unit: 'mm', of: 'surface' },
  gloss: { title: 'Gloss', unit: 'of the face', of: 'gloss' },
  threads: { title: 'Threads', unit: 'threads', of: 'stringing' },
  bulge: { title: 'Corner bulge', unit: 'mm', of: 'corners' },
  width: { title: 'Stroke width', unit: 'mm', of: 'evenness' },
  'ghost-spacing': { title: 'Ghost spacing', unit: 'mm', of: 'ringing' },
  sag: { title: 'Sag', unit: 'mm', of: 'bridging' },
  'line-up': { title: 'Line-up', unit: 'mm', of: 'line-up' },
  gaps: { title: 'Gaps', unit: 'of the patch', of: 'gaps' },
} as const satisfies Record<string, { title: string; unit: string; of: Criterion }>;

export type MeasureName = keyof typeof MEASURES;
export const MEASURE_NAMES = Object.keys(MEASURES) as MeasureName[];

type Take = (sight: Sight, spot: Spot & { own: Box }) => Taken;

const TAKES: Record<MeasureName, Take> = {
  'layer-pitch': layerPitch,
  edge: edgeRoughness,
  gloss,
  threads,
  bulge: (sight, spot) => (sight.side === 'top' ? bulgeAbove : bulge)(sight, spot),
  width: strokeWidth,
  'ghost-spacing': ghostSpacing,
  sag,
  'line-up': (sight, { own }) => lineUp(sight, own),
  gaps,
};

/** From where each measure is taken. */
const FROM: Record<MeasureName, readonly Side[]> = {
  'layer-pitch': ['front', 'back'],
  edge: ['front', 'back'],
  gloss: ['front', 'back', 'top'],
  threads: ['front', 'back', 'top'],
  bulge: ['front', 'back', 'top'],
  width: ['top'],
  'ghost-spacing': ['front', 'back'],
  sag: ['front', 'back'],
  'line-up': ['top'],
  gaps: ['top'],
};

export const canTake = (name: MeasureName, side: Side): boolean => FROM[name].includes(side);

export const take = (name: MeasureName, sight: Sight, spot: Spot & { own: Box }): Taken =>
  TAKES[name](sight, spot);
