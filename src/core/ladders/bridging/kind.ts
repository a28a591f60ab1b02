/** Bridging: flow, speed or fan over open air; everything else is held. */

import type { Bench } from '../../bench/bench';
import { roundArea } from '../../deposit/bead';
import { surelyMelted, type Conditions } from '../../deposit/conditions';
import { settingInfo, type Setting } from '../../bench/settings';
import { type Range } from '../climb';
import { labelsOf, rearward } from '../climbing';
import { carryBySlicing, inBounds, standsAt } from '../commands';
import { LAID_FIELDS, rangeFields, schemaOf, type SpecOf } from '../fields';
import { warn, wholeSteps } from '../guards';
import { climbs, usualWalls } from '../one-setting';
import { lyingKind } from '../tower-kind';
import type { LadderKind, Warning } from '../types';
import { deckOf, footprint, formOf, layersOf } from './form';

type Facet = {
  id: string;
  title: string;
  setting: Setting;
  range: Range;
  bounds: { min: number; max: number };
  why: string;
  saferSide: 'lower' | 'higher';
  /** What light between strands counts against their sag: as much only where plastic is what climbs. */
  gaps: number;
  onDemand?: true;
};

/** Longest span, mm: long enough for what a value changes to be seen, short enough for the best to look good. Rails as high as nothing hangs, mm. */
const SPAN = 24;
const RAILS = 2.4;
/** How long a fan takes to follow, s. */
const FAN_FOLLOWS = 4;

const FACETS: Facet[] = [
  {
    id: 'bridge-flow',
    title: 'Bridge flow',
    setting: 'bridgeFlow',
    range: { from: 0.8, to: 1.1, step: 0.05 },
    bounds: { min: 0.5, max: 1.5 },
    why: 'Less plastic pulls straighter; too little leaves gaps between strands.',
    saferSide: 'lower',
    gaps: 1,
  },
  {
    id: 'bridge-speed',
    title: 'Bridge speed',
    setting: 'bridgeSpeed',
    // Strands hang alike over a wide range of speeds: finer steps, an eye does not tell apart.
    range: { from: 5, to: 75, step: 14 },
    bounds: { min: 3, max: 200 },
    why: 'Slow strands hang, fast ones tear off.',
    saferSide: 'lower',
    gaps: 0.4,
    onDemand: true,
  },
  {
    id: 'bridge-fan',
    title: 'Bridge fan',
    setting: 'bridgeFan',
    range: { from: 0, to: 1, step: 0.2 },
    bounds: { min: 0, max: 1 },
    why: 'More air sets strands sooner; some plastics part between layers when they cool too fast.',
    saferSide: 'lower',
    gaps: 0.4,
    onDemand: true,
  },
];

const fieldsFor = ({ setting, bounds }: Facet) => ({
  ...rangeFields(setting, [bounds.min, bounds.max], settingInfo(setting).resolution, [
    'Front',
    'Rear',
  ]),
  span: { label: 'Longest span', unit: 'mm', min: 9, max: 90, step: 3 },
  rails: {
    label: 'Height of the rails',
    unit: 'mm',
    min: 1,
    max: 20,
    step: 0.2,
    folded: true as const,
  },
  ...LAID_FIELDS,
});

function kindFor(facet: Facet): LadderKind<SpecOf<ReturnType<typeof fieldsFor>>> {
  const { setting, bounds } = facet;
  const fields = fieldsFor(facet);
  const { unit } = settingInfo(setting);
  return lyingKind<SpecOf<typeof fields>>({
    id: facet.id,
    title: facet.title,
    ...climbs(setting, () => bounds),
    axes: (spec) => rearward(setting, spec),
    spec: schemaOf(fields),
    fields,
    retired: ['rungHeight', 'walls', 'speed'],
    sentence:
      `Climb from {from} ${unit} in front to {to} ${unit} at the rear in steps of {step}: for each a deck of strands ` +
      'across three gaps, the longest of {span} mm.',
    reason: (bench) => `${facet.why} ${standsAt(setting, bench)}`,
    // One at a time: how a strand is pulled and cooled is judged with as much plastic as it needs.
    standsOn: ['nozzle', 'flow', ...(setting === 'bridgeFlow' ? [] : (['bridgeFlow'] as const))],
    ...(facet.onDemand ? { onDemand: true as const } : {}),
    defaults(bench) {
      const { rungHeight: _, speed: __, ...walls } = usualWalls(bench, Infinity);
      const range = setting === 'bridgeSpeed' ? meltedRange(facet, bench) : facet.range;
      return { ...walls, ...range, span: SPAN, rails: RAILS };
    },
    check(spec, bench) {
      return [
        ...wholeSteps(spec, unit),
        ...inBounds(setting, spec, bounds, 'nothing useful lies beyond'),
        ...melts(setting, spec, bench),
      ];
    },
    tower(spec, bench) {
      const labels = labelsOf(setting, spec);
      const form = formOf(spec, bench.nozzle.diameter, labels);
      return {
        spec: { ...spec, speed: usualWalls(bench, Infinity).speed, rungHeight: form.sizes.rung },
        sizes: form.sizes,
        layers: () => layersOf(form, labels),
        footprint: footprint(form, labels.length),
        digits: null,
        view: 'top',
        rung: ([deck]) => ({ boxes: [deckOf(form, deck!)] }),
        ...(setting === 'bridgeFan' ? { conditions: followedFan } : {}),
      };
    },
    criteria: [
      { name: 'bridging', weight: 1, where: 'the three spans of a deck, turned over' },
      { name: 'gaps', weight: facet.gaps, where: 'between the strands of a deck' },
    ],
    rule: { kind: 'best', saferSide: facet.saferSide },
    carry: carryBySlicing,
    otherCause:
      'Strands that sag alike on every rung usually are too hot or too long: print a temperature ladder, ' +
      'or take shorter spans.',
  });
}

/** A fan takes seconds to follow: the head waits for it before a deck. */
const followedFan = (plain: Conditions): Conditions => ({ ...plain, fanFollows: FAN_FOLLOWS });

/** Fewer steps than this show no best. */
const LEAST_STEPS = 4;

/** The usual speeds, as far up as a strand is surely melted: fewer of them, or finer ones for soft filament. */
function meltedRange({ range: { from, to, step }, bounds }: Facet, bench: Bench): Range {
  const { nozzle } = bench;
  const most = Math.min(to, surelyMelted(roundArea(nozzle.diameter), bench));
  if (most >= from + LEAST_STEPS * step)
    return { from, to: from + Math.floor((most - from) / step) * step, step };
  const room = most - bounds.min;
  const fine = Math.max(1, Math.floor(room / (LEAST_STEPS + 1)));
  const steps = Math.max(LEAST_STEPS, Math.floor(room / fine));
  return { from: bounds.min, to: bounds.min + steps * fine, step: fine };
}

/** Melt flow of a strand at a speed must be what a hot end surely melts. */
function melts(setting: Setting, { from, to }: Range, bench: Bench): Warning[] {
  const { nozzle } = bench;
  const most = surelyMelted(roundArea(nozzle.diameter), bench);
  if (setting !== 'bridgeSpeed' || Math.max(from, to) <= most) return [];
  return [
    warn(
      'note',
      'melt-limit',
      to > from ? 'to' : 'from',
      `Strands of this nozzle are surely melted up to ${most} mm/s; faster rungs may thin out for that reason alone.`,
      'Read thin strands on fast rungs as the limit of the hot end.',
    ),
  ];
}

export const bridging = FACETS.map(kindFor);
