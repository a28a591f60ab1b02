/** For tests: what of a form is laid over air before anything holds it. */

import type { Point } from '../bench/bed';
import { distance } from '../shape/region';
import type { Step, Stroke } from './step';

/** How near the middle of a bead must be to another one, in beads, to be held by it: half of it still touches. */
const HOLDS = 1.05;

class Laid {
  private readonly cells = new Map<string, Point[]>();
  constructor(private readonly cell: number) {}

  add(path: readonly Point[]): void {
    for (let i = 1; i < path.length; i++) {
      const [a, b] = [path[i - 1]!, path[i]!];
      const pieces = Math.max(1, Math.ceil(distance(a, b) / (this.cell / 4)));
      for (let n = 0; n <= pieces; n++) {
        const at = { x: a.x + ((b.x - a.x) * n) / pieces, y: a.y + ((b.y - a.y) * n) / pieces };
        const key = this.key(at.x, at.y);
        const known = this.cells.get(key);
        if (known) known.push(at);
        else this.cells.set(key, [at]);
      }
    }
  }

  holds(point: Point): boolean {
    for (const dx of [-this.cell, 0, this.cell])
      for (const dy of [-this.cell, 0, this.cell]) {
        const near = this.cells.get(this.key(point.x + dx, point.y + dy)) ?? [];
        if (near.some((one) => distance(one, point) <= this.cell)) return true;
      }
    return false;
  }

  private key(x: number, y: number): string {
    return `${Math.floor(x / this.cell)} ${Math.floor(y / this.cell)}`;
  }
}

/**
 * Strokes over air of which an end is held by nothing yet: neither by the layer below nor by what was laid before in
 * their own layer.
 *
 * @param width of a bead, mm
 */
export function unheld(steps: readonly Step[], width: number): { layer: number; stroke: Stroke }[] {
  const found: { layer: number; stroke: Stroke }[] = [];
  let below = new Laid(HOLDS * width);
  let own = new Laid(HOLDS * width);
  let layer = 0;
  for (const step of steps) {
    if (step.do === 'layer') {
      if (step.index > 0) below = own;
      own = new Laid(HOLDS * width);
      layer = step.index;
    }
    if (step.do !== 'stroke') continue;
    const { role, path } = step;
    const held = (end: Point) => below.holds(end) || own.holds(end);
    if (layer > 0 && role === 'bridge' && !(held(path[0]!) && held(path.at(-1)!)))
      found.push({ layer, stroke: step });
    own.add(path);
  }
  return found;
}
