/** What a file really does, as columns: one row a move, one row a change of a setting. */

import { CHANGES, type Change } from '../dialect/changes';
import type { Problem } from '../result';

/** Kinds of moves, kept as small numbers. */
export const MOVE = { travel: 0, extrude: 1, retract: 2, restart: 3, home: 4 } as const;

const CODE = new Map<string, number>(CHANGES.map((name, code) => [name, code]));

/** Most problems that are kept in words; the rest is counted. */
export const MOST_PROBLEMS = 200;

export type Trace = {
  lines: number;
  bytes: number;
  moves: {
    count: number;
    /** Place at the end of the move, mm, in machine coordinates. */
    x: Float64Array;
    y: Float64Array;
    z: Float64Array;
    /** Filament fed, mm; negative when drawn back. */
    e: Float32Array;
    /** Asked speed, mm/s. */
    speed: Float32Array;
    /** Line of the file, from 1. */
    line: Uint32Array;
    kind: Uint8Array;
    tool: Uint8Array;
  };
  changes: {
    count: number;
    /** Index of the first move after the change. */
    move: Uint32Array;
    line: Uint32Array;
    code: Uint8Array;
    tool: Uint8Array;
    value: Float64Array;
  };
  /** Commands that were not understood: how often, and where first. */
  unknown: Map<string, { count: number; line: number }>;
  problems: Problem[];
  /** All problems, also those that are not kept. */
  problemCount: number;
  /** Carried plan, as the comment lines held it; null for a file from elsewhere. */
  planText: string | null;
};

export const changeAt = ({ changes }: Trace, i: number) => ({
  name: CHANGES[changes.code[i]!]!,
  value: changes.value[i]!,
  line: changes.line[i]!,
  move: changes.move[i]!,
  tool: changes.tool[i]!,
});

type Columns = Record<string, Float64Array | Float32Array | Uint32Array | Uint8Array>;

/**
 * Columns that grow by half when full: doubling would hold three times the rows at the moment of growth, which
 * breaks the budget of four times the file on long files of short moves.
 */
function grown<T extends Columns>(columns: T, capacity: number): T {
  const larger: Columns = {};
  for (const [name, column] of Object.entries(columns)) {
    const fresh = new (column.constructor as new (n: number) => typeof column)(capacity);
    fresh.set(column);
    larger[name] = fresh;
  }
  return larger as T;
}

export class TraceBuilder {
  readonly unknown: Trace['unknown'] = new Map();
  readonly problems: Problem[] = [];
  problemCount = 0;
  moveCount = 0;
  changeCount = 0;
  private capacity = 1024;
  private changeCapacity = 256;
  private moves = {
    x: new Float64Array(1024),
    y: new Float64Array(1024),
    z: new Float64Array(1024),
    e: new Float32Array(1024),
    speed: new Float32Array(1024),
    line: new Uint32Array(1024),
    kind: new Uint8Array(1024),
    tool: new Uint8Array(1024),
  };
  private changes = {
    move: new Uint32Array(256),
    line: new Uint32Array(256),
    code: new Uint8Array(256),
    tool: new Uint8Array(256),
    value: new Float64Array(256),
  };

  addMove(
    x: number,
    y: number,
    z: number,
    e: number,
    speed: number,
    line: number,
    kind: number,
    tool: number,
  ): void {
    if (this.moveCount === this.capacity) {
      this.capacity += this.capacity >> 1;
      this.moves = grown(this.moves, this.capacity);
    }
    const i = this.moveCount++;
    const moves = this.moves;
    moves.x[i] = x;
    moves.y[i] = y;
    moves.z[i] = z;
    moves.e[i] = e;
    moves.speed[i] = speed;
    moves.line[i] = line;
    moves.kind[i] = kind;
    moves.tool[i] = tool;
  }

  addChange(name: Change, value: number, line: number, tool: number): void {
    if (this.changeCount === this.changeCapacity) {
      this.changeCapacity += this.changeCapacity >> 1;
      this.changes = grown(this.changes, this.changeCapacity);
    }
    const i = this.changeCount++;
    this.changes.move[i] = this.moveCount;
    this.changes.line[i] = line;
    this.changes.code[i] = CODE.get(name)!;
    this.changes.tool[i] = tool;
    this.changes.value[i] = value;
  }

  addUnknown(word: string, line: number): void {
    const seen = this.unknown.get(word);
    if (seen) seen.count++;
    else if (this.unknown.size < MOST_PROBLEMS) this.unknown.set(word, { count: 1, line });
  }

  addProblem(line: number, what: string, mend: string): void {
    this.problemCount++;
    if (this.problems.length < MOST_PROBLEMS)
      this.problems.push({ where: `line ${line}`, what, mend });
  }

  /** Forgets what came, so that a machine that runs for days can be followed in the same memory. */
  clear(): void {
    this.moveCount = this.changeCount = this.problemCount = 0;
    this.problems.length = 0;
    this.unknown.clear();
  }

  done(lines: number, bytes: number, planText: string | null): Trace {
    const cut = <T extends Columns>(columns: T, count: number): T =>
      Object.fromEntries(
        Object.entries(columns).map(([name, column]) => [name, column.subarray(0, count)]),
      ) as T;
    return {
      lines,
      bytes,
      moves: { count: this.moveCount, ...cut(this.moves, this.moveCount) },
      changes: { count: this.changeCount, ...cut(this.changes, this.changeCount) },
      unknown: this.unknown,
      problems: this.problems,
      problemCount: this.problemCount,
      planText,
    };
  }
}
