/**
 * What to know of a file that somebody else made, before it is trusted: where it differs from the bench it is to be
 * printed on, and commands that a test print should not send.
 */

import type { Bench } from '../bench/bench';
import { bedBox } from '../bench/bed';
import { firmwareOf, type Firmware } from '../dialect/dialect';
import { parseCommand, type Command } from '../dialect/command';
import { short } from '../numbers';
import type { Audit } from './audit';
import type { Lines } from './lines';
import type { Remark } from './remark';
import { MOVE, type Trace } from './trace';

/** Commands that reach beyond a print, by what they do. */
const REACHES: {
  code: string;
  words: RegExp;
  what: string;
  only?: (command: Command) => boolean;
}[] = [
  {
    code: 'stores',
    words: /^(SAVE_CONFIG|M929|M928)$/,
    what: 'saves settings to the machine’s memory or a file',
  },
  { code: 'resets', words: /^(M501|M502|M504)$/, what: 'loads or resets the machine’s settings' },
  {
    code: 'steps',
    words: /^(M92|SET_EXTRUDER_ROTATION_DISTANCE|SET_EXTRUDER_STEP_DISTANCE)$/,
    what: 'changes how many steps make a millimetre',
    only: ({ params, word }) => word !== 'M92' || params.size > 0,
  },
  {
    code: 'tunes',
    words: /^(M303|M301|M304|M306|PID_CALIBRATE|SET_HEATER_PID)$/,
    what: 'tunes a heater or changes how it is controlled',
  },
  // Speed and acceleration limits, and what is stored by M500, the file's own check tells already.
  {
    code: 'limits',
    words: /^(M143|M570)$/,
    what: 'changes what the machine takes for a fault of a heater',
  },
  {
    code: 'files',
    words: /^(M28|M29|M30|M471|M472|M37|SDCARD_RESET_FILE)$/,
    what: 'writes or deletes files',
  },
  {
    code: 'guards',
    words: /^(M302|M211|M562|M563|SET_IDLE_TIMEOUT|M412|M591)$/,
    what: 'switches off a protection: cold extrusion, end stops or a sensor',
    only: ({ word, params }) =>
      word === 'M302' ||
      word === 'M562' ||
      (/^(M211|M412|M591)$/.test(word) && params.get('S') === '0'),
  },
  {
    code: 'restarts',
    words: /^(M997|M999|FIRMWARE_RESTART|RESTART|M112)$/,
    what: 'restarts or stops the firmware',
  },
  {
    code: 'offsets',
    words: /^(M206|M428|M851|M665|M666|SET_GCODE_OFFSET)$/,
    what: 'moves where the machine takes its places to be',
    only: ({ params }) => params.size > 0,
  },
];

/** What commands of each firmware look like; a file may be made for another. */
const SPEAKS: [Firmware, RegExp][] = [
  ['D', /^(SET_[A-Z_]+|[A-Z]+_[A-Z_]+)$/],
  ['C', /^(M572|M566|M568|M207\.\d)$/],
];

export function strangeIn(trace: Trace, lines: Lines, bench: Bench, told: Audit): Remark[] {
  return [...reaching(lines), ...differing(trace, lines, bench, told)];
}

function reaching(lines: Lines): Remark[] {
  const found = new Map<string, Remark>();
  lines.others((text, line) => {
    if (/^\s*;/.test(text)) return;
    const command = parseCommand(text);
    if (!command) return;
    const reach = REACHES.find(
      ({ words, only }) => words.test(command.word) && (!only || only(command)),
    );
    if (!reach) return;
    const known = found.get(reach.code);
    if (known) known.count++;
    else
      found.set(reach.code, {
        grade: 'warning',
        code: `reaches-${reach.code}`,
        line,
        count: 1,
        what: `${command.word} ${reach.what}: a test print should not do this.`,
        mend: 'Remove the line, or take start and end from your own bench.',
      });
  });
  return [...found.values()];
}

