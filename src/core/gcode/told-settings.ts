/** What commands and settings files tell: which rows a machine takes, and the values that stand in them. */

import { settingInfo, SETTING_NAMES } from '../bench/settings';
import type { Command } from '../dialect/command';
import { DIALECTS, NEEDS, NEED_NAMES, type Need } from '../dialect/dialect';
import { sightings } from '../dialect/report';
import { matchCommand, matcherOf } from '../dialect/template';
import type { Seen, Tell } from './recognise';
import { limit } from './told-limits';
import { bore, strand } from './told-sizes';

const MATCHERS = NEED_NAMES.flatMap((need) =>
  [...new Set(Object.values(DIALECTS).map((dialect) => dialect[need]))].flatMap((template) => {
    const matcher = matcherOf(template);
    return matcher ? [{ need, template, matcher }] : [];
  }),
);

/** Which command rows the machine takes. */
export function rows(command: Command, seen: Seen, tell: Tell): void {
  for (const { need, template, matcher } of MATCHERS) {
    const values = matchCommand(matcher, command);
    if (!values) continue;
    tell({
      id: `row-${need}-${template}`,
      group: 'commands',
      says: `${NEEDS[need].title} is set with ${template}`,
      change: { machine: { dialect: { [need]: template } } },
      ...seen,
    });
    toldOfRow(need, values, seen, tell);
  }
}

/** A settings file names its values; the commands that go with it are the named ones. */
export function stored(text: string, seen: Seen, tell: Tell): void {
  for (const { need, values } of sightings(DIALECTS.D, text)) {
    if (DIALECTS.D.file[need] === '' || /^[A-Z]/.test(text)) continue;
    if (DIALECTS.D[need] !== '')
      tell({
        id: `row-${need}-${DIALECTS.D[need]}`,
        group: 'commands',
        says: `settings stand in a file, so ${NEEDS[need].title} is set with ${DIALECTS.D[need]}`,
        change: {
          machine: {
            dialect: { [need]: DIALECTS.D[need], file: { [need]: DIALECTS.D.file[need] } },
          },
        },
        ...seen,
      });
    toldOfRow(need, values, seen, tell);
  }
  const entry =
    /^(max_velocity|max_z_velocity|nozzle_diameter|filament_diameter)\s*[:=]\s*([\d.]+)/;
  const [, name, number] = entry.exec(text) ?? [];
  const value = Number(number);
  if (name === 'max_velocity') limit('speed', { x: value, y: value }, seen, tell);
  if (name === 'max_z_velocity') limit('speed', { z: value }, seen, tell);
  if (name === 'nozzle_diameter') bore(value, seen, tell);
  if (name === 'filament_diameter') strand(value, seen, tell);
}

/** Values that a description of a machine has a place for. */
function toldOfRow(need: Need, values: Record<string, number>, seen: Seen, tell: Tell): void {
  for (const setting of SETTING_NAMES) {
    const { row, reported } = settingInfo(setting);
    const told = row?.need === need ? reported?.(values) : null;
    if (told)
      tell({
        id: told.id,
        group: 'limits',
        says: told.says,
        change: { machine: told.machine },
        ...seen,
      });
  }
}
