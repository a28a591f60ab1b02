/**
 * Rewrites the numbers of moves, for what no command sets: extrusion, speeds, retraction, lift. The rest of a line
 * stays as it is, and so does the number of decimals that the file has.
 */

import type { Values } from '../bench/settings';
import { parseCommand, param, type Command } from '../dialect/command';
import type { Firmware } from '../dialect/dialect';
import type { Lines } from '../gcode/lines';
import { MOVE, type Trace } from '../gcode/trace';
import { short, tidy } from '../numbers';
import { fail, ok, problem, type Result } from '../result';
import { sequencesIn, type Sequence } from './sequences';

export type Rewritten = {
  /** Lines that change, rising, as they are to be, and what their numbers were: columns, since there may be millions. */
  lines: number[];
  texts: string[];
  was: string[];
  /** Lines to be put in before a line. */
  before: Map<number, string[]>;
};

export type Task = {
  /** Section of a height, −1 for none, and what is set by moves in each. */
  sectionOf: (z: number) => number;
  values: readonly Values[];
  /** How many times as fast a move is to be, beside what climbs. */
  paceOf: (move: number) => number;
  /** Speed of heights that are put in, mm/s. */
  liftSpeed: number;
  firmware: Firmware;
};

const MOVES = /^\s*[Gg]0*[0123](?![0-9])/;
export const isMove = (line: string): boolean => MOVES.test(line);
/** Lines that are looked at to learn how many decimals the file gives E. */
const LOOKED = 20_000;
/** Speeds closer than this, mm/min, are one. */
const SAME_FEED = 1e-6;
/** A coordinate of E that is off by more than this, mm, has to be set right. */
const SAME_E = 1e-9;

type Token = { at: number; end: number; text: string };

type Tokens = { E: Token | null; F: Token | null; Z: Token | null };

const [SEMICOLON, BRACKET, PLUS, MINUS, POINT, NINE, ZERO, SPACE] = [
  59, 40, 43, 45, 46, 57, 48, 32,
];

/** Where the numbers of a line stand; comments are not looked into. One pass: a file has millions of them. */
function tokensOf(line: string): Tokens {
  const found: Tokens = { E: null, F: null, Z: null };
  for (let i = 0; i < line.length; i++) {
    const code = line.charCodeAt(i);
    if (code === SEMICOLON || code === BRACKET) break;
    const letter = code & 0xdf;
    const name = letter === 69 ? 'E' : letter === 70 ? 'F' : letter === 90 ? 'Z' : null;
    if (name === null || found[name]) continue;
    let at = i + 1;
    while (line.charCodeAt(at) === SPACE) at++;
    let end = at;
    const sign = line.charCodeAt(end);
    if (sign === PLUS || sign === MINUS) end++;
    let digits = 0;
    let points = 0;
    for (; end < line.length; end++) {
      const one = line.charCodeAt(end);
      if (one >= ZERO && one <= NINE) digits++;
      else if (one === POINT && points === 0) points++;
      else break;
    }
    if (digits > 0) found[name] = { at, end, text: line.slice(at, end) };
    i = Math.max(i, end - 1);
  }
  return found;
}

export const tokenOf = (line: string, letter: 'E' | 'F' | 'Z'): Token | null =>
  tokensOf(line)[letter];

const decimalsOf = (text: string): number => {
  const point = text.indexOf('.');
  return point === -1 ? 0 : text.length - point - 1;
};

/** Marks in what was: a number that was not there before, and one that stayed. */
const ADDED = '+';
const SAME = '';

/** Takes a line back to what it was. @param was `E/F/Z`, each as it stood, `+` where it was put in, empty where it stayed */
export function restored(line: string, was: string): string {
  const [e = SAME, f = SAME, z = SAME] = was.split('/');
  let text = line;
  for (const [letter, old] of [
    ['Z', z],
    ['E', e],
    ['F', f],
  ] as const) {
    if (old === SAME) continue;
    const token = tokenOf(text, letter);
    if (!token) continue;
    // What was put in has its letter and the space before it.
    text =
      old === ADDED
        ? text.slice(0, token.at - 2) + text.slice(token.end)
        : text.slice(0, token.at) + old + text.slice(token.end);
  }
  return text;
}

/** @returns problems for files whose numbers cannot be rewritten */
export function rewriteMoves(trace: Trace, lines: Lines, task: Task): Result<Rewritten> {
  const pass = new Pass(trace, lines, task);
  return pass.run();
}

class Pass {
  private readonly changed: number[] = [];
  private readonly texts: string[] = [];
  private readonly was: string[] = [];
  private readonly before = new Map<number, string[]>();
  private readonly sequences: Map<number, Sequence>;
  private readonly decimals: number;
  private relative = false;
  private relativeE = false;
  /** E as the file has it, and how far it is off by what was rewritten. */
  private e = 0;
  private off = 0;
  /** What rounding left over. */
  private left = 0;
  private feed = NaN;
  private feedNow = NaN;
  /** Height to which the head is lifted behind this line, mm. */
  private raised: number | null = null;

