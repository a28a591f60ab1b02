/** Inputs that several kinds share, and the schema that follows from a kind's inputs. */

import { z } from 'zod';
import { settingInfo, type Setting } from '../bench/settings';
import type { Field } from './types';

export type Fields = Record<string, Field>;
export type SpecOf<F extends Fields> = { [K in keyof F]: number };

/** A spec has one number for each input, within its ends; a choice is the number of its entry. */
export function schemaOf<F extends Fields>(fields: F): z.ZodType<SpecOf<F>> {
  const shape = Object.fromEntries(
    Object.entries(fields).map(([key, { min, max, whole, choices }]) => {
      const number = z.number().min(min).max(max);
      return [key, whole || choices ? number.int() : number];
    }),
  );
  return z.object(shape) as unknown as z.ZodType<SpecOf<F>>;
}

/** From, to and step of what climbs. */
export function rangeFields(
  setting: Setting,
  [min, max]: [number, number],
  step: number,
  [from, to]: [string, string] = ['Bottom', 'Top'],
) {
  const { unit, resolution } = settingInfo(setting);
  return {
    from: { label: from, unit, min, max, step },
    to: { label: to, unit, min, max, step },
    step: {
      label: 'Step',
      unit,
      min: resolution,
      max: Math.max(max - min, resolution),
      step: resolution,
    },
  } satisfies Fields;
}

/** One of several ways, by their words. */
export const choice = (label: string, choices: string[]): Field => ({
  label,
  unit: '',
  min: 0,
  max: choices.length - 1,
  step: 1,
  choices,
});

/** Where the print stands, and what is laid around it. */
export const PLACE_FIELDS = {
  skirtLoops: {
    label: 'Skirt loops',
    unit: '',
    min: 0,
    max: 5,
    step: 1,
    whole: true,
    folded: true,
  },
  shiftX: {
    label: 'Right of the middle',
    unit: 'mm',
    min: -1000,
    max: 1000,
    step: 5,
    folded: true,
  },
  shiftY: {
    label: 'Behind the middle',
    unit: 'mm',
    min: -1000,
    max: 1000,
    step: 5,
    folded: true,
  },
} satisfies Fields;

const LAYER_HEIGHT: Field = {
  label: 'Layer height',
  unit: 'mm',
  min: 0.05,
  max: 1,
  step: 0.05,
  folded: true,
};

export const FLAT_FIELDS = { layerHeight: LAYER_HEIGHT, ...PLACE_FIELDS } satisfies Fields;

const BRIM: Field = { label: 'Brim', unit: 'mm', min: 0, max: 20, step: 1, folded: true };

/** Of a form that lies on the bed. */
export const LAID_FIELDS = {
  layerHeight: LAYER_HEIGHT,
  brim: BRIM,
  ...PLACE_FIELDS,
} satisfies Fields;

export const TOWER_FIELDS = {
  rungHeight: { label: 'Rung height', unit: 'mm', min: 3, max: 40, step: 1 },
  speed: { label: 'Wall speed', unit: 'mm/s', min: 5, max: 500, step: 5 },
  walls: { label: 'Walls', unit: '', min: 1, max: 3, step: 1, whole: true, folded: true },
  layerHeight: LAYER_HEIGHT,
  brim: BRIM,
  ...PLACE_FIELDS,
} satisfies Fields;

/** Lean of an overhang that is a part of a form. */
export const OVERHANG_FIELD: Field = {
  label: 'Overhang, from vertical',
  unit: '°',
  min: 30,
  max: 70,
  step: 5,
  folded: true,
};

/** Of a filled pad. */
export const PAD_FIELDS = {
  size: { label: 'Side of a pad', unit: 'mm', min: 6, max: 40, step: 1 },
  layers: {
    label: 'Layers of a pad',
    unit: '',
    min: 2,
    max: 8,
    step: 1,
    whole: true,
    folded: true,
  },
} satisfies Fields;

export type Placing = { skirtLoops: number; shiftX: number; shiftY: number; brim?: number };

/** Where kinds stand until the user moves them. */
export const PLACED: Placing = { skirtLoops: 1, shiftX: 0, shiftY: 0 };
