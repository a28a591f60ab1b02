/**
 * Melt between feeder and nozzle (domain.md §3): a spring against a resistance, so that what comes out follows
 * what goes in with one time constant. Some of the spring, the filament itself, gives way only in time: quick changes
 * meet a stiffer one. The filament path has slack that a retraction must take up first.
 */

import { fluidity } from './plastic';
import type { Truths } from './truths';

/** Melt that is drawn back this far, mm of filament, closes the nozzle. */
const CLOSES = 0.35;
/** The feeder slips at this many times the pressure that full flow needs. */
const SLIPS = 1.5;
/** Mean speed of a usual short travel, mm/s. */
const USUAL_TRAVEL = 80;
/** How sharply the melt limit cuts: 4 is a soft knee. */
const KNEE = 4;

export class Melt {
  /** Filament that is pressed together behind the nozzle, mm; below 0 the nozzle is drawn empty. */
  pressed = 0;
  /** How much of that has crept into the filament and presses no more, mm. */
  private crept = 0;
  /** Slack that a retraction has taken up, mm. */
  private loose = 0;

  /** Melt that flowed after a slow pull, mm of filament. */
  private followed = 0;

  /** Leak of a closed nozzle as a share of an open one: such that it draws threads from `stringsFrom`. */
  private readonly leakClosed: number;

  /** @param strand section of the filament, mm² */
  constructor(
    private readonly truths: Truths,
    private readonly strand: number,
  ) {
    const { stringsFrom, works, leak, threadHolds } = truths;
    this.leakClosed = Math.min(
      1,
      (threadHolds * USUAL_TRAVEL) / (leak * fluidity(stringsFrom, works)),
    );
  }

  /** Time constant, s, at a melt temperature and a flow, mm³/s. */
  lag(celsius: number, flow: number): number {
    const { lag, lagHalf, works } = this.truths;
    // Hotter melt resists less; shear thinning makes faster flow easier.
    return (lag * Math.sqrt(1 / fluidity(celsius, works))) / (1 + Math.max(0, flow) / lagHalf);
  }

  /** Melts at most at a temperature, mm³/s. */
  limit(celsius: number): number {
    return this.truths.melts * Math.sqrt(fluidity(celsius, this.truths.works));
  }

  /**
   * Feeds filament, mm (below 0: draws back), over some seconds.
   *
   * @returns what comes out, mm³
   */
  feed(length: number, seconds: number, celsius: number): number {
    const { truths, strand } = this;
    let moved = length * truths.feeds;
    // Feeder and melt are joined with play: only what goes beyond it moves the melt.
    if (moved < 0) {
      const taken = Math.min(-moved, truths.slack - this.loose);
      this.loose += taken;
      moved += taken;
      // Melt that is drawn back slowly flows after; only a quick pull parts it from the bore.
      if (seconds > 0 && moved < 0) {
        const pace = (-length * truths.feeds) / seconds;
        const follows = -moved * (truths.follows / (truths.follows + pace));
        this.followed += follows;
        moved += follows;
      }
    } else {
      const given = Math.min(moved, this.loose);
      this.loose -= given;
      moved -= given;
      // What followed is in the way of what comes back.
      const back = Math.min(moved, this.followed);
      this.followed -= back;
      moved -= back;
    }
    if (seconds <= 0) {
      this.pressed += moved;
      return 0;
    }
    if (this.pressed + moved <= 0) {
      this.pressed += moved;
      return 0;
    }
    this.creep(seconds);
    const quick = 1 - truths.creeps;
    const free = this.pressed - this.crept;
    const lag = quick * this.lag(celsius, (Math.max(0, free) / (quick * truths.lag)) * strand);
    const rate = moved / seconds;
    // Exact for a steady feed: p′ = rate − p / lag.
    const before = Math.max(0, free);
    const gap = Math.min(0, free);
    const after = rate * lag + (before - rate * lag) * Math.exp(-seconds / lag);
    const out = before + moved + gap - after;
    if (out <= 0) {
      this.pressed = this.crept + before + moved + gap;
      return 0;
    }
    // No more comes out than is melted; what stays behind presses on until the feeder slips.
    const limit = this.limit(celsius);
    const melted = out / (1 + ((out * strand) / seconds / limit) ** KNEE) ** (1 / KNEE);
    this.pressed =
      this.crept + Math.min(after + out - melted, Math.max(after, SLIPS * (limit / strand) * lag));
    return melted * strand;
  }

  /** The slow part of the spring follows what is pressed together. */
  private creep(seconds: number): void {
    const { creeps, creepsOver } = this.truths;
    const rest = creeps * Math.max(0, this.pressed);
    this.crept = rest + (this.crept - rest) * Math.exp(-seconds / creepsOver);
  }

  /** A jump of the feeder by pressure advance, mm: at once, and through the slack. */
  advance(length: number): void {
    this.pressed += length;
  }

  /** Leaks while nothing is fed. @returns mm³ that hang from the nozzle */
  leak(seconds: number, celsius: number): number {
    const { leak, works } = this.truths;
    const closed = Math.min(1, Math.max(0, -this.pressed / CLOSES));
    const open = 1 - closed + closed * this.leakClosed;
    this.creep(seconds);
    let out = leak * open * fluidity(celsius, works) * seconds;
    const dripped = out / this.strand;
    if (this.pressed > 0) {
      const lag = this.lag(celsius, 0);
      const left = this.pressed * Math.exp(-seconds / lag);
      out += (this.pressed - left) * this.strand;
      this.pressed = left;
    }
    // What dripped is missing when the next stroke starts.
    this.pressed -= dripped;
    return out;
  }
}
