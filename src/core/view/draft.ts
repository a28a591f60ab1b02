/**
 * A ladder as it will stand, drawn from its form alone. Laying, writing and proving the file takes several times
 * as long as a drawing may wait while somebody types; what this shows, the file's own drawing then confirms.
 */

import type { Box } from '../bench/bed';
import type { Bench } from '../bench/bench';
import { beadWidthOf } from '../deposit/conditions';
import { outlineOf } from '../deposit/layer';
import { leadAt, leadValues } from '../plan/axes';
import type { PlannedRung } from '../plan/plan';
import { specFor } from '../ladders/make';
import { kindOf } from '../ladders/registry';
import type { Draft, Warning } from '../ladders/types';
import type { Problem } from '../result';
import { boxOf } from '../shape/region';
import { drawDraftAbove } from './draft-above';
import { draftElevation, shadeElevation, type Frame } from './elevation';
import { frameOfStrokes, type Picture } from './ladder-picture';
import { gridCells, type Cells } from './cells';
import type { Strips } from './strips';
import { named, onSharedAxis, stretchOf, type Named } from './shared-axis';

export type DraftView =
  | {
      ok: true;
      view: 'front' | 'top';
      rungs: Named<PlannedRung>[];
      height: number;
      stretch: number;
      picture: Picture;
      /** Of a grid: where its cells lie on the picture. */
      cells: Cells | null;
      /** Of a map: where the strips of its cells lie. */
      strips: Strips | null;
    }
  | { ok: false; problems: (Problem | Warning)[]; warnings: Warning[] };

/** @returns null for a kind whose file is made as quickly as a draft of it */
export function draftView(
  kindId: string,
  given: Record<string, number>,
  bench: Bench,
  pxPerMm: number,
): DraftView | null {
  const found = kindOf(kindId);
  const kind = found.ok ? found.value : null;
  if (!kind?.draft) return null;
  const spec = specFor(kind, bench, given);
  if (!spec.ok) return { ok: false, problems: spec.problems, warnings: [] };
  const warnings = kind.check(spec.value, bench);
  const stops = warnings.filter(({ grade }) => grade === 'stop');
  if (stops.length > 0)
    return { ok: false, problems: stops, warnings: warnings.filter((one) => !stops.includes(one)) };
  const draft = kind.draft(spec.value, bench);
  const bead = beadWidthOf(bench.nozzle.diameter);
  return draft.above
    ? fromAbove(draft, draft.above, bead, pxPerMm)
    : fromFront(draft, bead, pxPerMm);
}

function fromFront(draft: Draft, bead: number, pxPerMm: number): DraftView {
  const frame = frameOf(draft, bead);
  const rungs = named(draft.axes, draft.rungs);
  const cells = gridCells(draft.axes, draft.rungs, 'front', { left: frame.minX, near: 0 });
  const picture = draw(draft, frame, pxPerMm);
  const stretch = stretchOf({ view: 'front', axes: draft.axes });
  const { height } = draft;
  return { ok: true, view: 'front', rungs, height, stretch, picture, cells, strips: null };
}

function fromAbove(draft: Draft, frame: Box, bead: number, pxPerMm: number): DraftView {
  const stands = onSharedAxis({ ...draft, view: 'top', width: frame.maxX - frame.minX, frame });
  const values = leadValues(draft);
  const picture = drawDraftAbove(draft.layers, frame, bead, valueIn(draft), values, pxPerMm);
  return {
    ok: true,
    view: 'top',
    rungs: stands.rungs,
    height: stands.height,
    stretch: stands.stretch,
    picture,
    cells: stands.cells,
    strips: stands.strips,
  };
}

const valueIn =
  (draft: Draft) =>
  (rung: number | null, z: number): number =>
    rung === null ? NaN : leadAt(draft, draft.rungs[rung]!, z);

function draw(draft: Draft, frame: Frame, pxPerMm: number): Picture {
  const { layers } = draft;
  const layer = layers[0]!.height;
  const values = leadValues(draft);
  const drawn = draftElevation(layers, frame, valueIn(draft), pxPerMm);
  const { width, height: tall, pxPerMm: scale } = drawn;
  return { width, height: tall, pxPerMm: scale, rgba: shadeElevation(drawn, values, layer) };
}

/** The same sight as on the file's drawing, which knows the middles of strokes only. */
function frameOf({ layers, rungs, height }: Draft, bead: number): Frame {
  const over = rungs[0]!.z.from / 2;
  const { minX, maxX } = boxOf(layers.filter(({ z }) => z > over).flatMap(outlineOf));
  return frameOfStrokes(minX + bead / 2, maxX - bead / 2, height);
}
