/**
 * What is done to a machine for the time being: filament drawn back, the head lifted, other modes, heat let go. Every
 * step counts when the machine has taken it, so that exactly what was done is undone, whatever came between.
 */

import { short, tidy } from '../core/numbers';
import type { Modes } from './modes';

/** Drawn back and lifted while it stands, mm. */
const DRAWN = 2;
const LIFTED = 5;

/** Gives one line to the machine. @param taken is called once it is sure that it was taken @returns whether that is sure now */
export type Own = (command: string, taken?: () => void) => Promise<boolean>;

export class Aside {
  private drawn = 0;
  private lifted = 0;
  /** Modes may be other than those of the file. */
  private strange = false;
  /** Lines that warm again what was let go; null where nothing was. */
  private cold: readonly string[] | null = null;

  /** @param modes of the file as it stands now */
  constructor(
    private readonly own: Own,
    private readonly modes: () => Modes,
  ) {}

  /** Whether anything is to be undone. */
  get open(): boolean {
    return this.strange || this.drawn > 0 || this.lifted > 0 || this.cold !== null;
  }

  get isCold(): boolean {
    return this.cold !== null;
  }

  /** Modes may not be what they were: a link was lost somewhere. */
  doubt(): void {
    this.strange = true;
  }

  private async each(steps: readonly (readonly [string, (() => void)?])[]): Promise<boolean> {
    for (const [command, taken] of steps) if (!(await this.own(command, taken))) return false;
    return true;
  }

  private relative(): [string][] {
    this.strange = true;
    return [...(this.modes().inches ? [['G21'] as [string]] : []), ['G91']];
  }

  /**
   * Draws back and lifts, as far as that was not done yet. @param melts whether filament can be moved: a cold machine
   * refuses that, and would be pushed out twice after. @returns whether it stands so now
   */
  async out(melts: boolean): Promise<boolean> {
    if (!(await this.own('M400'))) return false;
    const draws = melts && this.drawn === 0;
    if (!draws && this.lifted > 0) return true;
    return this.each([
      ...this.relative(),
      ['M83'],
      ...(draws ? [[`G1 E-${DRAWN} F1800`, () => (this.drawn = DRAWN)] as const] : []),
      ...(this.lifted > 0 ? [] : [[`G1 Z${LIFTED} F600`, () => (this.lifted = LIFTED)] as const]),
      ['G90'],
    ]);
  }

  /** Heaters are off for now: these lines bring them back. */
  letGo(warm: readonly string[]): void {
    this.cold = warm;
  }

  /** Undoes everything: heat first, then height, filament and modes. @returns whether all of it is undone */
  async back(mayGoOn: () => boolean): Promise<boolean> {
    for (const line of this.cold ?? [])
      if (!mayGoOn() || !(await this.own(line)) || !mayGoOn()) return false;
    this.cold = null;
    const { drawn, lifted } = this;
    const moved = drawn > 0 || lifted > 0;
    return this.each([
      ...(moved ? [...this.relative(), ['M83'] as const] : []),
      ...(lifted > 0 ? [[`G1 Z-${lifted} F600`, () => (this.lifted = 0)] as const] : []),
      ...(drawn > 0 ? [[`G1 E${drawn} F1800`, () => (this.drawn = 0)] as const] : []),
      ...this.modes()
        .restore()
        .map((line) => [line] as const),
    ]).then((done) => {
      if (done) this.strange = false;
      return done;
    });
  }

  /** Off what was printed, for good, with the modes of the file. @param mm how far in all */
  async clear(mm: number): Promise<boolean> {
    const wasStrange = this.strange;
    const way = tidy(mm - this.lifted);
    return this.each([
      ...this.relative(),
      ...(way > 0 ? [[`G1 Z${short(way)} F600`, () => (this.lifted = mm)] as const] : []),
      ...this.modes()
        .distance()
        .map((line) => [line] as const),
      ...(wasStrange ? [[this.modes().extrusion()] as const] : []),
    ]);
  }
}
