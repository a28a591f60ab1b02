/** Start and end blocks: the user's own lines with placeholders. */

import type { Bench } from '../bench/bench';
import { bedBox, bedCentre, RIM } from '../bench/bed';
import { fail, ok, problem, type Problem, type Result } from '../result';
import { short } from '../numbers';
import { plainLine } from '../text';

/** What can be filled in, with what it stands for. */
export const PLACEHOLDERS = {
  nozzle: 'temperature of the first rung, °C',
  bed: 'bed temperature, °C',
  bore: 'nozzle diameter, mm',
  machine: 'name of the machine',
  filament: 'name of the filament',
  material: 'its material',
  park_x: 'where the head parks, mm',
  park_y: 'where the head parks, mm: the print is in reach',
  park_z: 'height that clears the print, mm',
  height: 'height of the print, mm',
} as const;
export type Placeholder = keyof typeof PLACEHOLDERS;

const PLACEHOLDER = /\{([A-Za-z_][A-Za-z0-9_]*)\}/g;

/** How far the head is lifted off a finished print, mm, where the machine is tall enough. */
const PARK_CLEARANCE = 10;

/** Values for a bench and a print; texts of the user's become one plain line each. */
export function blockValues(
  { machine, nozzle, filament }: Bench,
  print: { nozzle: number; height: number },
): Record<Placeholder, string> {
  const box = bedBox(machine.bed);
  return {
    nozzle: short(print.nozzle),
    bed: short(filament.bed),
    bore: short(nozzle.diameter),
    machine: plainLine(machine.name),
    filament: plainLine(filament.name),
    material: plainLine(filament.material),
    park_x: short(bedCentre(machine.bed).x),
    park_y: short(box.maxY - RIM),
    park_z: short(Math.min(machine.height, print.height + PARK_CLEARANCE)),
    height: short(print.height),
  };
}

/** Placeholders in a block that nothing can be filled in for. */
export function blockProblems(where: string, block: string): Problem[] {
  const problems: Problem[] = [];
  block.split('\n').forEach((line, i) => {
    for (const [, name] of line.matchAll(PLACEHOLDER)) {
      if (!(name! in PLACEHOLDERS))
        problems.push(
          problem(
            `${where}, line ${i + 1}`,
            `{${name}} is not known.`,
            `Placeholders that can be used: ${Object.keys(PLACEHOLDERS)
              .map((key) => `{${key}}`)
              .join(', ')}.`,
          ),
        );
    }
  });
  return problems;
}

/** Fills a block in. @returns its lines, or the placeholders that are not known */
export function fillBlock(
  where: string,
  block: string,
  values: Record<Placeholder, string>,
  /** Keeps blank lines, so that numbers of lines are those of the block. */
  blank = false,
): Result<string[]> {
  const problems = blockProblems(where, block);
  if (problems.length > 0) return fail(...problems);
  const text = block.replace(PLACEHOLDER, (_, name: Placeholder) => values[name]);
  return ok(
    text
      .split(/\r?\n/)
      .map((line) => line.trimEnd())
      .filter((line) => blank || line !== ''),
  );
}
