/** What one measure says of all rungs, in a sentence: which one is best, and by how much. */

import { mean, short } from '../numbers';
import { capital } from '../text';
import type { MeasureKept } from './kept';
import { MEASURES, type MeasureName } from './measures';

export type Headline = {
  /** Best rung, or null where a measure has none. */
  rung: number | null;
  text: string;
};

/** How a measure tells the better of two rungs: the smaller is better. */
const WORSE: Partial<Record<MeasureName, (one: MeasureKept, asked: number) => number>> = {
  'layer-pitch': ({ value }, asked) => Math.abs(value! - asked),
  edge: ({ value }) => value!,
  threads: ({ value }) => value!,
  bulge: ({ value }) => Math.abs(value!),
  width: ({ also }) => also?.evenness ?? 0,
  sag: ({ value }) => Math.abs(value!),
  'line-up': ({ value }) => Math.abs(value!),
  gaps: ({ value }) => value!,
};

/** A number with its spread, without its unit. */
export const inFigures = ({ value, spread }: Pick<MeasureKept, 'value' | 'spread'>): string =>
  value === null
    ? 'can’t tell'
    : `${short(value, digits(spread))} ± ${short(spread!, digits(spread))}`;

/** A number with its spread and unit. */
export const inWords = (one: MeasureKept): string =>
  one.value === null ? inFigures(one) : `${inFigures(one)} ${one.unit}`;

/** Decimals that a spread leaves sense to. */
const digits = (spread: number | null): number =>
  spread === null || !(spread > 0)
    ? 3
    : Math.max(0, Math.min(4, Math.ceil(-Math.log10(spread) + 0.3)));

/**
 * @param all     of one measure, and one axis where it has two
 * @param asked   layer height of the print, mm
 * @param labelOf what a rung is called
 */
export function headlineOf(
  name: MeasureName,
  all: readonly MeasureKept[],
  asked: number,
  labelOf: (rung: number) => string,
): Headline {
  const told = all.filter(({ value }) => value !== null);
  if (told.length === 0) return { rung: null, text: 'can’t tell' };
  if (name === 'ghost-spacing') {
    const hz = told.map(({ also }) => also?.hz ?? 0);
    return { rung: null, text: `about ${short(mean(hz), 1)} Hz` };
  }
  const worse = WORSE[name];
  if (!worse) {
    const values = told.map(({ value }) => value!);
    return {
      rung: null,
      text: `${short(Math.min(...values), 3)} to ${short(Math.max(...values), 3)} ${MEASURES[name].unit}`,
    };
  }
  const best = told.reduce((a, b) => (worse(b, asked) < worse(a, asked) ? b : a));
  const last = told.reduce((a, b) => (worse(b, asked) > worse(a, asked) ? b : a));
  // Where the worst is no worse than what may be chance, no rung is best.
  const apart = worse(last, asked) - worse(best, asked);
  if (apart <= Math.hypot(best.spread!, last.spread!)) return { rung: null, text: ALIKE };
  return { rung: best.rung, text: labelOf(best.rung) };
}

const ALIKE = 'alike on every rung';

const SAID: Partial<Record<MeasureName, (asked: number) => string>> = {
  'layer-pitch': (asked) => `layers are nearest to ${short(asked)} mm at`,
  edge: () => 'edges are smoothest at',
  threads: () => 'fewest threads at',
  bulge: () => 'corners are truest at',
  width: () => 'strokes are most even at',
  sag: () => 'bridges hang least at',
  'line-up': () => 'lines meet best at',
  gaps: () => 'fewest gaps at',
};

/** The sentence over the numbers. */
export function sentenceOf(name: MeasureName, asked: number, { rung, text }: Headline): string {
  const said = SAID[name];
  if (rung !== null && said) return capital(`${said(asked)} ${text}`);
  return `${MEASURES[name].title}: ${text}`;
}
