/** What towers share whose rungs climb one setting and carry its value on their body. */

import type { Bench } from '../bench/bench';
import type { Box } from '../bench/bed';
import { settingInfo, type Setting } from '../bench/settings';
import { beadArea } from '../deposit/bead';
import { beadWidthOf, layerHeightOf, surelyMelted } from '../deposit/conditions';
import type { Layer } from '../deposit/layer';
import { readableRung, type Body } from './body';
import type { Range } from './climb';
import { movedTo, upward } from './climbing';
import { PLACED } from './fields';
import type { Sizes, Tower } from './tower';
import type { Ends } from './types';

/** What it finds, climbs and stays within. */
export const climbs = (setting: Setting, bounds: (bench: Bench) => Ends) => ({
  finds: [setting] as const,
  axes: (spec: Range) => upward(setting, spec),
  bounds: (bench: Bench) => ({ [setting]: bounds(bench) }),
  moved: movedTo(setting),
});

/** How its sentence begins; what its form adds follows. */
export function climbSentence(setting: Setting, rest: string, steps = ''): string {
  const { unit } = settingInfo(setting);
  return (
    `Climb from {from} ${unit} at the bottom to {to} ${unit} at the top in steps of {step}${steps}, each rung ` +
    `{rungHeight} mm tall, ${rest}.`
  );
}

/**
 * Inputs that follow from the bench: a layer that suits the nozzle, and walls as prints have them.
 *
 * @param fastest mm/s; forms with short layers would only be slowed again to cool
 */
export function usualWalls(bench: Bench, fastest: number) {
  const { machine, nozzle } = bench;
  const layerHeight = layerHeightOf(nozzle.diameter);
  const melted = surelyMelted(beadArea(beadWidthOf(nozzle.diameter), layerHeight), bench);
  return {
    layerHeight,
    speed: Math.min(machine.speeds.print, fastest, melted),
    rungHeight: readableRung(layerHeight),
    brim: 0,
    ...PLACED,
  };
}

/** A labelled form as a tower has it. */
export const formed = <F extends { sizes: Sizes; body: Body }>(
  form: F,
  footprint: (form: F) => Box,
  layers: (form: F) => Layer[],
): Pick<Tower, 'sizes' | 'layers' | 'footprint' | 'digits'> => ({
  sizes: form.sizes,
  layers: () => layers(form),
  footprint: footprint(form),
  digits: form.body.digits,
});
