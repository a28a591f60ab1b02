/** What is looked at, in one vocabulary for all kinds (domain.md §6). */

export const CRITERIA = {
  hairs: { poor: 'threads or blobs between posts', clean: 'open air' },
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
  bridge: { poor: 'sagging, loose strands', clean: 'straight, strands joined' },
  snap: { poor: 'breaks between layers by hand', clean: 'bends or needs pliers' },
  gaps: { poor: 'light between lines, lines that part when tugged', clean: 'closed' },
  ridges: { poor: 'waves, scraped, rough under the finger', clean: 'smooth' },
  ghosts: { poor: 'echoes after a corner', clean: 'none' },
  seam: { poor: 'a ridge or a pit down the corner', clean: 'hardly seen' },
  'line-up': { poor: 'lines of two nozzles apart', clean: 'one line' },
} as const;

export type Criterion = keyof typeof CRITERIA;
export const CRITERION_NAMES = Object.keys(CRITERIA) as [Criterion, ...Criterion[]];
