/** What the loupe reads off the pictures of simulated prints, against what their instruments say. */

import { beadWidthOf } from '../core/deposit/conditions';
import { benchFor, makeOn } from '../core/testing';
import { lookAt, type Measured } from '../core/loupe/loupe';
import type { MeasureName } from '../core/loupe/measures';
import type { Side } from '../core/loupe/sight';
import type { Trace } from '../core/gcode/trace';
import { drawnCorners } from '../core/loupe/expected';
import type { Plan } from '../core/plan/plan';
import { sightOf } from '../core/view/ladder-picture';
import { drawPrint } from '../understudy/picture';
import { look } from '../understudy/looks';
import { printTrace, type Printed } from '../understudy/print';
import { drawTruths } from '../understudy/truths';
import { pixelsOf } from './eye-and-loupe';
import { placesOf } from './places';

jest.setTimeout(60_000);

const PX = 20;

/** What is measured on the picture that is drawn of a simulated print, whose corners are known. */
function drawn(trace: Trace, plan: Plan, printed: Printed, names: MeasureName[]) {
  const picture = pixelsOf(drawPrint(printed, { view: plan.view, frame: sightOf(trace, plan) }));
  return lookAt(picture, plan, { measures: names, corners: drawnCorners(plan, picture) }).measures;
}

/** A ladder printed on a simulated machine, and what is measured on its picture from one side. */
function measured(kind: string, seed: number, side: Side, names: MeasureName[]) {
  const { trace, plan } = makeOn(benchFor('heron'), kind);
  const truths = drawTruths(plan.bench, seed);
  const printed = printTrace(trace, plan.bench, truths);
  if (side !== 'back')
    return { plan, truths, printed, measures: drawn(trace, plan, printed, names) };
  const { samples } = printed;
  let [left, right, tall] = [Infinity, -Infinity, 0];
  for (let n = 0; n < samples.count; n++) {
    if (samples.z[n]! < 0.5) continue;
    left = Math.min(left, samples.x[n]!);
    right = Math.max(right, samples.x[n]!);
    tall = Math.max(tall, samples.z[n]!);
  }
  const frame = { left: left - 1, right: right + 1, bottom: 0, top: tall + 0.5 };
  const { rgba, width, height } = drawPrint(printed, { view: side, frame, pxPerMm: PX });
  const rgb = new Uint8Array(width * height * 3);
  for (let i = 0; i < width * height; i++)
    for (let part = 0; part < 3; part++) rgb[i * 3 + part] = rgba[i * 4 + part]!;
  // A stroke's middle is a millimetre in; the print's own side lies half a stroke before that.
  const inset = PX * (1 - beadWidthOf(plan.bench.nozzle.diameter) / 2);
  const { measures } = lookAt({ width, height, rgb }, plan, {
    side,
    measures: names,
    corners: [
      { x: inset, y: height },
      { x: width - inset, y: height },
      { x: width - inset, y: PX / 2 },
      { x: inset, y: PX / 2 },
    ],
  });
  return { plan, truths, printed, measures };
}

const ofName = (measures: readonly Measured[], name: MeasureName) =>
  measures.filter((one) => one.name === name);
const inOrder = (values: readonly number[], truth: readonly number[]): number => {
  // Pairs of rungs that stand in the same order, of those that differ.
  let [same, all] = [0, 0];
  truth.forEach((a, i) =>
    truth.forEach((b, k) => {
      if (k <= i || a === b) return;
      all++;
      if ((a - b) * (values[i]! - values[k]!) > 0) same++;
    }),
  );
  return same / all;
};

test('of a temperature tower: layers as high as asked, threads and gloss in the order of the truth', () => {
  for (const seed of [2]) {
    const { plan, printed, measures } = measured('temperature', seed, 'front', [
      'layer-pitch',
      'threads',
      'gloss',
      'sag',
    ]);
    for (const { told, value } of ofName(measures, 'layer-pitch')) {
      expect(told).toBe(true);
      expect(Math.abs(value / plan.layerHeight - 1)).toBeLessThan(0.02);
    }
    const seen = placesOf(plan).map((place) => look(printed, place));
    const values = (name: MeasureName) => ofName(measures, name).map(({ value }) => value);
    expect(
      inOrder(
        values('threads'),
        plan.rungs.map(
          ({ z }) =>
            printed.threads.filter((one) => one.thick > 0.005 && one.z > z.from && one.z <= z.to)
              .length,
        ),
      ),
    ).toBeGreaterThan(0.85);
    // What is missing of a shine: the more, the less is seen.
    expect(
      inOrder(
        values('gloss').map((one) => -one),
        seen.map(({ gloss = 0 }) => gloss),
      ),
    ).toBeGreaterThan(0.8);
    // Bridges where they are seen between threads, and leans as their order goes.
    const hanging = ofName(measures, 'sag').filter(({ told }) => told);
    expect(hanging.length).toBeGreaterThanOrEqual(2);
    for (const { rung, value } of hanging) {
      const { bridging = 0 } = seen[rung]!;
      expect(Math.abs(value - bridging)).toBeLessThan(0.06 + 0.2 * bridging);
    }
    const leans = ofName(measures, 'sag').filter(({ also }) => also?.droop !== undefined);
    expect(leans.length).toBeGreaterThan(4);
    expect(
      inOrder(
        leans.map(({ also }) => also!.droop!),
        leans.map(({ rung }) => seen[rung]!.overhang!),
      ),
    ).toBeGreaterThan(0.75);
  }
});

long('of strokes side by side: how evenly wide they are goes with how they were laid', () => {
  const { plan, printed, measures } = measured('advance-hairpins', 2, 'top', ['width']);
  const seen = placesOf(plan).map((place) => look(printed, place));
  const told = ofName(measures, 'width').filter((one) => one.told);
  expect(told).toHaveLength(plan.rungs.length);
  expect(
    inOrder(
      told.map(({ also }) => also!.evenness!),
      told.map(({ rung }) => seen[rung]!.evenness!),
    ),
  ).toBeGreaterThan(0.85);
});

long(
  'of the back of a wall: echoes at the frequency of the machine, where they can be told',
  () => {
    let told = 0;
    for (const seed of [2, 3]) {
      const { truths, measures } = measured('acceleration', seed, 'back', ['ghost-spacing']);
      for (const one of measures.filter((each) => each.told)) {
        told++;
        expect(Math.abs(one.also!.hz! / truths.resonance.y - 1)).toBeLessThan(0.04);
      }
    }
    expect(told).toBeGreaterThanOrEqual(3);
  },
);
