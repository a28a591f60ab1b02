/** What is looked at, in one vocabulary for all kinds (domain.md §6). */

import { z } from 'zod';

export const CRITERIA = {
  stringing: { poor: 'threads or blobs between posts', clean: 'open air' },
  corners: {
    poor: 'bulged, or rounded and thin after the turn',
    clean: 'sharp, even width through the turn',
  },
  evenness: { poor: 'thick or thin where the speed changes', clean: 'one width along the stroke' },
  surface: { poor: 'rough, banded, wavy layers', clean: 'even layers, nothing to feel' },
  gloss: {
    poor: 'shine changes from band to band',
    clean: 'one finish, as the filament should look',
  },
  overhang: { poor: 'curled or drooping edge', clean: 'flat, follows the slope' },
  bridging: { poor: 'sagging, loose strands', clean: 'straight, strands joined' },
  'layer adhesion': { poor: 'breaks between layers by hand', clean: 'bends or needs pliers' },
  gaps: { poor: 'light between lines, lines that part when tugged', clean: 'closed' },
  ridges: { poor: 'waves, scraped, rough under the finger', clean: 'smooth' },
  ringing: { poor: 'echoes after a corner', clean: 'none' },
  seam: { poor: 'a ridge or a pit down the corner', clean: 'hardly seen' },
  'line-up': { poor: 'lines of two nozzles apart', clean: 'one line' },
} as const;

export type Criterion = keyof typeof CRITERIA;
export const CRITERION_NAMES = Object.keys(CRITERIA) as [Criterion, ...Criterion[]];

/** What criteria were called before; files and pages of then still say so. */
const BEFORE: Record<string, Criterion> = {
  hairs: 'stringing',
  ghosts: 'ringing',
  bridge: 'bridging',
  snap: 'layer adhesion',
};

/** A criterion by its name of today or of before. */
export const CriterionName = z.preprocess(
  (name) => (typeof name === 'string' && Object.hasOwn(BEFORE, name) ? BEFORE[name] : name),
  z.enum(CRITERION_NAMES),
);

/** A record by criterion in which names of before become those of today; what is no record stays as it is. */
export const withTodaysNames = (data: unknown): unknown =>
  typeof data === 'object' && data !== null && !Array.isArray(data)
    ? Object.fromEntries(
        Object.entries(data).map(([name, value]) => [
          Object.hasOwn(BEFORE, name) ? BEFORE[name] : name,
          value,
        ]),
      )
    : data;
