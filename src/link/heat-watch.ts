/** Watches heaters while something prints: one that does not rise, falls away or runs past ends the print. */

import { short } from '../core/numbers';
import type { Heat, Temperatures } from '../core/link-state';

/** A heater this much below its target has to rise by some degrees within this time. */
const COLD = 8;
const RISES = 2;
const RISES_WITHIN_S = 60;
/** Once it was there, it may be this far below for this long. */
const FALLS = 15;
const FALLS_FOR_S = 20;
/** It may be this far above what it was told or had, for this long. */
const PAST = 15;
const PAST_FOR_S = 10;
const THERE = 4;

type Seen = {
  target: number;
  /** When and at what it began to rise, or rose last. */
  risenAt: number;
  risen: number;
  there: boolean;
  lowSince: number | null;
  highSince: number | null;
  /** A heater that was told to cool may be above its target until it has come down. */
  ceiling: number;
};

export class HeatWatch {
  private readonly seen = new Map<string, Seen>();

  /** @param atS time of the reading, s. @returns what is wrong, in words, or null */
  look({ nozzle, bed }: Temperatures, atS: number): string | null {
    return this.one('nozzle', nozzle, atS) ?? this.one('bed', bed, atS);
  }

  private one(name: 'nozzle' | 'bed', heat: Heat | undefined, at: number): string | null {
    if (!heat || !Number.isFinite(heat.now) || !Number.isFinite(heat.target)) return null;
    const { now, target } = heat;
    let seen = this.seen.get(name);
    if (!seen || seen.target !== target) {
      seen = {
        target,
        risenAt: at,
        risen: now,
        there: false,
        lowSince: null,
        highSince: null,
        ceiling: Math.max(target, now),
      };
      this.seen.set(name, seen);
    }
    if (target === 0) return null;
    if (Math.abs(now - target) <= THERE) {
      seen.there = true;
      seen.ceiling = target;
    }
    if (now >= seen.risen + RISES) {
      seen.risen = now;
      seen.risenAt = at;
    }
    if (!seen.there && now < target - COLD && at - seen.risenAt > RISES_WITHIN_S)
      return `The ${name} does not get warmer: ${short(now, 0)} °C for ${RISES_WITHIN_S} s, though ${short(target, 0)} were asked for.`;
    seen.lowSince = seen.there && now < target - FALLS ? (seen.lowSince ?? at) : null;
    if (seen.lowSince !== null && at - seen.lowSince > FALLS_FOR_S)
      return `The ${name} has fallen away: ${short(now, 0)} °C instead of ${short(target, 0)}.`;
    seen.highSince = now > seen.ceiling + PAST ? (seen.highSince ?? at) : null;
    if (seen.highSince !== null && at - seen.highSince > PAST_FOR_S)
      return `The ${name} runs past what it was told: ${short(now, 0)} °C instead of ${short(target, 0)}.`;
    return null;
  }
}