  constructor(
    private readonly trace: Trace,
    private readonly lines: Lines,
    private readonly task: Task,
  ) {
    this.sequences = sequencesIn(trace, task.sectionOf);
    this.decimals = this.usualDecimals();
  }

  private usualDecimals(): number {
    let most = 0;
    for (let n = 1; n <= Math.min(this.lines.count, LOOKED); n++) {
      const text = this.lines.raw(n);
      const token = MOVES.test(text) ? tokenOf(text, 'E') : null;
      if (token) most = Math.max(most, decimalsOf(token.text));
    }
    return Math.min(most, 9);
  }

  run(): Result<Rewritten> {
    const { moves } = this.trace;
    let at = 0;
    for (let n = 1; n <= this.lines.count; n++) {
      while (at < moves.count && moves.line[at]! < n) at++;
      const text = this.lines.raw(n);
      if (MOVES.test(text)) {
        const made = at < moves.count && moves.line[at] === n ? at : -1;
        const fault = this.move(n, text, made);
        if (fault) return fault;
        continue;
      }
      const first = text.trimStart()[0];
      if (first === undefined || first === ';') continue;
      const command = parseCommand(text);
      if (!command) continue;
      if (command.word === 'G20')
        return fail(
          problem(
            `line ${n}`,
            'The file is written in inches; its moves cannot be rewritten.',
            'Slice it in millimetres.',
          ),
        );
      this.mode(command, n);
    }
    return ok({ lines: this.changed, texts: this.texts, was: this.was, before: this.before });
  }

  private mode(command: Command, line: number): void {
    const both = this.task.firmware === 'AB';
    switch (command.word) {
      case 'G90':
        this.relative = false;
        if (both) this.relativeE = false;
        return;
      case 'G91':
        this.relative = true;
        if (both) this.relativeE = true;
        return;
      case 'M82':
        this.settle(line);
        this.relativeE = false;
        return;
      case 'M83':
        this.settle(line);
        this.relativeE = true;
        return;
      case 'G92': {
        const e = command.params.size === 0 ? 0 : param(command, 'E');
        if (e === null) return;
        this.e = e;
        this.off = 0;
      }
    }
  }

  private get stepsE(): boolean {
    return this.relativeE || (this.task.firmware === 'D' && this.relative);
  }

  /** Sets E and the speed to what the file takes them for, before a line that stays as it is. Steps need no place of E. */
  private settle(line: number, saysFeed = false): void {
    if (!this.stepsE) {
      if (Math.abs(this.off) > SAME_E) this.put(line, `G92 E${short(this.e, 5)}`);
      this.off = 0;
    }
    if (!saysFeed && Math.abs(this.feed - this.feedNow) > SAME_FEED) {
      this.put(line, `G1 F${short(this.feed, 3)}`);
      this.feedNow = this.feed;
    }
  }

  /** A height of its own, at a speed that an axis of height has; whatever follows says its own again. */
  private putHeight(line: number, z: number): void {
    const feed = Math.round(60 * this.task.liftSpeed);
    this.put(line, `G1 Z${short(z)} F${feed}`);
    this.feedNow = feed;
  }

  private put(line: number, text: string): void {
    this.before.set(line, [...(this.before.get(line) ?? []), text]);
  }

  private move(n: number, text: string, i: number): Result<never> | null {
    const { moves } = this.trace;
    const { E: eToken, F: fToken } = tokensOf(text);
    const oldE = eToken ? Number(eToken.text) : NaN;
    const fed = eToken ? (this.stepsE ? oldE : oldE - this.e) : 0;
    const sequence = i === -1 ? undefined : this.sequenceOf(i, n);
    const stroke = i !== -1 && moves.kind[i] === MOVE.extrude;
    const section = sequence
      ? sequence.section
      : stroke
        ? this.task.sectionOf(moves.z[i]!)
        : undefined;
    const set = section === undefined ? {} : (this.task.values[section] ?? {});
    const plain = section === undefined || section === -1;
    if (plain && !sequence && (stroke || fed !== 0)) this.settle(n, fToken !== null);
    if (fToken) this.feed = Number(fToken.text);
    const wantedFed = fed === 0 ? 0 : this.fedAs(fed, i, set, sequence, stroke);
    const wantedFeed = this.feedAs(i, set, sequence, stroke);
    let [now, wasE, wasF, wasZ] = [text, SAME, SAME, SAME];
    if (eToken) {
      const target = this.stepsE ? wantedFed + this.left : oldE + this.off + (wantedFed - fed);
      const same = this.stepsE ? wantedFed === fed : Math.abs(target - oldE) < SAME_E;
      if (!same) {
        const written = this.written(target, eToken.text);
        now = text.slice(0, eToken.at) + written + text.slice(eToken.end);
        if (this.stepsE) this.left = target - Number(written);
        if (now !== text) wasE = eToken.text;
      }
      // Where it stands is followed through steps too: the file may go on in places.
      this.off += wantedFed - fed;
      this.e = this.stepsE ? this.e + fed : oldE;
    }
    const lifted =
      sequence && set.lift !== undefined ? this.lift(n, i, now, sequence, set.lift) : null;
    if (lifted) {
      if (this.relative)
        return fail(
          problem(
            `line ${n}`,
            'The file moves in steps (G91); its lift cannot be rewritten.',
            'Test the lift with absolute places (G90).',
          ),
        );
      [now, wasZ] = [lifted.text, lifted.was];
    }
    if (wantedFeed === wantedFeed && (fToken || Math.abs(wantedFeed - this.feedNow) > SAME_FEED)) {
      const token = fToken && tokenOf(now, 'F');
      if (token) {
        if (Math.abs(Number(token.text) - wantedFeed) > SAME_FEED) {
          const written = rounded(wantedFeed, decimalsOf(token.text));
          if (written !== token.text) wasF = token.text;
          now = now.slice(0, token.at) + written + now.slice(token.end);
          this.feedNow = Number(written);
        } else this.feedNow = Number(token.text);
      } else {
        const written = rounded(wantedFeed, 0);
        now = appended(now, ` F${written}`);
        wasF = ADDED;
        this.feedNow = Number(written);
      }
    }
    if (now !== text) {
      const was =
        wasZ !== SAME ? `${wasE}/${wasF}/${wasZ}` : wasF !== SAME ? `${wasE}/${wasF}` : wasE;
      this.changed.push(n);
      this.texts.push(now);
      this.was.push(was);
    }
    if (this.raised !== null) this.putHeight(n + 1, this.raised);
    this.raised = null;
    return null;
  }

