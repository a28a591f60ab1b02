/** A job as it is written down and shown: how far it is, what was nudged, how warm it was. */

import { isOver } from '../core/job-states';
import type { HeatRow, LinkState, Progress, Temperatures } from '../core/link-state';
import type { Nudge } from '../core/plan/nudged';
import type { Records } from './records';

/** Rows of heat that are kept of a job; every second one is thrown away when there are more. */
const MOST_HEAT = 1500;
const FIRST_STEP_S = 2;
/** How often a job is written down, ms: each time is a few pages of the disk, for as long as a print takes. */
const SAVE_MS = 5000;
/** What could not be written because somebody else writes is written after this, ms. */
const AGAIN_MS = 500;

export type Sent = { id: number; name: string; file: number | null; startedAt: string };

export class KeptJob {
  private nudges: Nudge[] = [];
  private step = FIRST_STEP_S;
  private readonly began = performance.now();
  private saved = 0;
  private last: Progress | null = null;
  private rows: HeatRow[] = [];
  /** Rows that are not written down yet. */
  private fresh: HeatRow[] = [];

  constructor(
    readonly sent: Sent,
    private readonly records: Records,
    private readonly tell: () => void,
  ) {}

  get shown(): LinkState['job'] {
    return this.last && { ...this.last, ...this.sent, nudges: this.nudges };
  }

  show(progress: Progress): void {
    // That it is over is shown once it is written: whoever sees "finished" finds the print.
    if (isOver(progress.state)) return;
    const same = this.last?.state === progress.state;
    this.last = progress;
    if (!same || performance.now() - this.saved > SAVE_MS) {
      this.saved = performance.now();
      if (this.records.save(this.sent.id, progress, this.fresh, null)) this.fresh = [];
    }
    this.tell();
  }

  /** How a job ended is kept in any case, if not at once. */
  end(progress: Progress, at: string): void {
    if (!this.records.save(this.sent.id, progress, this.rows, at)) {
      setTimeout(() => this.end(progress, at), AGAIN_MS);
      return;
    }
    this.last = progress;
    this.tell();
  }

  nudged(made: Omit<Nudge, 'at'>, at: string): Nudge {
    const nudge = { ...made, at };
    this.nudges = [...this.nudges, nudge];
    this.keepNudge(nudge);
    this.tell();
    return nudge;
  }

  private keepNudge(nudge: Nudge): void {
    if (!this.records.nudge(this.sent.id, nudge)) setTimeout(() => this.keepNudge(nudge), AGAIN_MS);
  }

  /** Temperatures so far, thinned. */
  get heatRows(): readonly HeatRow[] {
    return this.rows;
  }

  warmth({ nozzle, bed }: Temperatures): void {
    const at = Math.round((performance.now() - this.began) / 100) / 10;
    if (at - (this.rows.at(-1)?.[0] ?? -Infinity) < this.step) return;
    const row: HeatRow = [
      at,
      nozzle?.now ?? 0,
      nozzle?.target || 0,
      bed?.now ?? 0,
      bed?.target || 0,
      this.last?.sure ?? 0,
    ];
    this.rows.push(row);
    this.fresh.push(row);
    if (this.rows.length <= MOST_HEAT) return;
    this.rows = this.rows.filter((_, i) => i % 2 === 0);
    this.step *= 2;
  }
}