function differing(trace: Trace, lines: Lines, bench: Bench, told: Audit): Remark[] {
  const { machine, filament } = bench;
  const remarks: Remark[] = [];
  const note = (code: string, line: number | null, what: string, mend: string) =>
    remarks.push({ grade: 'note', code: `differs-${code}`, line, count: 1, what, mend });
  const bed = bedBox(machine.bed);
  const { box } = told;
  if (
    box &&
    (box.minX < bed.minX || box.maxX > bed.maxX || box.minY < bed.minY || box.maxY > bed.maxY)
  )
    note(
      'bed',
      null,
      `It is laid from x ${short(box.minX)} to ${short(box.maxX)} and y ${short(box.minY)} to ${short(box.maxY)} mm; the bed of ${machine.name} spans ${short(bed.minX)} to ${short(bed.maxX)} and ${short(bed.minY)} to ${short(bed.maxY)} mm.`,
      'Slice it for this bed.',
    );
  const said = diameterIn(lines);
  if (said && Math.abs(said.value - filament.diameter) > 0.05)
    note(
      'filament',
      said.line,
      `It was sliced for filament of ${short(said.value)} mm; ${filament.name} has ${short(filament.diameter)} mm.`,
      'Slice it for this filament: everything would get the wrong amount.',
    );
  const { nozzle } = told.hottest;
  if (nozzle > 0 && (nozzle < filament.nozzle.min || nozzle > filament.nozzle.max))
    note(
      'nozzle',
      null,
      `It heats the nozzle to ${short(nozzle)} °C; the label of ${filament.name} says ${short(filament.nozzle.min)} to ${short(filament.nozzle.max)} °C.`,
      'Look whether it was sliced for another material.',
    );
  if (told.hottest.bed > 0 && Math.abs(told.hottest.bed - filament.bed) > 15)
    note(
      'bed-heat',
      null,
      `It heats the bed to ${short(told.hottest.bed)} °C; ${filament.name} usually gets ${short(filament.bed)} °C.`,
      'Look whether it was sliced for another material.',
    );
  const tools = new Set<number>();
  for (let i = 0; i < trace.moves.count; i++)
    if (trace.moves.kind[i] === MOVE.extrude) tools.add(trace.moves.tool[i]!);
  const has = machine.extruder.tools;
  if (tools.size > has || [...tools].some((tool) => tool >= has))
    note(
      'tools',
      null,
      `It prints with ${tools.size === 1 ? `tool ${[...tools][0]! + 1}` : `${tools.size} tools`}; ${machine.name} has ${has}.`,
      'Slice it for one nozzle.',
    );
  const mode = modeOf(lines);
  const firmware = firmwareOf(machine.dialect);
  note(
    'extrusion',
    mode.line,
    `Its extrusion is ${mode.relative ? 'relative (M83)' : 'absolute (M82)'}.`,
    'Nothing needs doing: both are read.',
  );
  const other = spokenIn(lines);
  if (other && other.firmware !== firmware)
    note(
      'commands',
      other.line,
      `${other.word} is a command of another kind of firmware than that of ${machine.name}.`,
      'Slice it for this machine, or take start and end from your own bench.',
    );
  return remarks;
}

/** What a comment says of the filament's diameter, mm. */
function diameterIn(lines: Lines): { value: number; line: number } | null {
  let found: { value: number; line: number } | null = null;
  lines.comments((text, line) => {
    if (found) return;
    const said = /filament[ _]?diameter\s*[:=]\s*(\d+(?:\.\d+)?)/i.exec(text);
    const value = said ? Number(said[1]) : NaN;
    if (value > 0.5 && value < 5) found = { value, line };
  });
  return found;
}

function modeOf(lines: Lines): { relative: boolean; line: number | null } {
  let mode: { relative: boolean; line: number | null } = { relative: false, line: null };
  lines.others((text, line) => {
    const said = /^\s*[Mm]8([23])\b/.exec(text);
    if (said) mode = { relative: said[1] === '3', line };
  });
  return mode;
}

/** Fewer such commands than this may be a slip. */
const FEWEST = 2;

function spokenIn(lines: Lines): { firmware: Firmware; word: string; line: number } | null {
  const seen = new Map<Firmware, { word: string; line: number; count: number }>();
  lines.others((text, line) => {
    if (/^\s*;/.test(text)) return;
    const command = parseCommand(text);
    const spoken = command && SPEAKS.find(([, words]) => words.test(command.word));
    if (!spoken) return;
    const known = seen.get(spoken[0]);
    if (known) known.count++;
    else seen.set(spoken[0], { word: command.word, line, count: 1 });
  });
  for (const [firmware, { word, line, count }] of seen)
    if (count >= FEWEST) return { firmware, word, line };
  return null;
}
