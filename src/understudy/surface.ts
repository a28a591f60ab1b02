/** What lies where on the bed: the top of the plastic, when it was laid and how hot, cell by cell. */

import type { Box } from '../core/bench/bed';

/** Side of a cell, mm: a third of a narrow bead. */
export const CELL = 0.15;
/** Step across a bead, mm, that leaves no cell out, however the bead slants. */
const ACROSS = CELL * 0.7;
/** Cells whose middle lies this far outside a bead, mm, may still be touched by it. */
const RIM = CELL / 2;
/** Heights closer than this, mm, are the same layer. */
const SAME = 1e-3;

export class Surface {
  private readonly wide: number;
  private readonly tall: number;
  /** Top of the plastic, and top of what lay there before the newest layer, mm. */
  private readonly top: Float32Array;
  private readonly before: Float32Array;
  private readonly laidAt: Float32Array;
  private readonly heat: Float32Array;
  /** Share of a cell that is covered at its top and at what lay there before, and the stroke that did it last. */
  private readonly cover: Float32Array;
  private readonly coverUnder: Float32Array;
  private readonly stroke: Int32Array;
  /** Height of the newest plastic here that rests on something, or on one that does. */
  private readonly heldAt: Float32Array;

  constructor(private readonly box: Box) {
    this.wide = Math.max(1, Math.ceil((box.maxX - box.minX) / CELL) + 2);
    this.tall = Math.max(1, Math.ceil((box.maxY - box.minY) / CELL) + 2);
    const cells = this.wide * this.tall;
    this.top = new Float32Array(cells);
    this.before = new Float32Array(cells);
    this.laidAt = new Float32Array(cells).fill(-1e6);
    this.heat = new Float32Array(cells);
    this.cover = new Float32Array(cells);
    this.coverUnder = new Float32Array(cells);
    this.stroke = new Int32Array(cells).fill(-1);
    this.heldAt = new Float32Array(cells);
  }

  /** @returns −1 off the map */
  private cell(x: number, y: number): number {
    const column = Math.round((x - this.box.minX) / CELL);
    const row = Math.round((y - this.box.minY) / CELL);
    if (column < 0 || row < 0 || column >= this.wide || row >= this.tall) return -1;
    return row * this.wide + column;
  }

  /** Share of a place that a bead with its top at `z` finds covered by plastic no lower than `least`. */
  under(x: number, y: number, z: number, least: number): number {
    const at = this.cell(x, y);
    if (at === -1) return 0;
    if (this.top[at]! < z - SAME) return this.top[at]! > least ? this.cover[at]! : 0;
    return this.before[at]! > least ? this.coverUnder[at]! : 0;
  }

  /** Whether nothing but the bed lies under a bead with its top at `z`. */
  bare(x: number, y: number, z: number): boolean {
    const at = this.cell(x, y);
    if (at === -1) return true;
    const below = this.top[at]! < z - SAME ? this.top[at]! : this.before[at]!;
    return below === 0;
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

  /**
   * Lays a piece of a bead that runs along (ux, uy) with its middle at x, y, `ds` mm long and `half` mm to either
   * side. A cell at its rim is covered in part, so that support changes steadily with the lean.
   */
  lay(
    { x, y, z, ux, uy }: { x: number; y: number; z: number; ux: number; uy: number },
    ds: number,
    half: number,
    laid: { time: number; heat: number; rests: boolean; stroke: number },
  ): void {
    // A sample is longer than a cell: it is laid in two steps, or slanted beads would have holes.
    for (const along of [-ds / 4, ds / 4])
      for (let across = -half - RIM; across <= half + RIM; across += ACROSS) {
        const px = x + ux * along - uy * across;
        const py = y + uy * along + ux * across;
        const at = this.cell(px, py);
        if (at === -1) continue;
        const cx = this.box.minX + (at % this.wide) * CELL;
        const cy = this.box.minY + Math.floor(at / this.wide) * CELL;
        const off = Math.abs((cy - y) * ux - (cx - x) * uy);
        const share = (half - off) / CELL + 0.5;
        if (share > 0) this.put(at, z, Math.min(1, share), laid);
      }
  }

  private put(
    at: number,
    z: number,
    share: number,
    { time, heat, rests, stroke }: { time: number; heat: number; rests: boolean; stroke: number },
  ): void {
    if (this.top[at]! < z - SAME) {
      this.before[at] = this.top[at]!;
      this.coverUnder[at] = this.cover[at]!;
      this.top[at] = z;
      this.cover[at] = share;
    } else if (this.top[at]! > z + SAME) {
      // Lower than what stands here: another nozzle, or a file that goes down again.
      return;
    } else if (this.stroke[at] !== stroke) this.cover[at] = Math.min(1, this.cover[at]! + share);
    this.stroke[at] = stroke;
    this.laidAt[at] = time;
    this.heat[at] = heat;
    this.heldAt[at] = rests ? this.top[at]! : 0;
  }
}
