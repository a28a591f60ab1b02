/** What a plan is made of: what to lay and where, before any command word is chosen. */

import type { Point } from '../bench/bed';
import type { Values } from '../bench/settings';

/** What a stroke is for; it decides speed, flow and fan once, in `deposit/`. */
export type Role = 'prime' | 'skirt' | 'brim' | 'wall' | 'fill' | 'bridge';

/** One run of the nozzle while plastic comes out. */
export type Stroke = {
  do: 'stroke';
  role: Role;
  /** At least two points; the first is where the nozzle stands. */
  path: Point[];
  /** Section of the plastic laid, mm². */
  area: number;
  /** mm/s */
  speed: number;
};

export type Step =
  | Stroke
  | { do: 'layer'; index: number; z: number; height: number }
  | { do: 'rung'; index: number }
  /** `over`: height, mm, at which the head crosses what stands there. */
  | { do: 'travel'; to: Point; retract: boolean; over?: number }
  /** Values that change between rungs: commands, or how the moves after it are written. */
  | { do: 'set'; set: Values }
  | { do: 'tool'; index: number }
  /** Feeds filament on the spot, mm and mm/s. */
  | { do: 'feed'; length: number; speed: number }
  | { do: 'raise'; z: number }
  /** Draws back on the spot, unless that is done. */
  | { do: 'draw' }
  | { do: 'wait'; seconds: number }
  /** Waits for somebody who has something to do: so many seconds where the machine knows no button. */
  | { do: 'pause'; text: string; seconds?: number }
  /** Heats a nozzle and waits for it; `warm` goes on while it heats, `cool` turns it off. */
  | { do: 'heat'; nozzle: number; tool: number }
  | { do: 'warm'; nozzle: number; tool: number }
  | { do: 'cool'; tool: number }
  | { do: 'say'; text: string }
  | { do: 'fan'; share: number }
  | { do: 'acceleration'; print: number; travel: number };

/** Length of a path, mm. */
export function pathLength(path: readonly Point[]): number {
  let length = 0;
  for (let i = 1; i < path.length; i++)
    length += Math.hypot(path[i]!.x - path[i - 1]!.x, path[i]!.y - path[i - 1]!.y);
  return length;
}
