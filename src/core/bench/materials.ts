/** Material defaults; the label on the spool wins over them (domain.md §6). Temperatures °C. */

export type MaterialDefaults = {
  nozzle: { min: number; max: number };
  bed: number;
  /** Below this the plastic is not fed: a cold push grinds the filament. */
  coldest: number;
  /** g/cm³, typical of the unfilled plastic. */
  density: number;
  fan: { print: number; bridge: number };
  shortestLayer: number;
  /** Plastic, mm³/s, that any usual hot end melts, and any extruder feeds, at any temperature on a label. */
  melts: number;
  /** It gives way between extruder and nozzle: fed fast it buckles, and its pressure takes longer. */
  soft: boolean;
};

const plastic = (
  [min, max]: [number, number],
  bed: number,
  density: number,
  fan: [number, number],
  { coldest = 170, shortestLayer = 6, melts = 8, soft = false } = {},
): MaterialDefaults => ({
  nozzle: { min, max },
  bed,
  coldest,
  density,
  fan: { print: fan[0], bridge: fan[1] },
  shortestLayer,
  melts,
  soft,
});

export const MATERIALS = {
  PLA: plastic([190, 225], 60, 1.24, [1, 1]),
  PETG: plastic([225, 255], 80, 1.27, [0.4, 0.7]),
  ABS: plastic([230, 260], 100, 1.04, [0.1, 0.4]),
  ASA: plastic([235, 265], 100, 1.07, [0.1, 0.4]),
  TPU: plastic([210, 240], 45, 1.21, [0.5, 0.8], { shortestLayer: 8, melts: 2.5, soft: true }),
  PA: plastic([245, 275], 80, 1.14, [0.1, 0.4], { coldest: 220 }),
  PC: plastic([260, 300], 110, 1.2, [0, 0.3], { coldest: 220 }),
} as const satisfies Record<string, MaterialDefaults>;

export type Material = keyof typeof MATERIALS;