  /** The retraction that a line belongs to, by any of its moves. */
  private sequenceOf(i: number, line: number): Sequence | undefined {
    const { moves } = this.trace;
    for (let k = i; k < moves.count && moves.line[k] === line; k++) {
      const found = this.sequences.get(k);
      if (found) return found;
    }
    return undefined;
  }

  private fedAs(
    fed: number,
    i: number,
    set: Values,
    sequence: Sequence | undefined,
    stroke: boolean,
  ): number {
    if (stroke) return set.flow === undefined || !(fed > 0) ? fed : fed * set.flow;
    if (!sequence) return fed;
    const { retraction = sequence.drawn, restartExtra } = set;
    if (fed < 0) return set.retraction === undefined ? fed : (fed / sequence.drawn) * retraction;
    const extra = restartExtra ?? sequence.pushed - sequence.drawn;
    return set.retraction === undefined && restartExtra === undefined
      ? fed
      : (fed / sequence.pushed) * (retraction + extra);
  }

  /** mm/min. */
  private feedAs(i: number, set: Values, sequence: Sequence | undefined, stroke: boolean): number {
    if (i === -1) return this.feed;
    if (stroke) return this.feed * (set.pace ?? 1) * this.task.paceOf(i);
    const kind = this.trace.moves.kind[i];
    if (sequence && kind === MOVE.retract && set.retractSpeed !== undefined)
      return set.retractSpeed * 60;
    if (sequence && kind === MOVE.restart && set.restartSpeed !== undefined)
      return set.restartSpeed * 60;
    return this.feed;
  }

  /** A lift of its own for every retraction: up after it, down before the restart; what the file lifts itself is moved. */
  private lift(
    n: number,
    i: number,
    text: string,
    sequence: Sequence,
    lift: number,
  ): { text: string; was: string } | null {
    const { low, high, top } = sequence;
    const token = tokenOf(text, 'Z');
    const height = tidy(Math.max(low, high) + lift);
    if (token && Math.abs(Number(token.text) - top) < 1e-6 && top > Math.max(low, high) + 1e-6) {
      const written = rounded(height, Math.max(3, decimalsOf(token.text)));
      return {
        text: text.slice(0, token.at) + written + text.slice(token.end),
        was: token.text,
      };
    }
    const hops = top > Math.max(low, high) + 1e-6;
    if (!hops && lift > 0 && this.trace.moves.kind[i] === MOVE.restart && !sequence.lowered) {
      sequence.lowered = true;
      this.putHeight(n, high);
    }
    if (!hops && lift > 0 && i === sequence.lastDrawn) this.raised = height;
    return { text, was: SAME };
  }

  private written(value: number, was: string): string {
    const own = decimalsOf(was);
    return own === this.decimals ? rounded(value, own) : padded(short(value, this.decimals), own);
  }
}

const rounded = (value: number, decimals: number): string => {
  const text = value.toFixed(decimals);
  return Number(text) === 0 ? (0).toFixed(decimals) : text;
};

/** At least as many decimals as there were. */
const padded = (text: string, decimals: number): string =>
  decimalsOf(text) >= decimals ? text : Number(text).toFixed(decimals);

/** Behind the numbers of a line, before what is said of it. */
function appended(line: string, text: string): string {
  const comment = line.search(/\s*[;(]/);
  const end = comment === -1 ? line.trimEnd().length : comment;
  return line.slice(0, end) + text + line.slice(end);
}
