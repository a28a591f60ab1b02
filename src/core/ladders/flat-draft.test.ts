import { area, boxOf } from '../shape/region';
import { benchFor } from '../testing';
import { flowHeat } from './grid/flow-heat';
import { draftOf } from './flat-draft';

const bench = benchFor();
const layout = flowHeat.lay(flowHeat.defaults(bench), bench);
const draft = draftOf(layout);
const [beside, ...areas] = draft.layers[0]!.parts;

test('every rung is drawn where it is looked at, and in the frame of the file itself', () => {
  expect(draft.above).toEqual(layout.frame);
  expect(areas.map(({ rung }) => rung)).toEqual(layout.rungs.map(({ index }) => index));
  areas.forEach(({ outline }, i) => {
    const [box] = layout.rungs[i]!.boxes!;
    const drawn = boxOf(outline);
    for (const end of ['minX', 'maxX', 'minY', 'maxY'] as const)
      expect(drawn[end]).toBeCloseTo(box![end], 9);
  });
});

test('labels and lines beside the rungs are as wide as their plastic, and what is laid of rungs is not among them', () => {
  const strokes = [];
  for (const step of layout.steps) {
    if (step.do === 'rung') break;
    if (step.do === 'stroke') strokes.push(step);
  }
  const long = strokes.reduce(
    (sum, { path }) =>
      sum +
      path
        .slice(1)
        .reduce((way, to, i) => way + Math.hypot(to.x - path[i]!.x, to.y - path[i]!.y), 0),
    0,
  );
  const covered = beside!.outline.reduce((sum, ring) => sum + Math.abs(area([ring])), 0);
  const width = covered / long;
  expect(width).toBeGreaterThan(0.8 * bench.nozzle.diameter);
  expect(width).toBeLessThan(1.6 * bench.nozzle.diameter);
  expect(beside!.outline.length).toBeGreaterThan(50);
});
