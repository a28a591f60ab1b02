/**
 * What is looked up before a request comes in: which data its page was made with, and whether its press was done before.
 * Headers: `x-ash-store` says the data, `x-ash-press` the name of a press.
 */

import type { IncomingHttpHeaders } from 'node:http';
import { join } from 'node:path';
import { problem, problemLine, type Problem } from '../core/result';
import { identity } from '../store/identity';
import { migrationsIn, openStore } from '../store/open';
import { pressed, type PressState } from '../store/pressed';

export const STORE_HEADER = 'x-ash-store';
export const PRESS_HEADER = 'x-ash-press';

const NAME = /^[\w.-]{8,80}$/;
/** Longest that somebody who asks waits for the end of what is under way, ms. */
const LONGEST_MS = 60_000;

const OTHER_DATA = problem(
  'store',
  'The program holds other data now than this page was made with.',
  'Load the page again; what was done here is kept aside.',
);
const TWICE = problem('press', 'This was pressed before, and is done once.', 'Look at the page.');

type Asked = {
  url?: string | undefined;
  method?: string | undefined;
  headers: IncomingHttpHeaders;
};

/** Why a request does not come in, with what it is told. */
export type Turned = { status: number; problems: Problem[] };

export class Desk {
  readonly replacing = problem(
    'import',
    'Everything is being replaced by a file that is imported.',
    'Wait a moment, then try again.',
  );
  readonly identity: () => string;
  private readonly pressed: ReturnType<typeof pressed>;
  private readonly underWay = new Map<string, Promise<void>>();

  constructor(data: string, migrations: string) {
    const opened = openStore(join(data, 'ash.sqlite'), migrationsIn(migrations));
    if (!opened.ok) throw new Error(opened.problems.map(problemLine).join(' '));
    this.identity = identity(opened.value);
    this.pressed = pressed(opened.value);
    this.pressed.afterStart(new Date());
  }

  /** Null when it may come in. */
  turned({ url = '', method, headers }: Asked): Turned | null {
    const said = headers[STORE_HEADER] ?? new URLSearchParams(url.split('?')[1]).get('store');
    if (typeof said === 'string' && said !== '' && said !== this.identity())
      return { status: 409, problems: [OTHER_DATA] };
    const name = headers[PRESS_HEADER];
    if (method !== 'POST' || typeof name !== 'string' || !NAME.test(name)) return null;
    return this.pressed.begin(name, new Date().toISOString())
      ? null
      : { status: 409, problems: [TWICE] };
  }

  /** Follows a press that came in to its end. @param status of the answer, once it is made */
  follow({ headers }: Asked, answered: Promise<unknown>, status: () => number): void {
    const name = headers[PRESS_HEADER];
    if (typeof name !== 'string' || !NAME.test(name)) return;
    // After a fault of the program nobody knows how far it came.
    const fault = () => this.pressed.end(name, 'cut');
    const end = answered.then(
      () => (status() >= 500 ? fault() : this.pressed.end(name, 'done')),
      fault,
    );
    this.underWay.set(name, end);
    void end.finally(() => this.underWay.delete(name));
  }

  /** What became of a press; waits for one that is under way. Null for what is no name. */
  async fate(name: string): Promise<PressState | null> {
    if (!NAME.test(name)) return null;
    const late = new Promise<void>((resolve) => setTimeout(resolve, LONGEST_MS).unref());
    await Promise.race([this.underWay.get(name), late]);
    return this.pressed.settle(name, new Date().toISOString());
  }
}
