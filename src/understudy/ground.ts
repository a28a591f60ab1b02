/** What lies where on the bed: the top of the plastic, when it was laid and how hot, cell by cell. */

import type { Box } from '../core/bench/bed';

/** Side of a cell, mm: a third of a narrow bead. */
export const CELL = 0.15;
/** Heights closer than this, mm, are the same layer. */
const SAME = 1e-3;

export class Ground {
  private readonly wide: number;
  private readonly tall: number;
  /** Top of the plastic, and top of what lay there before the newest layer. */
  private readonly top: Float32Array;
  private readonly under: Float32Array;
  private readonly laidAt: Float32Array;
  private readonly heat: Float32Array;
  /** Height of the newest plastic here that rests on something, or on one that does. */
  private readonly heldAt: Float32Array;

  constructor(private readonly box: Box) {
    this.wide = Math.max(1, Math.ceil((box.maxX - box.minX) / CELL) + 2);
    this.tall = Math.max(1, Math.ceil((box.maxY - box.minY) / CELL) + 2);
    const cells = this.wide * this.tall;
    this.top = new Float32Array(cells);
    this.under = new Float32Array(cells);
    this.laidAt = new Float32Array(cells).fill(-1e6);
    this.heat = new Float32Array(cells);
    this.heldAt = new Float32Array(cells);
  }

  /** @returns −1 off the map */
  private cell(x: number, y: number): number {
    const column = Math.round((x - this.box.minX) / CELL);
    const row = Math.round((y - this.box.minY) / CELL);
    if (column < 0 || row < 0 || column >= this.wide || row >= this.tall) return -1;
    return row * this.wide + column;
  }

  /** Height of what lies under a bead whose top is at `z`; the bed is 0. */
  below(x: number, y: number, z: number): number {
    const at = this.cell(x, y);
    if (at === -1) return 0;
    return this.top[at]! < z - SAME ? this.top[at]! : this.under[at]!;
  }

  /** Whether plastic of the layer at `z` lies here and rests on something. */
  held(x: number, y: number, z: number): boolean {
    const at = this.cell(x, y);
    return at !== -1 && Math.abs(this.top[at]! - z) < SAME && this.heldAt[at] === this.top[at];
  }

  /** How hot, and how long ago, the plastic on top was laid. */
  last(x: number, y: number): { heat: number; at: number } {
    const cell = this.cell(x, y);
    return cell === -1 ? { heat: 0, at: -1e6 } : { heat: this.heat[cell]!, at: this.laidAt[cell]! };
  }

  /** Whether plastic lies at a height, mm, within half a layer. */
  holds(x: number, y: number, z: number, layer: number): boolean {
    const cell = this.cell(x, y);
    return cell !== -1 && this.top[cell]! > z - 1.5 * layer;
  }

  /** Whether a place at a height is seen from the front or from behind, past what stands there. */
  inSight(x: number, y: number, z: number, layer: number): boolean {
    const { minY, maxY } = this.box;
    const free = (end: number) => {
      const step = end < y ? -CELL : CELL;
      for (let at = y + step; step < 0 ? at > end : at < end; at += step)
        if (this.holds(x, at, z, layer)) return false;
      return true;
    };
    return free(minY) || free(maxY);
  }

  lay(x: number, y: number, z: number, time: number, heat: number, rests: boolean): void {
    const at = this.cell(x, y);
    if (at === -1) return;
    if (this.top[at]! < z - SAME) {
      this.under[at] = this.top[at]!;
      this.top[at] = z;
    } else if (this.top[at]! > z + SAME) {
      // Lower than what stands here: another nozzle, or a file that goes down again.
      return;
    }
    this.laidAt[at] = time;
    this.heat[at] = heat;
    this.heldAt[at] = rests ? this.top[at]! : 0;
  }
}
