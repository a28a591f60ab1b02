/** What an eye finds on a print of a hidden machine, and what it finds together with the loupe on the print's picture. */

import type { Bench } from '../core/bench/bench';
import { makeLadder } from '../core/ladders/make';
import type { LadderKind } from '../core/ladders/types';
import { drawnCorners } from '../core/loupe/expected';
import { keptLook } from '../core/loupe/kept';
import { lookAt } from '../core/loupe/loupe';
import { countsUsually } from '../core/loupe/scoring';
import type { Pixels } from '../core/loupe/pixels';
import { findTogether } from '../core/loupe/together';
import type { Finding } from '../core/reading/finding';
import { findValue } from '../core/reading/find-value';
import { ok, type Result } from '../core/result';
import { sightOf } from '../core/view/ladder-picture';
import { scored } from '../understudy/eye';
import { drawPrint, type PrintPicture } from '../understudy/picture';
import { printTrace } from '../understudy/print';
import { drawTruths } from '../understudy/truths';
import { withFound } from './found-before';
import { measure } from './instruments';
import { Loop } from './loop';
import { placesOf } from './places';

export type BothWays = { truth: number; step: number; eye: Finding; both: Finding };

/** Prints a ladder on the machine of a seed, scores it, and measures its picture. */
export function eyeAndLoupe(kind: LadderKind, given: Bench, seed: number): Result<BothWays> {
  const truths = drawTruths(given, seed);
  const bench = withFound(given, kind.standsOn, truths);
  const loop = Loop.on(kind, given);
  if (!loop.ok) return loop;
  const truth = loop.value.truth(truths, bench);
  if (!truth.ok) return truth;
  const made = makeLadder(kind.id, {}, bench);
  if (!made.ok) return made;
  const { trace, plan } = made.value;
  const printed = printTrace(trace, bench, truths);
  const criteria = kind.criteria.map(({ name }) => name);
  const person = Math.imul(seed, 31) + 1;
  const { scores } = scored(printed, placesOf(plan), criteria, person);
  const keys = (kind.measures ?? []).map(({ key }) => key);
  const said = { readings: [scores], measured: [measure(keys, printed, plan, person)] };
  const picture = pixelsOf(drawPrint(printed, { view: plan.view, frame: sightOf(trace, plan) }));
  const looked = keptLook(lookAt(picture, plan, { corners: drawnCorners(plan, picture) }));
  const counted = [looked.measures.filter(({ name }) => countsUsually(name, criteria))];
  const eye = findValue(kind, plan, bench, said);
  if (!eye.ok) return eye;
  const both = findTogether(kind, plan, bench, { ...said, counted });
  if (!both.ok) return both;
  const values = [...new Set(plan.rungs.map(({ set }) => set[kind.finds[0]]!))];
  const step = (Math.max(...values) - Math.min(...values)) / (values.length - 1);
  return ok({ truth: truth.value, step, eye: eye.value, both: both.value });
}

/** A drawn picture as a photo of it would be. */
export function pixelsOf({ rgba, width, height }: PrintPicture): Pixels {
  const rgb = new Uint8Array(width * height * 3);
  for (let i = 0; i < width * height; i++)
    for (let part = 0; part < 3; part++) rgb[i * 3 + part] = rgba[i * 4 + part]!;
  return { width, height, rgb };
}
