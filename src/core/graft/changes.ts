/** The commands that are put in: where sections begin, with every layer of a climb, and where the tested part ends. */

import type { Bench } from '../bench/bench';
import { settingInfo, valueLine, type Setting, type Values } from '../bench/settings';
import { CHANGES, type Change } from '../dialect/changes';
import { firmwareOf } from '../dialect/dialect';
import { MOVE, type Trace } from '../gcode/trace';
import { short, tidy } from '../numbers';
import { parseCommand } from '../dialect/command';
import type { Lines } from '../gcode/lines';
import type { Way } from '../plan/plan';
import { placeFor, sectionFinder, type Crossings } from './crossings';
import { HELD_BY, RETRACTION_COMMANDS, type Found } from './obstacles';
import type { Climbs, Wish } from './recipe';
import type { Source } from './source';
import type { Edits } from './text';

/** What one value holds throughout: the one that is in force when the tested part begins. */
export function heldBy(
  { mends }: Wish,
  obstacles: readonly Found[],
  trace: Trace,
  part: { from: number },
  bench: Bench,
): Values {
  const held: Values = {};
  for (const { kind, climbs, values } of obstacles) {
    const setting = HELD_BY[kind];
    if (climbs || mends[kind] !== 'hold' || !setting) continue;
    const before = stateAt(trace, part.from, setting);
    const value = before ?? values[0];
    if (value !== undefined && lineFor(setting, value, bench)) held[setting] = value;
  }
  return held;
}

/** Changes of a trace that tell a setting by command. */
function changesOf(setting: Setting): readonly Change[] {
  const { override, changes = [] } = settingInfo(setting);
  return override ? [override.change] : changes;
}

/** What the file itself has in force of a setting before a line; null where it has not said so. */
function stateAt({ changes }: Trace, line: number, setting: Setting): number | null {
  const codes = changesOf(setting).map((name) => CHANGES.indexOf(name));
  let value: number | null = null;
  for (let i = 0; i < changes.count && changes.line[i]! < line; i++)
    if (codes.includes(changes.code[i]!)) value = changes.value[i]!;
  return value;
}

/** The command that sets a value; null where this machine cannot be told. */
export const lineFor = (setting: Setting, value: number, bench: Bench): string | null =>
  settingInfo(setting).override?.command(value) ?? valueLine(setting, value, bench);

/** Retraction as the firmware does it: what climbs, in one line. */
function firmwareLine(set: Values, bench: Bench): string[] {
  const { machine } = bench;
  const named = firmwareOf(machine.dialect) === 'D';
  const parts: string[] = [];
  const { retraction, retractSpeed, restartExtra, restartSpeed, lift } = set;
  if (named) {
    if (retraction !== undefined) parts.push(`RETRACT_LENGTH=${short(retraction)}`);
    if (retractSpeed !== undefined) parts.push(`RETRACT_SPEED=${short(retractSpeed)}`);
    if (restartExtra !== undefined) parts.push(`UNRETRACT_EXTRA_LENGTH=${short(restartExtra)}`);
    if (restartSpeed !== undefined) parts.push(`UNRETRACT_SPEED=${short(restartSpeed)}`);
    return parts.length > 0 ? [`SET_RETRACTION ${parts.join(' ')}`] : [];
  }
  if (retraction !== undefined) parts.push(`S${short(retraction)}`);
  if (retractSpeed !== undefined) parts.push(`F${short(60 * retractSpeed)}`);
  if (lift !== undefined) parts.push(`Z${short(lift)}`);
  const lines = parts.length > 0 ? [`M207 ${parts.join(' ')}`] : [];
  const back: string[] = [];
  if (restartExtra !== undefined) back.push(`S${short(restartExtra)}`);
  if (restartSpeed !== undefined) back.push(`F${short(60 * restartSpeed)}`);
  return back.length > 0 ? [...lines, `M208 ${back.join(' ')}`] : lines;
}

export type Making = {
  source: Source;
  wish: Wish;
  /** Heights at which sections begin, at layers. */
  from: readonly number[];
  crossings: Crossings;
  climbing: readonly Climbs[];
  ways: Partial<Record<Setting, Way>>;
  held: Values;
  bench: Bench;
};

