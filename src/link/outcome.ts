/** How a wire ends, and what becomes of a line that was given to it. */

import type { Transport } from './transport';

export type End = {
  why:
    | 'lost'
    | 'halted'
    | 'restarted'
    /** It gave no sign of life, or never said what was asked. */
    | 'silent'
    | 'too-old'
    | 'spoilt'
    /** A machine that counts no lines left an answer out: nobody can know what it has done. */
    | 'unsure'
    | 'closed';
  /** In plain words. */
  text: string;
};

/** What became of a line: taken, with what the machine said meanwhile, or the wire has ended. */
export type Outcome = { ok: true; said: string[] } | { ok: false; end: End };

/** After which ends the machine may be there all the same, over another connection. */
export const mayBeThere = ({ why }: End): boolean => why === 'lost' || why === 'silent';

/** What a machine has that is asked over a new connection: the line that it expects next. */
export type Has =
  | { kind: 'expects'; line: number }
  /** It counts from the start again. */
  | { kind: 'restarted' }
  /** It counts nothing, so it cannot say. */
  | { kind: 'uncounted' }
  | { kind: 'unheard' };

/** The host's side of a wire. Every promise that it gives comes to its end: at the latest when the wire does. */
export interface HostWire {
  readonly over: End | null;
  /** Whether the machine counts lines; one that does not gets one line at a time. */
  readonly counts: boolean;
  /** Highest line that the machine has surely taken. */
  readonly sure: number;
  /** Lines that were given and not answered yet. */
  readonly open: number;
  /** Number that the next line gets. */
  readonly coming: number;
  /** How many lines may be given before an answer comes. */
  readonly room: number;
  /** Lines that had to be sent again. */
  readonly resends: number;
  /** When the machine was heard last, ms of performance.now(). */
  readonly heardAt: number;
  send(command: string): Promise<Outcome>;
  /** Waits until there is room for another line, or the wire has ended. */
  space(): Promise<void>;
  /** Waits until the machine has surely taken everything that was sent, or the wire has ended. */
  settle(): Promise<Outcome>;
  /** Past every line, without a number: for what cannot wait. */
  shout(command: string): void;
  /** Stops the machine at once; nothing is sent to it after that. */
  emergency(): void;
  /** Asks over another connection what the machine has; what it had not taken is forgotten. */
  reopen(transport: Transport, withinMs: number): Promise<Has>;
  /** Closes the connection and keeps the count, so that another can be opened. */
  letGo(): Promise<void>;
  close(): Promise<void>;
}
