/** What eye and loupe say of a print, in words, and whether both can be. */

import { settingInfo } from '../bench/settings';
import { short } from '../numbers';
import type { Voice, Voices } from '../reading/finding';

/** What a voice says of a finding's settings. */
export function voiceInWords({ verdict, values }: Voice): string {
  if (verdict === 'edge') return 'beyond this ladder';
  const said = values.flatMap(({ setting, value, range }) => {
    if (value === null) return [];
    const { unit, title } = settingInfo(setting);
    const [low, high] = range ?? [value, value];
    const which = values.length > 1 ? `${title} ` : '';
    return [`${which}${short(value)} ${unit} (${short(low)} to ${short(high)})`];
  });
  return said.length > 0 ? said.join(', ') : 'no difference';
}

/** Whether what eye and loupe say of some setting cannot both be, or of some rung. */
export function disagree({ eye, loupe, apart }: Voices): boolean {
  if (apart.length > 0) return true;
  if (!eye || !loupe) return false;
  return eye.values.some(({ setting, range }) => {
    const other = loupe.values.find((one) => one.setting === setting)?.range;
    return Boolean(range && other && (range[1] < other[0] || other[1] < range[0]));
  });
}
