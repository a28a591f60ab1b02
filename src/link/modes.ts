/** What a file has set by some line: modes that a pause has to put back, and heat that has to come back first. */

import { param, parseCommand } from '../core/dialect/command';
import type { Firmware } from '../core/dialect/dialect';
import type { Lines } from '../core/gcode/lines';
import { short } from '../core/numbers';
import { stripLine } from '../core/dialect/command';

/** Almost every line is a move that changes at most the speed: what else is looked at closely. */
const TELLS = /^(?:g9[01]|g2[01]|m8[23]|m1(?:0[4679]|40|90)|t\d)\b/i;

export class Modes {
  inches = false;
  private relative = false;
  private relativeE = false;
  /** In its own units a minute; null until one was given. */
  private feed: number | null = null;
  private tool = 0;
  /** What it told each nozzle and the bed to be, °C. */
  private readonly nozzles = new Map<number, number>();
  private bed: number | null = null;
  /** The line that set each fan that is on. */
  private readonly fans = new Map<number, string>();

  constructor(private readonly firmware: Firmware) {}

  /** As they are after the first lines of a file. */
  static after(lines: Lines, count: number, firmware: Firmware): Modes {
    const modes = new Modes(firmware);
    for (let line = 1; line <= count; line++) modes.follow(stripLine(lines.line(line, true)));
    return modes;
  }

  /** Follows a line of the file, as it was sent. */
  follow(line: string): void {
    const letter = line.charCodeAt(0) | 32;
    if (letter !== 103 && letter !== 109 && letter !== 116) return;
    const isMove = /^g[0-3]\b/i.test(line);
    if (isMove && !/f/i.test(line)) return;
    if (!isMove && !TELLS.test(line)) return;
    const command = parseCommand(line);
    if (!command) return;
    const { word } = command;
    if (isMove) this.feed = param(command, 'F') ?? this.feed;
    else if (word === 'M82') this.relativeE = false;
    else if (word === 'M83') this.relativeE = true;
    else if (word === 'G20' || word === 'G21') this.inches = word === 'G20';
    else if (word === 'G90' || word === 'G91') {
      this.relative = word === 'G91';
      if (this.firmware === 'AB') this.relativeE = this.relative;
    } else if (word === 'M107') this.fans.delete(param(command, 'P') ?? 0);
    else if (word === 'M106') this.fans.set(param(command, 'P') ?? 0, line);
    else if (word.startsWith('T')) this.tool = Number(word.slice(1));
    else {
      const celsius = param(command, 'S') ?? param(command, 'R');
      if (celsius === null) return;
      if (word === 'M140' || word === 'M190') this.bed = celsius;
      else this.nozzles.set(param(command, 'T') ?? this.tool, celsius);
    }
  }

  /** The way that places are meant, and their units where they are not mm. */
  distance(): string[] {
    return [...(this.inches ? ['G20'] : []), this.relative ? 'G91' : 'G90'];
  }

  extrusion(): string {
    return this.relativeE ? 'M83' : 'M82';
  }

  /** Lines that bring these modes about again. */
  restore(): string[] {
    return [
      ...this.distance(),
      this.extrusion(),
      ...(this.feed === null ? [] : [`G1 F${short(this.feed, 1)}`]),
    ];
  }

  /** Lines that switch fans on again. */
  blow(): string[] {
    return [...this.fans.values()];
  }

  /** Lines that wait until all that it told to be warm is warm: the bed, other nozzles, and last the one at work. */
  warm(): string[] {
    const others = [...this.nozzles].filter(([tool, to]) => tool !== this.tool && to > 0);
    const own = this.nozzles.get(this.tool) ?? 0;
    const one = this.nozzles.size <= 1 && this.tool === 0;
    return [
      ...(this.bed ? [`M190 S${short(this.bed)}`] : []),
      ...others.map(([tool, to]) => `M109 T${tool} S${short(to)}`),
      ...(own > 0 ? [`M109 ${one ? '' : `T${this.tool} `}S${short(own)}`] : []),
    ];
  }
}
