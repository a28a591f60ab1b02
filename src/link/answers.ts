/** What a machine says on the wire, line by line, in the usual spellings (docs/domain.md §11). */

import type { Temperatures } from '../core/link-state';

export type Answer =
  /** A line was taken: which one, and how much room is left, where the machine says so. */
  | { kind: 'ok'; line?: number; room?: number; heat?: Temperatures }
  /** Send this line again, and those after it. */
  | { kind: 'resend'; line: number }
  /** A line came damaged or out of turn; a wish to have it again follows. */
  | { kind: 'spoilt' }
  /** It has stopped and takes nothing any more. */
  | { kind: 'halted'; text: string }
  /** It refused something and goes on. */
  | { kind: 'error'; text: string }
  | { kind: 'busy'; forPerson: boolean }
  | { kind: 'wait' }
  /** It has just been switched on, or has restarted. */
  | { kind: 'greeting' }
  | { kind: 'heat'; heat: Temperatures }
  | { kind: 'unknown'; word: string }
  | { kind: 'text'; text: string };

const OK = /^ok\b/i;
const OK_LINE = /\bN(\d+)/;
const OK_ROOM = /\bB(\d+)/;
const RESEND = /^(?:resend|rs)\s*:?\s*N?\s*(\d+)/i;
const SPOILT = /line ?number|checksum|\blast line\b|\bline \d+ came\b|no line number|format error/i;
const HALTED =
  /halted|kill\(?\)? ?called|\bstopped\b|thermal|heating failed|max ?temp|min ?temp|emergency/i;
const BUSY = /^(?:echo:\s*)?(?:busy\b|.*\bbusy:)/i;
const GREETING =
  /^(?:start|(?:echo:\s*)?(?:power ?up|external reset|software reset|watchdog reset|brown out reset).*)$/i;
const UNKNOWN = /unknown command:?\s*"?([A-Z_][A-Z0-9_.]*)/i;
const REFUSED = /cold extrusion|too (?:hot|cold)|not allowed|out of range/i;
const HEATER = /(?:^|\s)(T\d?|B):\s*(-?\d+(?:\.\d+)?)(?:\s*\/\s*(-?\d+(?:\.\d+)?))?/g;

/** Temperatures in a line; null where it has none. */
export function heatIn(text: string): Temperatures | null {
  const heat: Temperatures = {};
  for (const [, name, now, target] of text.matchAll(HEATER)) {
    const told = { now: Number(now), target: target === undefined ? NaN : Number(target) };
    if (name === 'B') heat.bed = told;
    else if (heat.nozzle) (heat.others ??= []).push(told);
    else heat.nozzle = told;
  }
  return heat.nozzle || heat.bed ? heat : null;
}

/** Reads one line that the machine has sent, without its line end. @returns null for an empty one */
export function readAnswer(line: string): Answer | null {
  if (line === 'ok') return { kind: 'ok' };
  const text = line.trim();
  if (text === '') return null;
  if (OK.test(text)) return taken(text);
  const again = RESEND.exec(text);
  if (again) return { kind: 'resend', line: Number(again[1]) };
  if (text.startsWith('!!')) return { kind: 'halted', text: text.slice(2).trim() };
  if (/^error/i.test(text)) {
    const said = text.replace(/^error:?\s*/i, '');
    // What has stopped is looked for first: "line" stands in many words.
    if (HALTED.test(said) && !/checksum/i.test(said)) return { kind: 'halted', text: said };
    if (SPOILT.test(said)) return { kind: 'spoilt' };
    const unknown = UNKNOWN.exec(said);
    return unknown
      ? { kind: 'unknown', word: unknown[1]!.toUpperCase() }
      : { kind: 'error', text: said };
  }
  if (BUSY.test(text)) return { kind: 'busy', forPerson: /user|button/i.test(text) };
  if (/^wait\b/i.test(text)) return { kind: 'wait' };
  if (GREETING.test(text)) return { kind: 'greeting' };
  const unknown = UNKNOWN.exec(text);
  if (unknown) return { kind: 'unknown', word: unknown[1]!.toUpperCase() };
  const heat = heatIn(text);
  if (heat) return { kind: 'heat', heat };
  if (/^(?:echo:|\/\/)/.test(text) && REFUSED.test(text))
    return { kind: 'error', text: text.replace(/^(?:echo:|\/\/)\s*/, '') };
  return { kind: 'text', text };
}

function taken(text: string): Answer {
  const answer: Answer = { kind: 'ok' };
  const line = OK_LINE.exec(text);
  const room = OK_ROOM.exec(text);
  if (line) answer.line = Number(line[1]);
  // `B:60.2` is a bed, `B3` is room.
  if (room) answer.room = Number(room[1]);
  const heat = heatIn(text);
  if (heat) answer.heat = heat;
  return answer;
}
