/** A flat pattern as it is drawn while somebody types: what lies beside its rungs stroke by stroke, rungs as areas. */

import type { Point } from '../bench/bed';
import { beadWidth } from '../deposit/bead';
import type { Part } from '../deposit/layer';
import type { Layout } from '../deposit/layout';
import { distance, rect, type Region } from '../shape/region';
import type { Draft } from './types';

/** For patterns whose rungs are filled areas: every other is as quickly written as drafted. */
export function draftOf({ axes, rungs, steps, height, layerHeight, frame }: Layout): Draft {
  const beside: Region = [];
  for (const step of steps) {
    if (step.do === 'rung') break;
    if (step.do !== 'stroke') continue;
    const half = beadWidth(step.area, layerHeight) / 2;
    step.path.slice(1).forEach((to, i) => beside.push(...band(step.path[i]!, to, half)));
  }
  const parts: Part[] = [
    { rung: null, outline: beside, walls: 0, solid: beside },
    ...rungs.flatMap(({ index, boxes }) =>
      (boxes ?? []).map(({ minX, minY, maxX, maxY }): Part => {
        const area = rect(minX, minY, maxX, maxY);
        return { rung: index, outline: area, walls: 0, solid: area };
      }),
    ),
  ];
  return {
    axes: [...axes],
    rungs,
    height,
    layers: [{ index: 0, z: height, height: layerHeight, parts }],
    ...(frame ? { above: frame } : {}),
  };
}

/** What a bead covers between two places. */
function band(from: Point, to: Point, half: number): Region {
  const length = distance(from, to);
  if (length === 0) return [];
  const [nx, ny] = [(-(to.y - from.y) / length) * half, ((to.x - from.x) / length) * half];
  return [
    [
      { x: from.x - nx, y: from.y - ny },
      { x: to.x - nx, y: to.y - ny },
      { x: to.x + nx, y: to.y + ny },
      { x: from.x + nx, y: from.y + ny },
    ],
  ];
}
