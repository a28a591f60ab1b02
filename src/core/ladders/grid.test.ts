/** A print with two axes goes the whole way: planned, written, audited in both values, drawn, read. */

import { confirmRungs } from '../gcode/confirm';
import { askedFor } from '../gcode/asked';
import { readText } from '../gcode/read';
import { rungName, valueOn, valuesOn } from '../plan/axes';
import { benchFor, good } from '../testing';
import { draftElevation } from '../view/elevation';
import { ladderPicture } from '../view/ladder-picture';
import { css, scaleColour } from '../view/scale';
import { onSharedAxis } from '../view/shared-axis';
import { makeOf } from './make';
import { heatRetraction } from './grid/heat-retraction';
import type { LadderKind } from './types';

const bench = benchFor();
const kind = heatRetraction as unknown as LadderKind;
const spec = { ...kind.defaults(bench), from: 220, to: 200, step: 10, left: 1, right: 4 };
const { plan, text, trace, audit, warnings } = good(makeOf(kind, spec, bench));
const [heat, retraction] = plan.axes as [(typeof plan.axes)[0], (typeof plan.axes)[0]];
const ROWS = 3;
const COLUMNS = 4;

test('its rungs are all places of both axes, with both values', () => {
  expect(plan.rungs).toHaveLength(ROWS * COLUMNS);
  expect(valuesOn(heat, plan)).toEqual([
    ...Array<number>(4).fill(220),
    ...Array<number>(4).fill(210),
    ...Array<number>(4).fill(200),
  ]);
  expect(valuesOn(retraction, plan)).toEqual([1, 2, 3, 4, 1, 2, 3, 4, 1, 2, 3, 4]);
  expect(plan.rungs.map((rung) => rungName(plan.axes, rung))[5]).toBe('210 °C · 2 mm');
  for (const rung of plan.rungs) {
    const [row, column] = rung.at as [number, number];
    expect(valueOn(heat, rung)).toBe(heat.steps[row]!.set.nozzle);
    expect(valueOn(retraction, rung)).toBe(retraction.steps[column]!.set.retraction);
  }
});

test('every rung is confirmed in both values from the moves and commands of the file alone', () => {
  expect(warnings.filter(({ grade }) => grade === 'stop')).toEqual([]);
  expect(audit.findings.filter(({ grade }) => grade !== 'note')).toEqual([]);
  expect(audit.rungs).toHaveLength(2 * ROWS * COLUMNS);
  for (const { ok, seen, wanted } of audit.rungs) {
    expect(ok).toBe(true);
    expect(seen).toEqual([wanted]);
  }
  // Every pair of posts draws back on its own way across, once a layer at the least.
  expect(text.match(/^G1 E-3( |$)/gm)!.length).toBeGreaterThanOrEqual(ROWS * 20);
  // A temperature is said where each rung begins, not on every layer of it.
  expect(text.match(/^M104 S210$/gm)).toHaveLength(COLUMNS);
  const lines = text.split('\n');
  for (const { line, set } of plan.rungs) expect(lines[line - 1]).toBe(`M104 S${set.nozzle}`);
});

test.each([
  ['retraction', /^G1 E-3( |$)/m, 'G1 E-3.4$1'],
  ['nozzle', /^M104 S210$/gm, 'M104 S212'],
])(
  'a %s that is changed in the text is seen on its rungs, and on no other axis',
  (setting, line, by) => {
    const changed = readText(text.replace(line, by), bench.machine);
    const wrong = confirmRungs(changed, askedFor(plan)).filter(({ ok }) => !ok);
    expect(wrong.length).toBeGreaterThan(0);
    expect(new Set(wrong.map((row) => row.setting))).toEqual(new Set([setting]));
  },
);

test('it is drawn in the colours of its first axis, and its rungs stand where the print has them', () => {
  const picture = ladderPicture(trace, plan, 4);
  const seen = new Set<string>();
  for (let i = 0; i < picture.rgba.length; i += 4)
    if (picture.rgba[i + 3])
      seen.add(css([picture.rgba[i]!, picture.rgba[i + 1]!, picture.rgba[i + 2]!]));
  const { rungs } = onSharedAxis(plan);
  for (const share of new Set(rungs.map((rung) => rung.share)))
    expect([...seen].some((colour) => near(colour, css(scaleColour(share))))).toBe(true);
  const draft = kind.draft!(spec, bench);
  expect(draft.rungs.map(({ set, z }) => ({ set, z }))).toEqual(
    plan.rungs.map(({ set, z }) => ({ set, z })),
  );
  const drawn = draftElevation(
    draft.layers,
    { minX: -30, maxX: 130, height: draft.height },
    (rung) => rung ?? NaN,
    2,
  );
  expect(new Set([...drawn.value].filter((one) => one === one)).size).toBe(ROWS * COLUMNS);
});

/** Shading lightens and darkens a colour by a little. */
const near = (a: string, b: string): boolean => {
  const [p, q] = [a, b].map((one) => one.match(/\d+/g)!.map(Number)) as [number[], number[]];
  return p.every((value, i) => Math.abs(value - q[i]!) < 40);
};