/** Puts commands in where sections begin. @returns for each section the line of the file before which it is set first */
export function putChanges({ edits, ...making }: Making & { edits: Edits }): number[] {
  const { wish, crossings, climbing, ways, held, bench } = making;
  const rungLines: number[] = [];
  const byCommand = climbing.filter((one) => ways[one] === 'command');
  const firmware = climbing.filter((one) => ways[one] === 'firmware');
  let holding = false;
  for (const { section, line, stroke } of crossings.crossings) {
    // What was drawn back by the firmware is pushed again by the same values: they change behind it.
    const behind = making.source.trace.moves.line[stroke]!;
    if (section === -1) {
      edits.put(line, ...backAt(making, line, byCommand));
      edits.put(behind, ...firmwareBack(making, line, firmware));
      holding = false;
      continue;
    }
    rungLines[section] ??= line;
    const texts: string[] = [`; section ${section + 1} of ${wish.rows.length}`];
    if (!holding)
      for (const [setting, value] of Object.entries(held) as [Setting, number][])
        texts.push(lineFor(setting, value, bench)!);
    holding = true;
    const { set } = wish.rows[section]!;
    for (const setting of byCommand) {
      const value = set[setting];
      if (value === undefined || setting === wish.slope?.setting) continue;
      texts.push(...[lineFor(setting, value, bench)].filter((one) => one !== null));
    }
    edits.put(line, ...texts);
    edits.put(behind, ...firmwareLine(only(set, firmware), bench));
  }
  if (wish.slope) putSlope({ edits, ...making });
  // What the file changed on the way is lifted out: at its end stands what stood before the first section.
  const first = crossings.crossings.find(({ section }) => section >= 0)?.line ?? crossings.end;
  edits.put(
    crossings.end,
    ...backAt(making, first, byCommand),
    ...firmwareBack(making, first, firmware),
  );
  return rungLines;
}

export const only = (set: Values, names: readonly Setting[]): Values =>
  Object.fromEntries(Object.entries(set).filter(([name]) => names.includes(name as Setting)));

/** A value that climbs with the height: one command a layer. */
function putSlope({ edits, source, wish, from, bench }: Making & { edits: Edits }): void {
  const { setting, perMm } = wish.slope!;
  const { moves } = source.trace;
  const sectionOf = sectionFinder(from);
  let last = '';
  for (const { z, from: first, to } of source.layers) {
    const section = sectionOf(z);
    if (section === -1) continue;
    let stroke = first;
    while (stroke < to && moves.kind[stroke] !== MOVE.extrude) stroke++;
    const start = wish.rows[section]!.set[setting] ?? 0;
    const value = Math.max(0, tidy(start + perMm * (z - from[section]!)));
    const text = lineFor(setting, Number(value.toFixed(5)), bench);
    if (text === null || text === last) continue;
    last = text;
    let before = stroke - 1;
    while (before > 0 && moves.kind[before] !== MOVE.extrude) before--;
    edits.put(placeFor(source.trace, before, stroke), text);
  }
}

/** What stands again where the tested part ends: what the file itself has in force there, else what is known of the bench. */
function backAt(
  { source, bench, held }: Making,
  line: number,
  byCommand: readonly Setting[],
): string[] {
  const texts: string[] = ['; sections end: as before'];
  for (const setting of [...byCommand, ...(Object.keys(held) as Setting[])]) {
    const own = stateAt(source.trace, line, setting);
    const value = own ?? usualOf(setting, bench);
    if (!Number.isFinite(value)) continue;
    const restored = own === null ? (settingInfo(setting).restored?.(bench) ?? null) : null;
    const text = restored ?? lineFor(setting, value, bench);
    if (text !== null) texts.push(text);
  }
  return texts;
}

/** Retraction settings as the file said them last before a line, in its own words; else as the machine is described. */
function firmwareBack(
  { source, bench }: Making,
  line: number,
  firmware: readonly Setting[],
): string[] {
  if (firmware.length === 0) return [];
  const own = saidBefore(source.lines, line);
  const { distance, speed, lift } = bench.machine.retraction;
  const usual = { retraction: distance, retractSpeed: speed, lift };
  return [
    ...firmwareLine(only({ ...usual, restartExtra: 0, restartSpeed: speed }, firmware), bench),
    ...own,
  ];
}

function saidBefore(lines: Lines, line: number): string[] {
  const last = new Map<string, string>();
  lines.others((text, at) => {
    if (at >= line) return;
    const command = parseCommand(text);
    if (command && RETRACTION_COMMANDS.has(command.word)) last.set(command.word, text.trim());
  });
  return [...last.values()];
}

/** What a machine has where no file says so: heaters and fan off, factors at one, the rest as it is described. */
function usualOf(setting: Setting, bench: Bench): number {
  if (setting === 'fan') return 0;
  return bench.tuned?.[setting] ?? settingInfo(setting).usual(bench);
}
